import { sameBytes, sentence } from '../base/index.ts'
import {
  hintSentences,
  type Anatomy,
  type BadCode,
  type Direction,
  type Hint,
  type Layout,
  type Message,
  type Outcome,
} from '../frames/index.ts'
import { badSentence, protocolFor, type Book, type Protocol } from '../protocols/index.ts'
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
  /** The likely intention, or the reading as received. */
  hint: string
  /** The byte of it that is wrong, counted from 0, where one bit alone is; null. */
  wrongAt: number | null
}

export interface Explanation {
  direction: Direction
  parts: Explained[]
}

/** Explains bytes in the names of a book: as the direction that understands more of them. Null: the layout has two readings. */
export function explainBytes(layout: Layout, book: Book, bytes: Uint8Array, as?: Direction): Explanation | null {
  const protocol = protocolFor(layout, book)
  if (!protocol.ok) return null
  if (as) return explainAs(book, protocol.value, bytes, as)
  const [panel, host] = (['to panel', 'to host'] as const).map((d) => explainAs(book, protocol.value, bytes, d)) as [
    Explanation,
    Explanation,
  ]
  const score = (e: Explanation) =>
    e.parts.reduce((sum, p) => sum + (p.good ? 100 : p.anatomy.pieces.some((x) => x.kind === 'unknown') ? 0 : 1), 0)
  return score(host) > score(panel) ? host : panel
}

/** As frames of one direction. */
export function explainAs(book: Book, protocol: Protocol, bytes: Uint8Array, direction: Direction): Explanation {
  const decoder = protocol.decoder(direction)
  const outcomes = together(decoder.feed(bytes, 0, 0), decoder.expire(Number.MAX_SAFE_INTEGER))
  const parts = outcomes.map((o): Explained => {
    const part = bytes.slice(o.from, o.to)
    // Of what is no frame, as much is looked into as anybody could mean.
    const looked = o.kind === 'frame' ? part : part.subarray(0, mostLooked)
    const anatomy = protocol.dissect(direction, looked)
    const seen = { from: o.from, to: o.to, bytes: part, anatomy }
    if (o.kind === 'frame') {
      const hint = spelledWords(protocol, direction, o.readings[0]!, part)
      return { ...seen, good: true, code: null, says: readingsWords(book, protocol, o.readings), hint, wrongAt: null }
    }
    const hints = protocol.hint(direction, looked, o.code)
    const flipped = hints.find(({ code }) => code === 'hint.flipped')
    return {
      ...seen,
      good: false,
      code: o.code,
      says: badSentence(o.code),
      hint: hintWords(book, protocol, hints),
      wrongAt: flipped ? Number(flipped.facts['byte']) - 1 : null,
    }
  })
  return { direction, parts }
}

/** Bytes that are no frame, so few that nothing is to be said of them beside the next such. */
const fewBytes = 3
/** So many bytes of a stretch that is no frame are looked into. */
const mostLooked = 1024
/** So many stretches that are no frame are told one by one; what follows is told together. */
const mostBad = 1000

/** Outcomes in order, those that are no frame and lie side by side taken together: many of them say no more than one. */
function together(...lists: readonly (readonly Outcome[])[]): Outcome[] {
  const out: Outcome[] = []
  let bad = 0
  for (const list of lists)
    for (const next of list) {
      const last = out.at(-1)
      const isMore =
        last?.kind === 'bad' &&
        next.kind === 'bad' &&
        last.to === next.from &&
        (bad >= mostBad || (last.code === next.code && next.to - next.from <= fewBytes))
      if (isMore) out[out.length - 1] = { ...last, to: next.to }
      else out.push(next)
      if (next.kind === 'bad' && !isMore) bad++
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

/** The likely intention behind bytes that are no frame, in words. */
const hintWords = (book: Book, protocol: Protocol, hints: readonly Hint[]): string =>
  hints
    .map(({ code: hint, facts, reads }) =>
      sentence(hintSentences[hint] ?? hint, { ...facts, ...(reads ? { reads: wordsOf(book, protocol, reads) } : {}) }),
    )
    .join(' ')
