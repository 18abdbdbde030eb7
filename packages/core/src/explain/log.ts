import { fromHex, sameBytes } from '../base/index.ts'
import {
  operationTexts,
  operations,
  type BadCode,
  type Direction,
  type Layout,
  type Message,
  type Operation,
} from '../frames/index.ts'
import { badSentence, protocolFor, type Book } from '../protocols/index.ts'
import { systemWords } from '../variables/index.ts'
import { explainBad, explainGood, together, type Explained, type ReadBy } from './bytes.ts'
import { causeOf } from './causes/cause.ts'
import { Column } from './columns.ts'
import { bytesOfLine, charactersOfLine, plainBytesOfLine, type LogLine } from './log-lines.ts'
import { both, Stream, type Found } from './log-stream.ts'
import { sayMessage } from './message.ts'

/** One stretch of a pasted log: a frame in words, or bytes that are none. */
export interface LogPart extends Explained {
  direction: Direction
  /** Number of the line it begins on, from 1. */
  line: number
  /** Its place among all stretches, from 0. */
  row: number
  /** Its time stamp, ms since midnight or since the log began; null: its line has none. */
  timeMs: number | null
  /** Facts about it besides its bytes: `8 ms after line 1`. */
  beside: string
}

/** The stretches that are looked at. */
export interface LogFilter {
  direction: Direction | null
  /** Only what is wrong or odd. */
  isWrong: boolean
  /** Words of name and operation, or bytes in hex. */
  text: string
}

/** Facts of a stretch that are known without its bytes. */
export interface RowFacts {
  direction: Direction
  operation: Operation | null
  line: number
  /** ms since midnight or since the log began; null: its line has no time. */
  timeMs: number | null
  isBad: boolean
  /** The panel says it of its own accord: a report or an event, but none of its own words. */
  isSpoken: boolean
  /** The same for a frame and its repeats. */
  key: string
}

/** A longer log is not taken in, characters. */
export const mostLogCharacters = 64_000_000

/** A step of reading: so many lines. */
const linesAStep = 2_000
/** A frame that has begun may go on for so many lines of others. */
const mostWaiting = 2_000
/** So many stretches that are no frame are looked into one by one; what follows is told by its fault. */
const mostLookedInto = 1_000
/** So many causes that take some milliseconds are looked for in one look. */
const mostDeepAtOnce = 4
/** Faults of bytes that belong together no more than their lines do. */
const betweenLines: ReadonlySet<BadCode> = new Set(['stray', 'unfinished', 'long', 'short', 'aborted'])
/** Of so many pieces that are no bytes the places are told. */
const mostWrong = 20

const other = (direction: Direction): Direction => (direction === 'to panel' ? 'to host' : 'to panel')

/** A stretch before it has its place among those of the other streams. */
interface Stretch {
  stream: number
  from: number
  to: number
  direction: Direction
  code: BadCode | null
  message: Message | null
  number: number
  isOdd: boolean
}

/**
 * A pasted log in the names of a build. Its lines are read once, and of each stretch is kept where it stands: words, parts and causes
 * are made of those that are looked at. Time stamps, marks, `0x` and commas are passed over; lines with a mark (`TX`, `RX`) are streams of
 * their own, and each frame is read in the direction in which it is one.
 */
export class LogIndex {
  good = 0
  bad = 0
  /** Lines in which no bytes were found, though something stood there. */
  passedOver = 0
  /** Characters between bytes that are no bytes. */
  readonly wrong: { line: number; token: string }[] = []
  /** Lines that were read. */
  lines = 0

  private text = ''
  private lineStarts = new Column(Uint32Array)
  private streams: Stream[] = []
  private byMark = new Map<string, number>()
  private waiting: Stretch[] = []
  private open = new Map<number, { line: number; timeMs: number }>()
  private asked = new Map<number, Direction>()
  private lookedInto = 0
  private codes: (BadCode | null)[] = [null]
  private codeNumbers = new Map<BadCode | null, number>([[null, 0]])

  private stream = new Column(Uint8Array)
  private from = new Column(Uint32Array)
  private to = new Column(Uint32Array)
  private line = new Column(Uint32Array)
  /** Bit 0: to the host; bit 1: odd. */
  private flags = new Column(Uint8Array)
  private code = new Column(Uint8Array)
  private operation = new Column(Uint8Array)
  private address = new Column(Int32Array)
  private answers = new Column(Uint32Array)
  private delays = new Column(Float64Array)
  private labels = new Map<string, string>()

  private constructor(
    private by: ReadBy,
    private as: Direction | null,
  ) {}

  /** Null: the layout cannot be used. */
  static of(layout: Layout, book: Book, as: Direction | null = null): LogIndex | null {
    const protocol = protocolFor(layout, book)
    return protocol.ok ? new LogIndex({ layout, book, protocol: protocol.value }, as) : null
  }

  /** Stretches so far. */
  get count(): number {
    return this.from.length
  }

  /** Reads a log in steps, each a few milliseconds; gives how far it is, from 0 to 1. */
  *read(text: string): Generator<number> {
    this.text = text
    let at = 0
    while (at < text.length) {
      for (let k = 0; k < linesAStep && at < text.length; k++) {
        const end = text.indexOf('\n', at)
        const to = end < 0 ? text.length : end
        this.take(text.slice(at, to > at && text.charCodeAt(to - 1) === 13 ? to - 1 : to), at)
        at = to + 1
      }
      this.settle(at >= text.length)
      yield Math.min(1, at / text.length)
    }
  }

  /** A log that is short enough to be read at once. */
  readAll(text: string): this {
    const steps = this.read(text)
    while (!steps.next().done);
    return this
  }

  private take(source: string, at: number): void {
    this.lineStarts.push(at)
    this.lines++
    const line = this.lineOf(source)
    for (const token of line.wrong) if (this.wrong.length < mostWrong) this.wrong.push({ line: this.lines, token })
    if (!line.bytes.length) {
      if (source.trim()) this.passedOver++
      return
    }
    let k = this.byMark.get(line.mark)
    if (k === undefined) {
      // Marks beyond any number that a log has are one stream.
      k = this.streams.length < 250 ? this.streams.push(new Stream(line.mark, this.by)) - 1 : 0
      this.byMark.set(line.mark, k)
    }
    const stream = this.streams[k]!
    stream.add(line, this.lines)
    if (this.isSilent) stream.feed(true)
  }

  /** Where a silence ends frames, each line is a burst. */
  private get isSilent(): boolean {
    const { silenceUs } = this.by.protocol
    return silenceUs['to panel'] > 0 || silenceUs['to host'] > 0
  }

  /** The bytes of a line of a log; where frames are lines, its characters, unless it is hex and nothing else. */
  private lineOf(source: string): LogLine {
    const { protocol } = this.by
    const inText = this.as ?? (protocol.isText['to panel'] ? 'to panel' : 'to host')
    if (!protocol.isText[inText]) return plainBytesOfLine(source) ?? this.hexOrDecimals(source)
    const { text, mark, timeMs } = charactersOfLine(source)
    const way = this.as ?? this.textWay(mark)
    const bytes = text ? protocol.typed(way, text) : null
    return bytes?.ok ? { bytes: Array.from(bytes.value), mark, timeMs, wrong: [] } : bytesOfLine(source)
  }

  /** The direction whose start and end are put to a line of characters. */
  private textWay(mark: string): Direction {
    const { isText } = this.by.protocol
    const stream = this.byMark.get(mark)
    const mostly = stream === undefined ? null : this.streams[stream]!.mostly
    return mostly && isText[mostly] ? mostly : isText['to panel'] ? 'to panel' : 'to host'
  }

  /** A line whose numbers are no hex is still looked at: they may be decimals. */
  private hexOrDecimals(source: string): LogLine {
    const line = bytesOfLine(source)
    if (line.bytes.length && !/(?:^|\s)\d{3}(?:\s|,|$)/.test(source)) return line
    const { text, mark, timeMs } = charactersOfLine(source)
    const numbers = /^(?:\d{1,3}[\s,;]+){3,}\d{1,3}\s*[,;]?\s*$/.test(text) ? text.match(/\d+/g)!.map(Number) : []
    const isList = numbers.length > 3 && numbers.every((n) => n <= 255)
    // As they would be in hex: what they are is told as their cause.
    return isList ? { bytes: numbers.map((n) => parseInt(String(n).slice(-2), 16)), mark, timeMs, wrong: [] } : line
  }

  /** Takes what is sure of every stream, and gives what is complete its place. */
  private settle(isLast: boolean): void {
    for (const stream of this.streams) {
      const behind = stream.committed < stream.bytes.length ? this.lines - stream.numberAt(stream.committed) : 0
      stream.feed(isLast || behind > mostWaiting)
    }
    for (const [k, stream] of this.streams.entries()) this.commit(stream, k, isLast)
    let safe = Infinity
    if (!isLast)
      for (const stream of this.streams)
        if (stream.committed < stream.bytes.length) safe = Math.min(safe, stream.numberAt(stream.committed))
    const ready = this.waiting.filter(({ number }) => number < safe)
    this.waiting = this.waiting.filter(({ number }) => number >= safe)
    ready.sort((a, b) => a.number - b.number || a.from - b.from)
    for (const stretch of ready) this.place(stretch)
  }

  /** The direction of a stream: as it is told, as most of its frames, or against a stream that has one. */
  private wayOf(stream: Stream): Direction | null {
    if (this.as) return this.as
    if (stream.mostly || !stream.mark) return stream.mark ? stream.mostly : null
    const known = this.streams.filter(({ mark }) => mark).map(({ mostly }) => mostly)
    const against = known.length === 2 ? known.find((one) => one !== null) : undefined
    return against ? other(against) : null
  }

  private commit(stream: Stream, k: number, isLast: boolean): void {
    const { frames, ends } = stream
    const horizon = isLast ? stream.bytes.length : Math.min(ends['to panel'], ends['to host'])
    const at = { 'to panel': 0, 'to host': 0 }
    for (;;) {
      const next: Partial<Record<Direction, Found>> = {}
      for (const direction of both) {
        const list = frames[direction]
        while (list[at[direction]] && list[at[direction]]!.from < stream.committed) at[direction]++
        const found = list[at[direction]]
        if (found && found.to <= horizon && (!this.as || this.as === direction)) next[direction] = found
      }
      const [panel, host] = [next['to panel'], next['to host']]
      const first =
        !panel || !host
          ? (panel ?? host)
          : panel.from === host.from
            ? this.chosen(stream, panel, host)
            : panel.from < host.from
              ? panel
              : host
      if (!first) break
      if (!(panel && host && panel.from === host.from)) stream.only[first.direction]++
      this.takeBad(stream, k, stream.committed, first.from)
      this.waiting.push(this.frameOf(stream, k, first))
      stream.committed = first.to
    }
    for (const direction of both) frames[direction].splice(0, at[direction])
    // Bytes behind the last frame stay open while more may come; what is far behind is settled.
    const settled = isLast
      ? stream.bytes.length
      : Math.min(horizon, ...both.flatMap((d) => (frames[d][0] ? [frames[d][0].from] : [])))
    if (settled > stream.committed) {
      this.takeBad(stream, k, stream.committed, settled)
      stream.committed = settled
    }
    for (const direction of both) {
      const kept = stream.bad[direction].findIndex(({ to }) => to > stream.committed)
      stream.bad[direction].splice(0, kept < 0 ? stream.bad[direction].length : kept)
    }
  }

  private frameOf(stream: Stream, k: number, { from, to, direction, message }: Found): Stretch {
    if (!isAnswer(message)) this.asked.set(message.sequence, direction)
    const way = stream.mark ? this.wayOf(stream) : null
    const isEcho = way !== null && way !== direction && this.echoOf(stream, from, to) !== null
    return { stream: k, from, to, direction, code: null, message, number: stream.numberAt(from), isOdd: isEcho }
  }

  /** Of one frame that is one in both directions the reading that fits: its stream, what it answers, what the book knows. */
  private chosen(stream: Stream, panel: Found, host: Found): Found {
    const sure = this.wayOf(stream)
    const fit = ({ direction, message }: Found): number => {
      const against = isAnswer(message) ? this.asked.get(message.sequence) : undefined
      const said = sayMessage(this.by.book, message)
      const known = (said.inRange ? 1 : 0) + (/^0x|^widget \d/.test(said.name) ? 0 : 2)
      return (direction === sure ? 8 : 0) + (against && against !== direction ? 4 : 0) + known
    }
    return fit(host) > fit(panel) ? host : panel
  }

  /** The line on which another stream has the same bytes shortly before; null: none has. */
  private echoOf(stream: Stream, from: number, to: number): number | null {
    const bytes = stream.bytes.part(from, to)
    const number = stream.numberAt(from)
    for (const one of this.streams) {
      if (one === stream || !one.mark) continue
      const last = one.numbers.upTo(number) - 1
      for (let k = last; k >= Math.max(0, last - 4); k--) {
        const begin = one.starts.at(k)
        if (sameBytes(one.bytes.part(begin, Math.min(one.bytes.length, begin + bytes.length)), bytes)) return one.numbers.at(k)
      }
    }
    return null
  }

  /** Bytes between frames, as the direction that understands more of them has them in pieces. */
  private takeBad(stream: Stream, k: number, from: number, to: number): void {
    if (from >= to) return
    const direction = this.badWay(stream, from, to)
    const clipped = stream.bad[direction]
      .filter((one) => one.to > from && one.from < to)
      .map((one) => ({ ...one, from: Math.max(from, one.from), to: Math.min(to, one.to) }))
    const pieces: { from: number; to: number; code: BadCode }[] = []
    let at = from
    for (const piece of clipped) {
      if (piece.from > at) pieces.push({ from: at, to: piece.from, code: 'stray' })
      pieces.push(piece)
      at = piece.to
    }
    if (at < to) pieces.push({ from: at, to, code: 'stray' })
    for (const piece of pieces.splice(0)) pieces.push(...this.byLines(stream, piece))
    const isMany = this.lookedInto > mostLookedInto
    const told = isMany ? [{ ...pieces[0]!, to }] : this.oneThingByLine(stream, direction, together(pieces))
    for (const row of told) {
      this.lookedInto++
      this.waiting.push({ stream: k, direction, message: null, number: stream.numberAt(row.from), isOdd: true, ...row })
    }
  }

  /** Bytes between frames line by line: whoever wrote the log saw something in each. */
  private byLines(
    stream: Stream,
    piece: { from: number; to: number; code: BadCode },
  ): { from: number; to: number; code: BadCode }[] {
    if (!betweenLines.has(piece.code) || this.lookedInto > mostLookedInto) return [piece]
    const out: { from: number; to: number; code: BadCode }[] = []
    let from = piece.from
    for (let k = stream.lineAt(from) + 1; k < stream.starts.length && stream.starts.at(k) < piece.to; k++) {
      out.push({ ...piece, from, to: stream.starts.at(k) })
      from = stream.starts.at(k)
    }
    return [...out, { ...piece, from }]
  }

  /** Pieces of each line, taken together where they say more so. */
  private oneThingByLine<P extends { from: number; to: number; code: BadCode }>(
    stream: Stream,
    direction: Direction,
    pieces: P[],
  ): P[] {
    const out: P[] = []
    for (let k = 0; k < pieces.length;) {
      let behind = k + 1
      while (behind < pieces.length && stream.lineAt(pieces[behind]!.from) === stream.lineAt(pieces[k]!.from)) behind++
      const own = pieces.slice(k, behind)
      const isOne = own.length > 1 && this.lookedInto <= mostLookedInto && this.isOneThing(stream, direction, own)
      out.push(...(isOne ? [{ ...own[0]!, to: own.at(-1)!.to }] : own))
      k = behind
    }
    return out
  }

  /** Whether pieces of one line say more together than each by itself. */
  private isOneThing(
    stream: Stream,
    direction: Direction,
    pieces: readonly { from: number; to: number; code: BadCode }[],
  ): boolean {
    const [from, to] = [pieces[0]!.from, pieces.at(-1)!.to]
    if (to - from > 300 || stream.lineAt(from) !== stream.lineAt(to - 1)) return false
    const bytes = stream.bytes.part(from, to).slice()
    const whole = explainBad(
      this.by,
      bytes,
      direction,
      { code: pieces[0]!.code, from: 0, to: bytes.length },
      this.sourceOf(stream, from),
      true,
    )
    return whole.causes.some(({ sure }) => sure !== 'possible')
  }

  private badWay(stream: Stream, from: number, to: number): Direction {
    const sure = this.as ?? this.wayOf(stream)
    if (sure) return sure
    if (this.lookedInto > mostLookedInto) return 'to panel'
    const bytes = stream.bytes.part(from, Math.min(to, from + 300)).slice()
    const known = (direction: Direction) => {
      const anatomy = this.by.protocol.dissect(direction, bytes)
      return anatomy.pieces.filter(({ kind }) => kind !== 'unknown').length
    }
    return known('to host') > known('to panel') ? 'to host' : 'to panel'
  }

  private sourceOf(stream: Stream, byte: number): string {
    return this.lineText(stream.numberAt(byte))
  }

  /** A line of the log as it stands there; `number` counts from 1. */
  lineText(number: number): string {
    const from = this.lineStarts.at(number - 1)
    const to = number < this.lineStarts.length ? this.lineStarts.at(number) - 1 : this.text.length
    return this.text.slice(from, Math.min(to, from + 2_000)).replace(/\r$/, '')
  }

  private place({ stream, from, to, direction, code, message, number, isOdd }: Stretch): void {
    this.stream.push(stream)
    this.from.push(from)
    this.to.push(to)
    this.line.push(number)
    this.flags.push((direction === 'to host' ? 1 : 0) | (isOdd ? 2 : 0))
    this.code.push(this.codeNumber(code))
    this.operation.push(message ? operations.indexOf(message.operation) : 255)
    this.address.push(message?.address ?? -1)
    if (message) this.good++
    else this.bad++
    this.pair(message, direction, number, this.streams[stream]!.times.at(this.streams[stream]!.lineAt(from)))
  }

  private codeNumber(code: BadCode | null): number {
    const known = this.codeNumbers.get(code)
    if (known !== undefined) return known
    const next = this.codes.length < 255 ? this.codes.push(code) - 1 : 254
    this.codeNumbers.set(code, next)
    return next
  }

  /** The request that an answer is of, and the delay where the log has times. */
  private pair(message: Message | null, direction: Direction, line: number, timeMs: number): void {
    const key = (way: Direction) => ((message!.address + 2) * 0x1_0000 + message!.sequence) * 2 + (way === 'to host' ? 1 : 0)
    const asked = message && isAnswer(message) ? this.open.get(key(other(direction))) : undefined
    this.answers.push(asked?.line ?? 0)
    this.delays.push(asked ? timeMs - asked.timeMs : NaN)
    if (!message) return
    if (!isAnswer(message)) this.open.set(key(direction), { line, timeMs })
    else if (asked) this.open.delete(key(other(direction)))
  }

  /** Some rows in words. Causes that take some milliseconds to look for are looked for in the first few. */
  rows(from: number, count: number, rowAt = (k: number): number => k): LogPart[] {
    const out: LogPart[] = []
    let deep = mostDeepAtOnce
    for (let k = from; k < from + count; k++) {
      const row = rowAt(k)
      if (row >= this.count) break
      out.push(this.row(row, this.code.at(row) > 0 && deep-- > 0))
    }
    return out
  }

  row(k: number, isDeep = true): LogPart {
    const stream = this.streams[this.stream.at(k)]!
    const [from, to] = [this.from.at(k), this.to.at(k)]
    const direction = this.flags.at(k) & 1 ? 'to host' : 'to panel'
    const bytes = stream.bytes.part(from, to).slice()
    const code = this.codes[this.code.at(k)] ?? null
    const at = { from: 0, to: bytes.length }
    const time = stream.times.at(stream.lineAt(from))
    const explained =
      code === null
        ? this.goodRow(stream, bytes, direction, from, to)
        : explainBad(this.by, bytes, direction, { code, ...at }, this.sourceOf(stream, from), isDeep)
    const asked = this.answers.at(k)
    const delay = this.delays.at(k)
    const beside = !asked
      ? ''
      : Number.isNaN(delay)
        ? `answers line ${asked}`
        : `${Math.round(delay * 10) / 10} ms after line ${asked}`
    return { ...explained, from, to, direction, line: this.line.at(k), row: k, timeMs: Number.isNaN(time) ? null : time, beside }
  }

  private goodRow(stream: Stream, bytes: Uint8Array, direction: Direction, from: number, to: number): Explained {
    const { readings } = this.by.protocol.dissect(direction, bytes)
    const explained = explainGood(this.by, bytes, direction, { kind: 'frame', readings, from: 0, to: bytes.length })
    const way = stream.mark ? this.wayOf(stream) : null
    const line = way !== null && way !== direction ? this.echoOf(stream, from, to) : null
    if (line === null) return explained
    const echo = causeOf('echo', bytes.length >= 4 ? 'certain' : 'likely', { line }, [{ from: 0, to: bytes.length }])
    return { ...explained, causes: [echo, ...explained.causes], marks: echo.marks }
  }

  /** Facts of a row that are known without its bytes. */
  factsAt(k: number): RowFacts {
    const operation = operations[this.operation.at(k)] ?? null
    const direction = this.flags.at(k) & 1 ? 'to host' : 'to panel'
    const stream = this.streams[this.stream.at(k)]!
    const time = stream.times.at(stream.lineAt(this.from.at(k)))
    const address = this.address.at(k)
    const own = address - this.by.book.ownFrom
    const isOwn = own >= 0 && own < systemWords()
    const isSpoken =
      operation === 'event' || (operation === 'message' && direction === 'to host') || (operation === 'report' && !isOwn)
    return {
      direction,
      operation,
      line: this.line.at(k),
      timeMs: Number.isNaN(time) ? null : time,
      isBad: this.code.at(k) > 0,
      isSpoken,
      key: `${operation} ${address} ${this.to.at(k) - this.from.at(k)}`,
    }
  }

  /** The bytes of a row. */
  bytesAt(k: number): Uint8Array {
    return this.streams[this.stream.at(k)]!.bytes.part(this.from.at(k), this.to.at(k)).slice()
  }

  /** The message of a stretch; null: it is no frame. */
  messageAt(k: number): Message | null {
    if (this.code.at(k) > 0) return null
    const stream = this.streams[this.stream.at(k)]!
    const bytes = stream.bytes.part(this.from.at(k), this.to.at(k)).slice()
    return this.by.protocol.dissect(this.flags.at(k) & 1 ? 'to host' : 'to panel', bytes).readings[0] ?? null
  }

  /** Whether a stretch passes a filter, by its row. */
  passing({ direction, isWrong, text }: LogFilter): (row: number) => boolean {
    const hex = /^\s*(0x)?[0-9a-f]{2}([\s,]+(0x)?[0-9a-f]{2})*\s*$/i.test(text) ? fromHex(text) : null
    const bytes = hex?.ok ? hex.value : null
    const words = text.toLowerCase().split(/\s+/).filter(Boolean)
    return (row) => {
      const flags = this.flags.at(row)
      if (direction && (direction === 'to host') !== ((flags & 1) === 1)) return false
      if (isWrong && !(flags & 2)) return false
      return !words.length || this.label(row, words) || (bytes !== null && this.hasBytes(row, bytes))
    }
  }

  /** Whether a stretch is no frame, or an odd one. */
  isWrong(row: number): boolean {
    return (this.flags.at(row) & 2) !== 0
  }

  private label(k: number, words: readonly string[]): boolean {
    const [operation, address, code] = [this.operation.at(k), this.address.at(k), this.code.at(k)]
    const key = `${operation} ${address} ${code}`
    let label = this.labels.get(key)
    if (label === undefined) {
      const message = code ? null : this.messageAt(k)
      label = (
        message
          ? `${operationTexts[message.operation]} ${sayMessage(this.by.book, message).name}`
          : badSentence(this.codes[code] ?? 'stray')
      ).toLowerCase()
      this.labels.set(key, label)
    }
    return words.every((word) => label.includes(word))
  }

  private hasBytes(k: number, wanted: Uint8Array): boolean {
    const bytes = this.streams[this.stream.at(k)]!.bytes.part(this.from.at(k), this.to.at(k))
    for (let at = 0; at + wanted.length <= bytes.length; at++) if (wanted.every((byte, i) => bytes[at + i] === byte)) return true
    return false
  }
}

const isAnswer = ({ operation }: Message): boolean => operation === 'done' || operation === 'refused' || operation === 'value'
