import { sameBytes } from '../base/index.ts'
import type { Anatomy, BadCode, Direction, Layout, Message, Outcome } from '../frames/index.ts'
import { badSentence, protocolFor, type Book, type Protocol } from '../protocols/index.ts'
import { surenessWords, type Cause, type Mark } from './causes/cause.ts'
import { causesOf } from './causes/table.ts'
import { sayMessage, sentenceOf } from './message.ts'

/** One stretch of pasted bytes: a frame in words, or why it is none and what would be right. */
export interface Explained {
  from: number
  to: number
  bytes: Uint8Array
  anatomy: Anatomy
  good: boolean
  code: BadCode | null
  /** `write dome_target = 231.0°, sequence 5`, or what is wrong. */
  says: string
  /** Its likely causes, the surest first; of a good frame, why its content may not be what is meant. */
  causes: readonly Cause[]
  /** The bytes that show the first cause, or else where the frame is wrong. */
  marks: readonly Mark[]
  /** Another way in which the same would be sent. */
  note: string
}

export interface Explanation {
  direction: Direction
  parts: Explained[]
}

/** All that bytes are read by. */
export interface ReadBy {
  layout: Layout
  book: Book
  protocol: Protocol
}

/** Explains bytes in the names of a book: as the direction that understands more of them. Null: the layout has two readings. */
export function explainBytes(layout: Layout, book: Book, bytes: Uint8Array, as?: Direction, isDeep = true): Explanation | null {
  const protocol = protocolFor(layout, book)
  if (!protocol.ok) return null
  const by = { layout, book, protocol: protocol.value }
  if (as) return explainAs(by, bytes, as, isDeep)
  const [panel, host] = (['to panel', 'to host'] as const).map((d) => explainAs(by, bytes, d, isDeep)) as [
    Explanation,
    Explanation,
  ]
  const score = (e: Explanation) =>
    e.parts.reduce((sum, p) => sum + (p.good ? 100 : p.anatomy.pieces.some((x) => x.kind === 'unknown') ? 0 : 1), 0)
  return score(host) > score(panel) ? host : panel
}

/** As frames of one direction. `isDeep`: causes are searched for that take some milliseconds. */
export function explainAs(by: ReadBy, bytes: Uint8Array, direction: Direction, isDeep = true): Explanation {
  const decoder = by.protocol.decoder(direction)
  const outcomes = together([...decoder.feed(bytes, 0, 0), ...decoder.expire(Number.MAX_SAFE_INTEGER)])
  const parts: Explained[] = []
  for (let k = 0; k < outcomes.length; k++) {
    const first: Outcome = outcomes[k]!
    let last = k
    while (first.kind === 'bad' && outcomes[last + 1]?.kind === 'bad') last++
    const to = outcomes[last]!.to
    const whole = last > k && first.kind === 'bad' ? explainBad(by, bytes, direction, { ...first, to }, null, isDeep) : null
    // The pieces of a stretch may say more together than each by itself.
    if (whole?.causes.some(({ sure }) => sure !== 'possible')) {
      parts.push(whole)
      k = last
      continue
    }
    parts.push(
      first.kind === 'frame' ? explainGood(by, bytes, direction, first) : explainBad(by, bytes, direction, first, null, isDeep),
    )
  }
  return { direction, parts }
}

type Bad = Extract<Outcome, { kind: 'bad' }>
type Frame = Extract<Outcome, { kind: 'frame' }>

/** A frame in words, and what is odd in it. */
export function explainGood(by: ReadBy, bytes: Uint8Array, direction: Direction, { readings, from, to }: Frame): Explained {
  const { book, protocol } = by
  const part = bytes.slice(from, to)
  const anatomy = protocol.dissect(direction, part)
  const message = readings[0]!
  const causes = causesOf({ ...by, direction, bytes: part, anatomy, code: null, message, text: null, isDeep: false })
  return {
    from,
    to,
    bytes: part,
    anatomy,
    good: true,
    code: null,
    says: readingsWords(book, protocol, readings),
    causes,
    marks: causes[0]?.marks ?? [],
    note: spelledWords(protocol, direction, message, part),
  }
}

/** A search for a cause that takes some milliseconds is made in so short a stretch only. */
const mostDeep = 64

/** Bytes that are no frame, with what is likely behind them. */
export function explainBad(
  by: ReadBy,
  bytes: Uint8Array,
  direction: Direction,
  { code, from, to }: Pick<Bad, 'code' | 'from' | 'to'>,
  text: string | null,
  isDeep = true,
): Explained {
  const part = bytes.slice(from, to)
  // Of what is no frame, as much is looked into as anybody could mean.
  const looked = part.subarray(0, mostLooked)
  const anatomy = by.protocol.dissect(direction, looked)
  const deep = isDeep && part.length <= mostDeep
  const causes =
    part.length > mostLooked || code === 'idle'
      ? []
      : causesOf({ ...by, direction, bytes: looked, anatomy, code, message: null, text, isDeep: deep })
  const checks = code === 'check' ? anatomy.pieces.filter(({ kind }) => kind === 'checksum') : []
  const marks =
    causes[0]?.marks ?? (anatomy.wrong ? [anatomy.wrong] : checks.map(({ from: at, to: behind }) => ({ from: at, to: behind })))
  return { from, to, bytes: part, anatomy, good: false, code, says: badSentence(code), causes, marks, note: '' }
}

/** The first cause of a part in a sentence, with how sure that is. */
export function causeWords({ causes, note }: Pick<Explained, 'causes' | 'note'>): string {
  const [cause] = causes
  return cause ? `${cause.says} (${surenessWords[cause.sure]})` : note
}

/** Bytes that are no frame, so few that nothing is to be said of them beside the next such. */
const fewBytes = 3
/** So many bytes of a stretch that is no frame are looked into. */
const mostLooked = 1024
/** So many stretches that are no frame are told one by one; what follows is told together. */
const mostBad = 1000

type Piece = Pick<Outcome, 'from' | 'to'> & { kind?: Outcome['kind']; code?: BadCode }

/** Pieces in order, those that are no frame and lie side by side taken together: many of them say no more than one. */
export function together<P extends Piece>(pieces: readonly P[]): P[] {
  const out: P[] = []
  let bad = 0
  for (const next of pieces) {
    const last = out.at(-1)
    const isMore =
      last?.code !== undefined &&
      next.code !== undefined &&
      last.to === next.from &&
      (bad >= mostBad || (last.code === next.code && next.to - next.from <= fewBytes))
    if (isMore) out[out.length - 1] = { ...last, to: next.to }
    else out.push(next)
    if (next.code !== undefined && !isMore) bad++
  }
  return out
}

const wordsOf = (book: Book, protocol: Protocol, message: Message): string =>
  sentenceOf(sayMessage(book, message)) + (protocol.lastSequence ? `, sequence ${message.sequence}` : '')

/** How a line would have been spelled, where it is heard but not sent so. */
function spelledWords(protocol: Protocol, direction: Direction, message: Message, bytes: Uint8Array): string {
  if (!protocol.isText[direction]) return ''
  const own = protocol.encode(direction, message)
  if (!own.ok || sameBytes(own.value, bytes)) return ''
  return `Another spelling; sent as ${asCharacters(own.value)}.`
}

/** The characters of a line, its control characters left out. */
const asCharacters = (bytes: Uint8Array): string =>
  String.fromCharCode(...bytes.filter((byte) => byte >= 0x20 && byte < 0xff && byte !== 0x7f))

/** A frame that may mean two things is said both ways. */
const readingsWords = (book: Book, protocol: Protocol, readings: readonly Message[]): string =>
  readings.map((message) => wordsOf(book, protocol, message)).join(', or ')
