import type { BadCode, Decoder, Direction, Message } from '../frames/index.ts'
import type { ReadBy } from './bytes.ts'
import { Column } from './columns.ts'
import type { LogLine } from './log-lines.ts'

export const both = ['to panel', 'to host'] as const

/** A frame that one of the two decoders has found. */
export interface Found {
  from: number
  to: number
  direction: Direction
  message: Message
}

/** The bytes of one mark, and how far they are understood. */
export class Stream {
  readonly bytes = new Column(Uint8Array)
  /** The first byte of each of its lines, the number of the line, and its time (NaN: none). */
  readonly starts = new Column(Uint32Array)
  readonly numbers = new Column(Uint32Array)
  readonly times = new Column(Float64Array)
  readonly decoders: Record<Direction, Decoder>
  readonly frames: Record<Direction, Found[]> = { 'to panel': [], 'to host': [] }
  readonly bad: Record<Direction, { from: number; to: number; code: BadCode }[]> = { 'to panel': [], 'to host': [] }
  readonly ends: Record<Direction, number> = { 'to panel': 0, 'to host': 0 }
  /** Frames that go one way only. */
  readonly only: Record<Direction, number> = { 'to panel': 0, 'to host': 0 }
  fed = 0
  committed = 0

  constructor(
    readonly mark: string,
    { protocol }: ReadBy,
  ) {
    this.decoders = { 'to panel': protocol.decoder('to panel'), 'to host': protocol.decoder('to host') }
  }

  add(line: LogLine, number: number): void {
    this.starts.push(this.bytes.length)
    this.numbers.push(number)
    this.times.push(line.timeMs ?? NaN)
    this.bytes.append(line.bytes)
  }

  /** The line of a byte, counted among its own. */
  lineAt(byte: number): number {
    return Math.max(0, this.starts.upTo(byte) - 1)
  }

  numberAt(byte: number): number {
    return this.numbers.at(this.lineAt(byte))
  }

  /** The direction of most frames that go one way only; null where there is none. */
  get mostly(): Direction | null {
    const lead = this.only['to panel'] - this.only['to host']
    return lead > 0 ? 'to panel' : lead < 0 ? 'to host' : null
  }

  /** Has the bytes decoded that have come since; `isEnd`: no more come, so that what is open is given up. */
  feed(isEnd: boolean): void {
    const fresh = this.bytes.part(this.fed, this.bytes.length).slice()
    this.fed = this.bytes.length
    for (const direction of both) {
      const decoder = this.decoders[direction]
      const outcomes = fresh.length ? decoder.feed(fresh, 0, 0) : []
      for (const outcome of isEnd ? [...outcomes, ...decoder.expire(Number.MAX_SAFE_INTEGER)] : outcomes) {
        const { from, to } = outcome
        this.ends[direction] = to
        if (outcome.kind === 'bad') this.bad[direction].push({ from, to, code: outcome.code })
        else this.frames[direction].push({ from, to, direction, message: outcome.readings[0]! })
      }
    }
  }
}
