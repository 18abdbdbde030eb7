import { good, type Order, type Result } from '../base/index.ts'
import {
  compileLayout,
  dissect,
  encodeFrame,
  hintsFor,
  longestOnWire,
  makeDecoder,
  mendFrame,
  formsOf,
  framingKind,
  partsOf,
  wayOf,
  waysOf,
  type Layout,
  type Way,
} from '../frames/index.ts'
import { openQuestions } from './dialogue.ts'
import type { Protocol } from './protocol.ts'

const silenceOf = ({ framing, gapUs }: Way): number => (framingKind(framing.kind)?.endsBySilence ? gapUs : 0)

/** Frames of bytes as a layout describes them, between memory of that order and the wire. */
export function binaryProtocol(layout: Layout, memory: Order): Result<Protocol> {
  const compiled = compileLayout(layout, memory)
  if (!compiled.ok) return compiled
  const codec = compiled.value
  const ways = waysOf(layout).map(({ way }) => way)
  const parts = ways.flatMap((way) => way.forms.flatMap((form) => partsOf(way, form)))
  const packed = parts.some((p) => p.part === 'sequence and operation')
  return good({
    lastSequence: packed ? 15 : parts.some((p) => p.part === 'sequence') ? 255 : 0,
    limits: {
      payload: Math.min(...ways.map((way) => way.mostPayload)),
      frame: Math.max(longestOnWire(codec.toPanel), longestOnWire(codec.toHost)),
    },
    silenceUs: { 'to panel': silenceOf(wayOf(layout, 'to panel')), 'to host': silenceOf(wayOf(layout, 'to host')) },
    can: (direction, operation) => formsOf(layout, direction).some((form) => form.operation === operation),
    encode: (direction, message) => encodeFrame(codec, direction, message),
    decoder: (direction) => makeDecoder(codec, direction),
    dialogue: openQuestions,
    dissect: (direction, wire) => dissect(codec, direction, wire),
    mend: (direction, typed) => mendFrame(codec, direction, typed),
    hint: (direction, wire, code) => hintsFor(codec, direction, wire, code),
  })
}
