import { bad, good, toHex, type Problem, type Result } from '../../base/index.ts'
import { record } from '../../describe/index.ts'
import type { BadCode } from '../bad.ts'
import type { DirectionCodec, FramingAt, Unwrapped } from '../compiled.ts'
import { byteField, bytesField, codesField, framingOf } from '../framing.ts'
import type { Message } from '../messages.ts'
import { leastBody, parseBody } from '../parse.ts'
import { BufferedDecoder } from './buffered.ts'
import { escapedIn, escapingOf, putEscaped, withoutEscapes, type Escaping } from './escaping.ts'

/** Turns a body into bytes without its end bytes, and back. */
export interface Coding {
  /** The most bytes that a body of so many takes. */
  most(body: number): number
  /** The body behind its start bytes as it is sent; the start bytes stand before it as they are. */
  encode(body: Uint8Array, start: number): Uint8Array
  /** Writes the body of `wire[from … to)` into `into`, start bytes included: its bytes, or why nobody would have sent them so. */
  read(wire: Uint8Array, from: number, to: number, start: number, into: Uint8Array): number | BadCode
  /** Bytes of the wire, start bytes included, as the body; `fault` where nobody would have sent them so. */
  decode(wire: Uint8Array, start: number): { body: Uint8Array; places: number[]; fault: BadCode | null }
}

/** Start bytes or none, the body, end bytes. Where no escape is set, the end may stand inside what is of known length only. */
export const ended = framingOf({
  kind: 'ended',
  label: 'end bytes',
  detail: 'a marker ends each frame',
  settings: record({
    start: bytesField('Start bytes', [], 0, 4),
    end: bytesField('End bytes', [0x0d, 0x0a], 1, 4),
    escape: bytesField('Escape', [], 0, 1),
    xor: byteField('XOR', 0x20, 'XOR'),
    codes: codesField,
  }),
  at: (framing): FramingAt => {
    const { start, end, escape } = framing
    return endedAt(start, end, escape.length ? escapeCoding(escapingIn(framing)!) : null)
  },
  wrong: (framing): Problem | null => {
    const { end, escape, xor } = framing
    if (!end.length) return { code: 'layout.no-end', facts: {} }
    if (!escape.length || escapingIn(framing)) return null
    return { code: 'layout.flag', facts: { flag: end[0]!, escape: escape[0]!, xor } }
  },
})

type EndedSettings = {
  start: readonly number[]
  end: readonly number[]
  escape: readonly number[]
  xor: number
  codes: readonly number[]
}

const escapingIn = ({ start, end, escape, xor, codes }: EndedSettings): Escaping | null =>
  escapingOf([...new Set([...start, ...end])], escape[0]!, xor, codes)

const escapeCoding = (escaping: Escaping): Coding => ({
  most: (body) => 2 * body,
  encode: (body, start) => {
    const out = new Uint8Array(body.length + escapedIn(escaping, body, start))
    out.set(body.subarray(0, start))
    putEscaped(escaping, body, start, body.length, out, start)
    return out
  },
  read: (wire, from, to, start, into) => {
    const { escape, byteOf, codeOf } = escaping
    let size = 0
    for (let i = from; i < to; i++) {
      const byte = wire[i]!
      if (i < from + start) into[size++] = byte
      else if (byte !== escape) {
        if (codeOf[byte]! >= 0) return 'bare'
        into[size++] = byte
      } else {
        if (++i >= to) return 'aborted'
        const plain = byteOf[wire[i]!]!
        if (plain < 0) return 'escape'
        into[size++] = plain
      }
    }
    return size
  },
  decode: (wire, start) => {
    const { body, places, fault } = withoutEscapes(escaping, wire, start, wire.length)
    const whole = new Uint8Array(start + body.length)
    whole.set(wire.subarray(0, start))
    whole.set(body, start)
    return { body: whole, places: [...Array.from({ length: start }, (_, i) => i), ...places], fault }
  },
})

/** `coding`: how a body is sent so that no end stands in it; null: as it is. */
export function endedAt(start: readonly number[], end: readonly number[], coding: Coding | null): FramingAt {
  const onWire = (body: number) => (coding ? coding.most(body) : body) + end.length
  return {
    start,
    before: [],
    after: end,
    edge: 'end',
    bodySize: null,
    onWire,
    wrap: (body, side) => {
      const sent = coding ? coding.encode(body, start.length) : body
      const out = new Uint8Array(sent.length + end.length)
      out.set(sent)
      out.set(end, sent.length)
      return coding ? good(out) : untilEnd(out, end, side)
    },
    unwrap: (wire) => unwrap(wire, start, end, coding),
    decoder: (side) => {
      const scratch = new Uint8Array(onWire(side.longest))
      return new EndedDecoder({
        start,
        end,
        most: onWire(side.longest) - end.length,
        gapUs: side.gapUs,
        isEnd: (bytes, from, at) => coding !== null || isEnd(side, bytes, from, at),
        read: (bytes, from, to) => {
          if (!coding) return parseBody(side, bytes, from, to)
          const size = coding.read(bytes, from, to, start.length, scratch)
          return typeof size === 'string' ? size : parseBody(side, scratch, 0, size)
        },
      })
    },
    strays: (wire, reads) =>
      start.length
        ? [{ code: 'hint.start', facts: { start: toHex(start) } }]
        : reads(Uint8Array.of(...wire, ...end))
          ? [{ code: 'hint.end', facts: { end: toHex(end) } }]
          : [],
  }
}

/** Refused where a decoder would take an earlier place for the end. */
function untilEnd(wire: Uint8Array, end: readonly number[], side: DirectionCodec): Result<Uint8Array> {
  const body = wire.length - end.length
  for (let at = side.framing.start.length; at < body; at++)
    if (standsAt(wire, at, end) && isEnd(side, wire, 0, at)) return bad('frame.end-inside', { end: toHex(end) })
  return good(wire)
}

const standsAt = (bytes: Uint8Array, at: number, marker: readonly number[]): boolean => {
  for (let k = 0; k < marker.length; k++) if (bytes[at + k] !== marker[k]) return false
  return true
}

/** Whether end bytes at `at` end the frame that begins at `from`: behind all that is of known length, or where nothing stands. */
const isEnd = (side: DirectionCodec, bytes: Uint8Array, from: number, at: number): boolean =>
  at === from || at - from >= leastBody(side, bytes, from, at)

function unwrap(wire: Uint8Array, start: readonly number[], end: readonly number[], coding: Coding | null): Unwrapped {
  const hasEnd = wire.length >= end.length && standsAt(wire, wire.length - end.length, end)
  const to = hasEnd ? wire.length - end.length : wire.length
  const sent = wire.subarray(0, to)
  const asSent = { body: sent, places: Array.from(sent, (_, i) => i), fault: null }
  const { body, places, fault } = coding ? coding.decode(sent, Math.min(start.length, to)) : asSent
  return { body, places, from: 0, end: to, fault: hasEnd ? fault : 'unfinished' }
}

/** Frames that end with end bytes, as a decoder of them must know them. */
export interface EndedFrames {
  start: readonly number[]
  end: readonly number[]
  /** Bytes at most between the first of the start and the first of the end. */
  most: number
  gapUs: number
  /** Whether end bytes at `at` end the frame that begins at `from`. */
  isEnd(bytes: Uint8Array, from: number, at: number): boolean
  /** Reads what stands from the first start byte up to the end. */
  read(bytes: Uint8Array, from: number, to: number): readonly Message[] | BadCode
}

/** Finds frames between start bytes, or none, and end bytes; an empty one is idle. */
export class EndedDecoder extends BufferedDecoder {
  /** The stream up to here has been searched for the end of the candidate at `candidateAt`; both count bytes of the stream. */
  private searched = 0
  private candidateAt = -1
  /** A line without start bytes that was too long: what follows up to its end belongs to it. */
  private isSkipping = false
  private start: readonly number[]
  private end: readonly number[]
  private most: number

  constructor(private frames: EndedFrames) {
    super(frames.most + frames.end.length, frames.gapUs)
    this.start = frames.start
    this.end = frames.end
    this.most = frames.most
  }

  protected candidate(): number | BadCode {
    const { start, end, buffer, next, have } = this
    for (let k = 0; k < start.length; k++) {
      if (next + k >= have) return 0
      if (buffer[next + k] !== start[k]) return 'stray'
    }
    if (this.isSkipping) return have - next < end.length ? 0 : 'long'
    const offset = this.base + next
    if (this.candidateAt !== offset) {
      this.candidateAt = offset
      this.searched = offset + start.length
    }
    const last = Math.min(have - end.length, next + this.most)
    let at = this.searched - this.base
    for (; at <= last; at++) {
      if (buffer[at] !== end[0] || !standsAt(buffer, at, end)) continue
      if (this.frames.isEnd(buffer, next, at)) {
        this.searched = this.base + at
        return at + end.length - next
      }
    }
    this.searched = this.base + at
    return at > next + this.most ? 'long' : 0
  }

  protected read(from: number, to: number): readonly Message[] | BadCode {
    const sent = to - this.end.length
    return sent === from ? 'idle' : this.frames.read(this.buffer, from, sent)
  }

  /** Without start bytes a frame begins behind an end only, so that no rest of a line is read as one. */
  protected passed(size: number, isAgain: boolean, final: boolean): number {
    const { buffer, next, have, end } = this
    if (final) this.isSkipping = false
    if (this.start.length) return isAgain ? 1 : size
    if (this.isSkipping && standsAt(buffer, next, end) && next + end.length <= have) {
      this.isSkipping = false
      return end.length
    }
    if (!size && !final) {
      this.isSkipping = true
      return 1
    }
    const whole = size || have - next
    if (!isAgain) return whole
    for (let at = next; at + end.length < next + whole; at++) if (standsAt(buffer, at, end)) return at + end.length - next
    return whole
  }
}
