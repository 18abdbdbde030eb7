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
  partKind,
  partsOf,
  wayOf,
  type BinaryWay,
  type Direction,
  type Layout,
  type Way,
} from '../frames/index.ts'
import { systemVariables } from '../variables/index.ts'
import { assignedFrames } from './commands/assigned.ts'
import type { Book } from './protocol.ts'
import { turnsTexts, withTexts } from './texts.ts'
import type { MakeWay, WayProtocol } from './way.ts'

/** Whether a way asks for the data type of what it speaks of. */
export const asksForTypes = (way: Way): boolean =>
  way.kind === 'binary' && (turnsTexts(way) || way.forms.some((form) => form.types?.length))

/** The data type of the variable at an address; undefined where no form asks for it. */
function typesOf(layout: Layout, direction: Direction, book: Book): ((address: number) => string | null) | undefined {
  if (!asksForTypes(wayOf(layout, direction))) return undefined
  const types = new Map(book.variables.map(({ cell }) => [cell.address, cell.holds.type as string]))
  for (const { holds, offset } of systemVariables()) types.set(book.ownFrom + offset, holds.type)
  return (address) => types.get(address) ?? null
}

/** Frames of bytes as a layout describes them, between memory of the book's order and the wire. */
export const binaryWay: MakeWay = (layout, direction, book) => {
  const compiled = compileWay(layout, direction, book.memory, typesOf(layout, direction, book), assignedFrames(book, direction))
  if (!compiled.ok) return compiled
  const side = compiled.value
  const way = wayOf(layout, direction) as BinaryWay
  const parts = way.forms.flatMap((form) => partsOf(way, form))
  const sequences = parts.flatMap((part) => partKind(part.part)?.sequences?.(part as never) ?? [])
  const protocol: WayProtocol = {
    lastSequence: sequences.length ? Math.min(...sequences) : 0,
    limits: { payload: way.mostPayload, frame: longestOnWire(side) },
    silenceUs: framingKind(way.framing.kind)?.endsBySilence ? way.gapUs : 0,
    encode: (message) => encodeFrame(side, message),
    decoder: () => makeDecoder(side),
    dissect: (wire) => dissect(side, wire),
    mend: (typed) => mendFrame(side, typed),
    hint: (wire, code) => hintsFor(side, wire, code),
  }
  return good(withTexts(protocol, way, book))
}
