import type { BadCode } from '../bad.ts'
import type { Decoder, Outcome } from '../compiled.ts'
import type { Message } from '../messages.ts'

/** How many bytes of a failed frame may be looked at again for each byte that goes by: keeps the work linear. */
const secondLooks = 8

/**
 * Looks at one candidate after another where it stands. One that fails is looked at again from its second byte, so that a
 * frame inside it is found; when a stream makes that too costly, the whole candidate is passed over instead.
 */
export abstract class BufferedDecoder implements Decoder {
  deadlineUs: number | null = null
  protected buffer: Uint8Array
  protected have = 0
  protected next = 0
  /** Offset of buffer[0] in the stream. */
  protected base = 0
  private run: { code: BadCode; from: number } | null = null
  private credit: number

  /** `longest`: bytes of a candidate at most. */
  constructor(
    private longest: number,
    private gapUs: number,
  ) {
    this.buffer = new Uint8Array(Math.max(1024, longest * 4))
    this.credit = secondLooks * longest
  }

  /** The candidate at `next`: its bytes, 0 where more are needed, or why it is no frame. */
  protected abstract candidate(): number | BadCode
  /** Reads a whole candidate. */
  protected abstract read(from: number, to: number): readonly Message[] | BadCode
  /** So many bytes of what is no frame are passed over; the next of them may begin one. `size`: of a whole candidate, else 0. */
  protected abstract passed(size: number, isAgain: boolean, final: boolean): number

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
    if (bytes.length) this.deadlineUs = this.next < this.have || this.run ? lastUs + this.gapUs : null
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
      const size = this.candidate()
      if (size === 0) {
        if (!final) return
        this.fail('unfinished', this.passed(0, true, true), out)
      } else if (typeof size === 'string') this.fail(size, this.passed(0, true, false), out)
      else {
        const read = this.read(this.next, this.next + size)
        if (typeof read === 'string') {
          const isAgain = this.credit >= size
          this.credit -= isAgain ? size : 0
          this.fail(read, this.passed(size, isAgain, false), out)
        } else {
          this.endRun(out)
          const from = this.base + this.next
          out.push({ kind: 'frame', readings: read, from, to: from + size })
          this.pass(size)
        }
      }
    }
  }

  private pass(bytes: number): void {
    this.next += bytes
    this.credit = Math.min(this.credit + secondLooks * bytes, secondLooks * 4 * this.longest)
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
