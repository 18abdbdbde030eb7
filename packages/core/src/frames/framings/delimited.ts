import { good, toHex } from '../../base/index.ts'
import { record } from '../../describe/index.ts'
import type { BadCode } from '../bad.ts'
import type { Decoder, DirectionCodec, Outcome, Unwrapped } from '../compiled.ts'
import { byteField, codesField, framingOf } from '../framing.ts'
import { parseBody } from '../parse.ts'
import { escapedIn, escapingOf, putEscaped, withoutEscapes, type Escaping } from './escaping.ts'

/** Flag, body, flag; inside, flag and escape are sent as the escape and a code (RFC 1662, 4.2; RFC 1055 has a table of codes). */
export const delimited = framingOf({
  kind: 'delimited',
  label: 'flag-delimited',
  detail: 'with byte stuffing',
  settings: record({
    flag: byteField('Flag', 0x7e),
    escape: byteField('Escape', 0x7d),
    xor: byteField('XOR', 0x20, 'XOR'),
    codes: codesField,
  }),
  at: (framing) => {
    const { flag } = framing
    const escaping = escapingIn(framing)!
    return {
      start: [],
      before: [flag],
      after: [flag],
      edge: 'flag',
      bodySize: null,
      onWire: (body) => 2 + 2 * body,
      wrap: (body) => {
        const out = new Uint8Array(body.length + escapedIn(escaping, body) + 2)
        out[0] = out[out.length - 1] = flag
        putEscaped(escaping, body, 0, body.length, out, 1)
        return good(out)
      },
      unwrap: (wire) => unwrap(wire, flag, escaping),
      decoder: (side) => new DelimitedDecoder(side, flag, escaping),
      strays: (wire, reads) =>
        reads(Uint8Array.of(flag, ...wire, flag))
          ? [{ code: 'hint.between-flags', facts: {} }]
          : [{ code: 'hint.flag', facts: { flag: toHex([flag]) } }],
    }
  },
  wrong: (framing) =>
    escapingIn(framing) ? null : { code: 'layout.flag', facts: { flag: framing.flag, escape: framing.escape, xor: framing.xor } },
})

const escapingIn = (framing: { flag: number; escape: number; xor: number; codes: readonly number[] }): Escaping | null =>
  escapingOf([framing.flag], framing.escape, framing.xor, framing.codes)

function unwrap(wire: Uint8Array, flag: number, escaping: Escaping): Unwrapped {
  const from = wire[0] === flag ? 1 : 0
  const end = wire.length > from && wire[wire.length - 1] === flag ? wire.length - 1 : wire.length
  const { body, places, fault } = withoutEscapes(escaping, wire, from, end)
  return { body, places, from, end, fault: from === 0 ? 'stray' : end === wire.length ? 'unfinished' : fault }
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
  private escape: number
  private most: number
  /** The table has more bytes than flag and escape: each is looked at. */
  private looks: boolean

  constructor(
    private codec: DirectionCodec,
    private flag: number,
    private escaping: Escaping,
  ) {
    this.escape = escaping.escape
    this.most = codec.longest
    this.looks = escaping.codeOf.some((code, byte) => code >= 0 && byte !== flag && byte !== escaping.escape)
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
        if (!this.pending && !this.looks) i = this.readWhole(bytes, i, out)
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
          if (this.looks) for (let k = first; k < next; k++) if (this.escaping.codeOf[bytes[k]!]! >= 0) this.fault ??= 'bare'
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
    if (bytes.length) this.deadlineUs = isPending ? lastUs + this.codec.gapUs : null
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
    const plain = this.escaping.byteOf[byte]!
    if (plain < 0) this.fault ??= 'escape'
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
