import type { BadCode } from '../bad.ts'
import type { DirectionCodec, FramingAt } from '../compiled.ts'
import type { Message } from '../messages.ts'
import { ownLength, parseBody, saidLength } from '../parse.ts'
import { good, toHex } from '../../base/index.ts'
import { BufferedDecoder } from './buffered.ts'

/** Start bytes and a length, or a fixed length. */
class LedDecoder extends BufferedDecoder {
  private start: readonly number[]
  private isFixed: boolean

  constructor(private codec: DirectionCodec) {
    super(codec.longest, codec.gapUs)
    this.start = codec.framing.start
    this.isFixed = codec.framing.bodySize !== null
  }

  protected candidate(): number | BadCode {
    const { start, buffer, next, have } = this
    for (let k = 0; k < start.length; k++) {
      if (next + k >= have) return 0
      if (buffer[next + k] !== start[k]) return 'stray'
    }
    if (have - next < this.codec.headSize) return 0
    const size = this.isFixed ? ownLength(this.codec, buffer, next) : saidLength(this.codec, buffer, next)
    if (size < 0) return 'operation'
    if (size < this.codec.shortest || size > this.codec.longest) return 'length'
    return have - next < size ? 0 : size
  }

  protected read(from: number, to: number): readonly Message[] | BadCode {
    return parseBody(this.codec, this.buffer, from, to)
  }

  protected passed(size: number, isAgain: boolean): number {
    return isAgain ? 1 : size
  }
}

/** A framing whose frames are as they stand on the wire: start bytes, then a length that is said or fixed. */
export const ledAt = (start: readonly number[], bodySize: number | null): FramingAt => ({
  start,
  before: [],
  after: [],
  edge: '',
  bodySize,
  onWire: (body) => body,
  wrap: (body) => good(body),
  unwrap: (wire) => ({ body: wire, places: Array.from(wire, (_, i) => i), from: 0, end: wire.length, fault: null }),
  decoder: (side) => new LedDecoder(side),
  strays: (wire) => {
    const turned = [...start].reverse()
    const isTurned = start.length > 1 && turned.every((byte, i) => wire[i] === byte)
    if (isTurned) return [{ code: 'hint.start-swapped', facts: { start: toHex(start), found: toHex(turned) } }]
    return start.length ? [{ code: 'hint.start', facts: { start: toHex(start) } }] : []
  },
})
