import type { RawOf } from '../../describe/index.ts'
import type { FramingAt } from '../compiled.ts'
import type { FramingKindRecord } from '../framing.ts'
import { cobs } from './cobs.ts'
import { delimited } from './delimited.ts'
import { ended } from './ended.ts'
import { fixed } from './fixed.ts'
import { lengthLed } from './length-led.ts'
import { silent } from './silent.ts'

const shipped = { delimited, ended, cobs, 'length-led': lengthLed, fixed, silent }

type FramingKind = keyof typeof shipped

/** How a frame is found in the stream of bytes, as it is stored: the kind, and its settings beside it. */
export type Framing = { [K in FramingKind]: { kind: K } & RawOf<(typeof shipped)[K]['settings']['fields']> }[FramingKind]

const table = new Map<string, FramingKindRecord>(Object.entries(shipped))

/** The kinds there are, in the order they are offered. */
export const framingKinds = (): FramingKindRecord[] => [...table.values()]

/** The kind of that name, or undefined: a layout of a later version may have others. */
export const framingKind = (kind: string): FramingKindRecord | undefined => table.get(kind)

/** Adds a kind; a test registers one of its own and takes it out again with the function it gets back. */
export function registerFraming(kind: FramingKindRecord): () => void {
  table.set(kind.kind, kind)
  return () => void table.delete(kind.kind)
}

/** A framing of a kind before anyone has said more; its settings may be given. */
export const freshFraming = <K extends FramingKind>(kind: K, given: Partial<Extract<Framing, { kind: K }>> = {}): Framing =>
  ({ kind, ...framingKind(kind)!.settings.defaults, ...given }) as Framing

const made = new WeakMap<Framing, FramingAt>()

/** A framing ready for use, the same one for the same settings; its kind must say that nothing is wrong with them. */
export function framingAt(framing: Framing): FramingAt {
  let at = made.get(framing)
  if (!at) made.set(framing, (at = framingKind(framing.kind)!.at(framing as never)))
  return at
}
