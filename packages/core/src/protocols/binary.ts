import { good, type Result } from '../base/index.ts'
import { compileLayout, dissect, encodeFrame, makeDecoder, partsOf, type Layout } from '../frames/index.ts'
import type { Protocol } from './protocol.ts'

/** Frames of bytes as a layout describes them. */
export function binaryProtocol(layout: Layout): Result<Protocol> {
  const compiled = compileLayout(layout)
  if (!compiled.ok) return compiled
  const codec = compiled.value
  const parts = layout.forms.flatMap((form) => partsOf(layout, form))
  const packed = parts.some((p) => p.part === 'sequence and operation')
  return good({
    layout,
    codec,
    encode: (direction, message) => encodeFrame(codec, direction, message),
    decoder: (direction) => makeDecoder(codec, direction),
    dissect: (direction, wire) => dissect(codec, direction, wire),
    lastSequence: packed ? 15 : parts.some((p) => p.part === 'sequence') ? 255 : 0,
    can: (direction, operation) => layout.forms.some((f) => f.operation === operation && f.directions.includes(direction)),
  })
}
