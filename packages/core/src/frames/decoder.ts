import type { BadCode } from './bad.ts'
import { codecOf, parseBody, saidLength, type Codec, type DirectionCodec } from './codec.ts'
import { startOf } from './place.ts'
import type { Direction, Message } from './messages.ts'

/**
 * Outcome of some bytes. `from` and `to` count bytes since the decoder was made; frames and bad ranges tile the input
 * without gap or overlap, and a frame encoded again gives the bytes at its place, less a flag that it shares with the one
 * before it. A frame may have several readings: which is meant, a dialogue knows.
 */
export type Outcome =
  | { kind: 'frame'; readings: readonly Message[]; from: number; to: number }
  | { kind: 'bad'; code: BadCode; from: number; to: number }

/** Bytes as they arrive → frames. Made for one direction of one link. The chunking makes no difference. */
export interface Decoder {
  /** When the silence after the last byte breaks a frame off; null when nothing is pending. */
  deadlineUs: number | null
  /** Bytes of a burst that were on the line from `firstUs` (the first bit of the first) to `lastUs` (the last of the last). */
  feed(bytes: Uint8Array, firstUs: number, lastUs: number): Outcome[]
  /** Gives up what is pending if its deadline has come; call at or after `deadlineUs`. */
  expire(atUs: number): Outcome[]
}

export function makeDecoder(codec: Codec, direction: Direction): Decoder {
  const side = codecOf(codec, direction)
  return side.way.framing.kind === 'delimited' ? new DelimitedDecoder(side) : new LedDecoder(side)
}

/**
 * Flag, body, flag; the flag between two frames may be one for both (RFC 1662, 3.1). A damaged body keeps its closing flag
 * open as the possible opening of the next frame, so that one lost flag costs one frame; a second flag right behind shows
 * that it was the closing one after all.
 */
class DelimitedDecoder implements Decoder {
  deadlineUs: number | null = null
  private body: Uint8Array
  private size = 0
  /** Offset of the opening flag, or of the first stray byte while hunting. */
  private from = 0
  private at = 0
  private inside = false
  /** Inside by the flag that closed a good frame: what comes may be a frame, or stray bytes. */
  private shared = false
  private escaped = false
  private fault: BadCode | null = null
  private pending: { code: BadCode; from: number; to: number } | null = null
  private flag: number
  private escape: number
  private xor: number
  private most: number

  constructor(private codec: DirectionCodec) {
    const { framing } = codec.way
    if (framing.kind !== 'delimited') throw new Error('delimited framing wanted')
    this.flag = framing.flag
    this.escape = framing.escape
    this.xor = framing.xor
    this.most = codec.longest
    this.body = new Uint8Array(this.most + 1)
  }

  feed(bytes: Uint8Array, firstUs: number, lastUs: number): Outcome[] {
    const out = this.deadlineUs !== null && firstUs >= this.deadlineUs ? this.expire(firstUs) : []
    const { flag, escape, most } = this
    for (let i = 0; i < bytes.length; i++) {
      if (this.inside && this.size === 0 && !this.escaped) {
        if (this.pending && bytes[i] !== flag) {
          out.push({ kind: 'bad', ...this.pending })
          this.pending = null
        }
        if (!this.pending) i = this.readWhole(bytes, i, out)
        if (i === bytes.length) break
      }
      const byte = bytes[i]!
      if (byte === flag) this.takeFlag(out)
      else if (!this.inside) this.takeStray(out)
      else {
        if (this.escaped) this.takeEscaped(byte)
        else if (byte === escape) this.escaped = true
        else {
          // Most bytes are plain: as many of them as stand in a row, without looking at anything else.
          const first = i
          const end = Math.min(bytes.length, i + most - this.size + 1)
          let next = i + 1
          while (next < end && bytes[next] !== flag && bytes[next] !== escape) next++
          i = next - 1
          this.at += i - first
          for (let k = first; k < next; k++) this.body[this.size++] = bytes[k]!
        }
        if (this.size > most) {
          out.push({ kind: 'bad', code: this.shared ? 'stray' : 'long', from: this.from, to: this.at + 1 })
          this.hunt(this.at + 1)
        }
      }
      this.at++
    }
    const isPending = (this.inside && !this.shared) || this.at > this.from
    if (bytes.length) this.deadlineUs = isPending ? lastUs + this.codec.way.gapUs : null
    return out
  }

  /**
   * Good frames without escapes that stand whole in `bytes` from `start` on, one behind the other, read where they stand; `start`
   * is where a body may begin, or the flag before it. Where the first stands that is none of these.
   */
  private readWhole(bytes: Uint8Array, start: number, out: Outcome[]): number {
    const { flag, escape, most, codec } = this
    const shift = this.at - start
    let { from, shared } = this
    let at = start
    for (;;) {
      let first = at
      if (shared && bytes[at] === flag) {
        first++
        from = shift + at
      }
      const end = Math.min(bytes.length, first + most + 1)
      let next = first
      while (next < end && bytes[next] !== flag && bytes[next] !== escape) next++
      if (next === first || next === end || bytes[next] !== flag) break
      const read = parseBody(codec, bytes, first, next)
      if (typeof read === 'string') break
      at = next + 1
      out.push({ kind: 'frame', readings: read, from, to: shift + at })
      from = shift + at
      shared = true
    }
    if (at > start) {
      this.at = shift + at
      this.behindGood(this.at)
    }
    return at
  }

  /** Behind a good frame, whose flag may be that of the next. */
  private behindGood(to: number): void {
    this.hunt(to)
    this.inside = true
    this.shared = true
  }

  private takeEscaped(byte: number): void {
    this.escaped = false
    const plain = byte ^ this.xor
    if (plain !== this.flag && plain !== this.escape) this.fault ??= 'escape'
    this.body[this.size++] = plain
  }

  private hunt(from: number): void {
    this.inside = false
    this.shared = false
    this.from = from
    this.size = 0
    this.escaped = false
    this.fault = null
  }

  private takeStray(out: Outcome[]): void {
    if (this.at + 1 - this.from >= 256) {
      out.push({ kind: 'bad', code: 'stray', from: this.from, to: this.at + 1 })
      this.from = this.at + 1
    }
  }

  private takeFlag(out: Outcome[]): void {
    if (!this.inside) {
      if (this.at > this.from) out.push({ kind: 'bad', code: 'stray', from: this.from, to: this.at })
      this.open()
    } else if (this.size === 0 && !this.escaped) {
      if (this.shared) this.open()
      else if (this.pending) out.push({ kind: 'bad', code: this.pending.code, from: this.pending.from, to: this.at })
      else out.push({ kind: 'bad', code: 'idle', from: this.from, to: this.at })
      this.pending = null
      this.open()
    } else {
      const read = this.escaped ? 'aborted' : (this.fault ?? parseBody(this.codec, this.body, 0, this.size))
      if (typeof read !== 'string') {
        out.push({ kind: 'frame', readings: read, from: this.from, to: this.at + 1 })
        return this.behindGood(this.at + 1)
      }
      // Behind a good frame, what is too short for one is not a frame that was hurt.
      if (this.shared && read === 'short') out.push({ kind: 'bad', code: 'stray', from: this.from, to: this.at })
      else this.pending = { code: read, from: this.from, to: this.at }
      this.open()
    }
  }

  private open(): void {
    this.hunt(this.at)
    this.inside = true
  }

  expire(atUs: number): Outcome[] {
    if (this.deadlineUs === null || atUs < this.deadlineUs) return []
    this.deadlineUs = null
    const out: Outcome[] = []
    if (this.pending) {
      out.push({ kind: 'bad', code: this.pending.code, from: this.pending.from, to: this.at })
      this.pending = null
    } else if (this.at > this.from)
      out.push({ kind: 'bad', code: this.inside && !this.shared ? 'unfinished' : 'stray', from: this.from, to: this.at })
    this.hunt(this.at)
    return out
  }
}

/** How many bytes of a failed frame may be looked at again for each byte that goes by: keeps the work linear. */
const secondLooks = 8

/**
 * Start bytes and a length (or a fixed length). A candidate that fails is looked at again from its second byte, so that
 * a frame inside it is found; when a stream makes that too costly, the whole candidate is passed over instead.
 */
class LedDecoder implements Decoder {
  deadlineUs: number | null = null
  private buffer: Uint8Array
  private have = 0
  private next = 0
  /** Offset of buffer[0] in the stream. */
  private base = 0
  private run: { code: BadCode; from: number } | null = null
  private credit: number
  private start: readonly number[]
  private fixed: number | null

  constructor(private codec: DirectionCodec) {
    const { framing } = codec.way
    this.start = startOf(codec.way)
    this.fixed = framing.kind === 'fixed' ? framing.length : null
    this.buffer = new Uint8Array(Math.max(1024, codec.longest * 4))
    this.credit = secondLooks * codec.longest
  }

  feed(bytes: Uint8Array, firstUs: number, lastUs: number): Outcome[] {
    const out = this.deadlineUs !== null && firstUs >= this.deadlineUs ? this.expire(firstUs) : []
    for (let at = 0; at < bytes.length;) {
      const room = this.room()
      const part = bytes.subarray(at, at + room)
      this.buffer.set(part, this.have)
      this.have += part.length
      at += part.length
      this.scan(out, false)
    }
    if (bytes.length) this.deadlineUs = this.next < this.have || this.run ? lastUs + this.codec.way.gapUs : null
    return out
  }

  private room(): number {
    if (this.have === this.buffer.length) {
      this.buffer.copyWithin(0, this.next, this.have)
      this.base += this.next
      this.have -= this.next
      this.next = 0
    }
    return this.buffer.length - this.have
  }

  /** Reads all that can be read; `final` when no more is to come for what is pending. */
  private scan(out: Outcome[], final: boolean): void {
    while (this.next < this.have) {
      const found = this.candidate()
      if (found === 'more') {
        if (!final) return
        this.fail('unfinished', 1, out)
      } else if (typeof found === 'string') this.fail(found, 1, out)
      else {
        const { size } = found
        const read = parseBody(this.codec, this.buffer, this.next, this.next + size)
        if (typeof read === 'string') {
          const again = this.credit >= size
          this.credit -= again ? size : 0
          this.fail(read, again ? 1 : size, out)
        } else {
          this.endRun(out)
          const from = this.base + this.next
          out.push({ kind: 'frame', readings: read, from, to: from + size })
          this.pass(size)
        }
      }
    }
  }

  /** The candidate at `next`: the size of a whole candidate, that more bytes are needed, or why it is no frame. */
  private candidate(): { size: number } | 'more' | BadCode {
    const { start, buffer, next, have } = this
    for (let k = 0; k < start.length; k++) {
      if (next + k >= have) return 'more'
      if (buffer[next + k] !== start[k]) return 'stray'
    }
    if (have - next < this.codec.headSize) return 'more'
    const size = this.fixed ?? saidLength(this.codec, buffer, next)
    if (size < 0) return 'operation'
    if (size < this.codec.shortest || size > this.codec.longest) return 'length'
    return have - next < size ? 'more' : { size }
  }

  private pass(bytes: number): void {
    this.next += bytes
    this.credit = Math.min(this.credit + secondLooks * bytes, secondLooks * 4 * this.codec.longest)
  }

  private fail(code: BadCode, bytes: number, out: Outcome[]): void {
    if (this.run && this.run.code === 'stray' && code !== 'stray') this.endRun(out)
    this.run ??= { code, from: this.base + this.next }
    this.pass(bytes)
    if (this.base + this.next - this.run.from >= 256) this.endRun(out)
  }

  private endRun(out: Outcome[]): void {
    if (this.run) out.push({ kind: 'bad', code: this.run.code, from: this.run.from, to: this.base + this.next })
    this.run = null
  }

  expire(atUs: number): Outcome[] {
    if (this.deadlineUs === null || atUs < this.deadlineUs) return []
    this.deadlineUs = null
    const out: Outcome[] = []
    this.scan(out, true)
    this.endRun(out)
    return out
  }
}
