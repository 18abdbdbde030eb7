import type { Direction, Layout, Message } from '../frames/index.ts'
import { protocolFor, type Book, type Protocol } from '../protocols/index.ts'
import { bytesOfLine, charactersOfLine, type LogLine } from './log-lines.ts'
import { explainAs, type Explained } from './bytes.ts'
import { sayMessage } from './message.ts'

/** One stretch of a pasted log: a frame in words, or bytes that are none. */
export interface LogPart extends Explained {
  direction: Direction
  /** Number of the line it begins on, from 1. */
  line: number
  /** Facts about it besides its bytes: `8 ms after line 1`. */
  beside: string
}

export interface ExplainedLog {
  parts: LogPart[]
  good: number
  bad: number
  /** Lines in which no bytes were found, though something stood there. */
  passedOver: number
  /** Characters between bytes that are no bytes. */
  wrong: { line: number; token: string }[]
  /** Lines beyond the most that are looked at. */
  left: number
}

/** A log is explained up to so many lines. */
export const mostLogLines = 5_000

interface Place {
  line: LogLine
  number: number
}

/**
 * Explains a pasted log in the names of a book: time stamps, marks, `0x` and commas are passed over, and each frame is read in
 * the direction in which it is one. Lines with a mark (`TX`, `RX`) are streams of their own. Null: the layout cannot be used.
 */
export function explainLog(layout: Layout, book: Book, text: string, as?: Direction): ExplainedLog | null {
  const made = protocolFor(layout, book)
  if (!made.ok) return null
  const all = text.split(/\r?\n/)
  const streams = new Map<string, { bytes: number[]; places: Place[] }>()
  let passedOver = 0
  const wrong: ExplainedLog['wrong'] = []
  all.slice(0, mostLogLines).forEach((source, i) => {
    const line = lineOf(made.value, source, as)
    for (const token of line.wrong) wrong.push({ line: i + 1, token })
    if (!line.bytes.length) return void (passedOver += source.trim() ? 1 : 0)
    const stream = streams.get(line.mark) ?? { bytes: [], places: [] }
    streams.set(line.mark, stream)
    for (const byte of line.bytes) {
      stream.bytes.push(byte)
      stream.places.push({ line, number: i + 1 })
    }
  })
  const read = [...streams].map(([mark, { bytes, places }]) => ({
    mark,
    places,
    ...readBothWays(book, made.value, Uint8Array.from(bytes)),
  }))
  // Of two marked streams that go opposite ways, one may have nothing but frames that go either way.
  const known = read.filter((r) => r.mark).map((r) => r.mostly)
  const parts = read.flatMap((r) => {
    const sure = r.mostly ?? (r.mark && known.length === 2 ? known.filter((d) => d !== null).map(otherWay)[0] : null) ?? null
    return stretches(book, made.value, r, as ?? null, r.mark ? sure : null).map((part) => ({ part, place: r.places[part.from]! }))
  })
  parts.sort((a, b) => a.place.number - b.place.number || a.part.from - b.part.from)
  const answers = new Answers()
  return {
    parts: parts.map(({ part, place }) => ({ ...part, line: place.number, beside: answers.beside(part, place) })),
    good: parts.filter(({ part }) => part.good).length,
    bad: parts.filter(({ part }) => !part.good).length,
    passedOver,
    wrong,
    left: Math.max(0, all.length - mostLogLines),
  }
}

/** The bytes of a line of a log; where frames are lines, its characters, unless it is hex and nothing else. */
function lineOf(protocol: Protocol, source: string, as: Direction | undefined): LogLine {
  const inText = as ?? (protocol.isText['to panel'] ? 'to panel' : 'to host')
  if (!protocol.isText[inText]) return bytesOfLine(source)
  const { text, mark, timeMs } = charactersOfLine(source)
  const bytes = text ? protocol.typed(inText, text) : null
  return bytes?.ok ? { bytes: Array.from(bytes.value), mark, timeMs, wrong: [] } : bytesOfLine(source)
}

type Stretch = Explained & { direction: Direction }

interface BothWays {
  bytes: Uint8Array
  ways: Record<Direction, Stretch[]>
  /** The direction of most frames that go one way only; null where there is none. */
  mostly: Direction | null
}

function readBothWays(book: Book, protocol: Protocol, bytes: Uint8Array): BothWays {
  const read = (direction: Direction): Stretch[] =>
    explainAs(book, protocol, bytes, direction).parts.map((part) => ({ ...part, direction }))
  const ways = { 'to panel': read('to panel'), 'to host': read('to host') }
  const goodAt = (direction: Direction) => new Set(ways[direction].filter((p) => p.good).map((p) => p.from))
  const [panel, host] = [goodAt('to panel'), goodAt('to host')]
  const only = (one: Set<number>, other: Set<number>) => [...one].filter((at) => !other.has(at)).length
  const lead = only(panel, host) - only(host, panel)
  return { bytes, ways, mostly: lead > 0 ? 'to panel' : lead < 0 ? 'to host' : null }
}

/**
 * Bytes as stretches, each read in the direction in which it is a frame. What is one in both goes the way of its stream, where
 * that is known; an answer goes against what it answers; else it goes the way that fits the book better.
 */
function stretches(book: Book, protocol: Protocol, read: BothWays, as: Direction | null, sure: Direction | null): Stretch[] {
  if (as) return read.ways[as]
  const { bytes, ways } = read
  const asked = new Map<number, Direction>()
  const fit = (part: Stretch): number => {
    const [message] = part.anatomy.readings
    const against = message && isAnswer(message) ? asked.get(message.sequence) : undefined
    return (part.direction === sure ? 8 : 0) + (against && against !== part.direction ? 4 : 0) + likely(book, part)
  }
  const byPlace = new Map<number, Stretch[]>()
  for (const part of [...ways['to panel'], ...ways['to host']])
    if (part.good) byPlace.set(part.from, [...(byPlace.get(part.from) ?? []), part])
  const out: Stretch[] = []
  let at = 0
  for (const from of [...byPlace.keys()].sort((a, b) => a - b)) {
    if (from < at) continue
    if (from > at) for (const part of between(book, protocol, bytes, at, from)) out.push(part)
    const chosen = byPlace.get(from)!.reduce((best, next) => (fit(next) > fit(best) ? next : best))
    const [message] = chosen.anatomy.readings
    if (message && !isAnswer(message)) asked.set(message.sequence, chosen.direction)
    out.push(chosen)
    at = chosen.to
  }
  if (at < bytes.length) for (const part of between(book, protocol, bytes, at, bytes.length)) out.push(part)
  return out
}

/** How well a frame fits: what it names is known, and its value is one that it may have. */
function likely(book: Book, part: Stretch): number {
  const [message] = part.anatomy.readings
  if (!message) return 0
  const said = sayMessage(book, message)
  return (said.inRange ? 1 : 0) + (/^0x|^widget \d/.test(said.name) ? 0 : 2)
}

/** Bytes in which neither direction has a frame, read as the one that understands more of them. */
function between(book: Book, protocol: Protocol, bytes: Uint8Array, from: number, to: number): Stretch[] {
  const [panel, host] = (['to panel', 'to host'] as const).map((direction) =>
    explainAs(book, protocol, bytes.slice(from, to), direction).parts.map((part) => ({
      ...part,
      direction,
      from: part.from + from,
      to: part.to + from,
    })),
  ) as [Stretch[], Stretch[]]
  const known = (parts: Stretch[]) => parts.filter((p) => !p.anatomy.pieces.some((x) => x.kind === 'unknown')).length
  return known(host) > known(panel) ? host : panel
}

const isAnswer = ({ operation }: Message): boolean => operation === 'done' || operation === 'refused' || operation === 'value'

const otherWay = (direction: Direction): Direction => (direction === 'to panel' ? 'to host' : 'to panel')

/** Pairs of requests and answers, as the frames of a log are read in order. */
class Answers {
  private open = new Map<string, Place>()

  /** The request of an answer, and the delay where the log has times: `8 ms after line 1`. */
  beside({ direction, anatomy }: Stretch, place: Place): string {
    const [message] = anatomy.readings
    if (!message) return ''
    const key = (way: Direction) => `${way} ${message.sequence} ${message.address}`
    if (!isAnswer(message)) return (this.open.set(key(direction), place), '')
    const asked = this.open.get(key(otherWay(direction)))
    if (!asked) return ''
    this.open.delete(key(otherWay(direction)))
    const [began, ended] = [asked.line.timeMs, place.line.timeMs]
    return began === null || ended === null
      ? `answers line ${asked.number}`
      : `${Math.round((ended - began) * 10) / 10} ms after line ${asked.number}`
  }
}
