import { good, type Result } from '../../base/index.ts'
import { record } from '../../describe/index.ts'
import type { BadCode } from '../bad.ts'
import type { Decoder, DirectionCodec, Outcome } from '../compiled.ts'
import { bytesField, framingOf } from '../framing.ts'
import { parseBody } from '../parse.ts'
import { ledAt } from './led.ts'

/** A silence ends each frame: what comes without one is one frame, whatever stands in it. */
export const silent = framingOf({
  kind: 'silent',
  label: 'silence',
  detail: 'a pause ends each frame',
  settings: record({ start: bytesField('Start bytes', [], 0, 8) }),
  endsBySilence: true,
  at: ({ start }) => ({
    ...ledAt(start, null),
    wrap: (body): Result<Uint8Array> => good(body),
    decoder: (side) => new SilentDecoder(side, start),
  }),
  wrong: () => null,
})

/** A range that is no frame is told in pieces of so many bytes. */
const longestRange = 256

class SilentDecoder implements Decoder {
  deadlineUs: number | null = null
  private buffer: Uint8Array
  private have = 0
  /** Offset of the first byte of the buffer in the stream. */
  private base = 0
  /** More has come since the last silence than any frame has. */
  private isLong = false

  constructor(
    private codec: DirectionCodec,
    private start: readonly number[],
  ) {
    this.buffer = new Uint8Array(Math.max(codec.longest + 1, longestRange))
  }

  feed(bytes: Uint8Array, firstUs: number, lastUs: number): Outcome[] {
    const out = this.deadlineUs !== null && firstUs >= this.deadlineUs ? this.expire(firstUs) : []
    for (let i = 0; i < bytes.length; i++) {
      this.buffer[this.have++] = bytes[i]!
      if (!this.isLong && this.have > this.codec.longest) this.isLong = true
      if (this.isLong && this.have >= longestRange) this.fail('long', out)
    }
    if (bytes.length) this.deadlineUs = lastUs + this.codec.gapUs
    return out
  }

  expire(atUs: number): Outcome[] {
    if (this.deadlineUs === null || atUs < this.deadlineUs) return []
    this.deadlineUs = null
    const out: Outcome[] = []
    if (this.isLong) this.fail('long', out)
    else if (!this.start.every((byte, i) => i < this.have && this.buffer[i] === byte)) this.fail('stray', out)
    else if (this.have) {
      const read = parseBody(this.codec, this.buffer, 0, this.have)
      if (typeof read === 'string') this.fail(read, out)
      else {
        out.push({ kind: 'frame', readings: read, from: this.base, to: this.base + this.have })
        this.pass()
      }
    }
    this.isLong = false
    return out
  }

  private fail(code: BadCode, out: Outcome[]): void {
    if (this.have) out.push({ kind: 'bad', code, from: this.base, to: this.base + this.have })
    this.pass()
  }

  private pass(): void {
    this.base += this.have
    this.have = 0
  }
}
