import { good } from '../base/index.ts'
import {
  compileWay,
  dissect,
  encodeFrame,
  framingKind,
  hintsFor,
  longestOnWire,
  makeDecoder,
  mendFrame,
  partsOf,
  wayOf,
  type BinaryWay,
} from '../frames/index.ts'
import type { MakeWay } from './way.ts'

/** Frames of bytes as a layout describes them, between memory of the book's order and the wire. */
export const binaryWay: MakeWay = (layout, direction, { memory }) => {
  const compiled = compileWay(layout, direction, memory)
  if (!compiled.ok) return compiled
  const side = compiled.value
  const way = wayOf(layout, direction) as BinaryWay
  const parts = way.forms.flatMap((form) => partsOf(way, form))
  const packed = parts.some((p) => p.part === 'sequence and operation')
  return good({
    lastSequence: packed ? 15 : parts.some((p) => p.part === 'sequence') ? 255 : 0,
    limits: { payload: way.mostPayload, frame: longestOnWire(side) },
    silenceUs: framingKind(way.framing.kind)?.endsBySilence ? way.gapUs : 0,
    encode: (message) => encodeFrame(side, message),
    decoder: () => makeDecoder(side),
    dissect: (wire) => dissect(side, wire),
    mend: (typed) => mendFrame(side, typed),
    hint: (wire, code) => hintsFor(side, wire, code),
  })
}
