import type { Item, RawOf } from '../../describe/index.ts'
import type { PartKindRecord } from '../part.ts'
import { address } from './address.ts'
import { checksum } from './checksum.ts'
import { reason, what } from './codes.ts'
import { constant } from './constant.ts'
import { digits } from './digits.ts'
import { length } from './length.ts'
import { bits, mask } from './mask.ts'
import { moduleNumber } from './module.ts'
import { operation, sequenceAndOperation } from './operation.ts'
import { pairs } from './pairs.ts'
import { payload } from './payload.ts'
import { sequence } from './sequence.ts'
import { words } from './words.ts'

const shipped = {
  constant,
  length,
  operation,
  'sequence and operation': sequenceAndOperation,
  sequence,
  module: moduleNumber,
  address,
  words,
  payload,
  digits,
  pairs,
  mask,
  bits,
  what,
  reason,
  checksum,
}

export type PartKind = keyof typeof shipped

/** A part as it is stored: its kind, and its settings beside it. Sizes are bytes. */
export type PartFields = {
  [K in PartKind]: { part: K } & RawOf<(typeof shipped)[K]['settings']['fields']>
}[PartKind]
export type Part = Item & PartFields

const table = new Map<string, PartKindRecord>(Object.entries(shipped))

/** The kinds there are, in the order they are offered. */
export const partKinds = (): PartKindRecord[] => [...table.values()]

/** The kind of that name, or undefined: a layout of a later version may have others. */
export const partKind = (part: string): PartKindRecord | undefined => table.get(part)

/** Adds a kind; a test registers one of its own and takes it out again with the function it gets back. */
export function registerPart(kind: PartKindRecord): () => void {
  table.set(kind.part, kind)
  return () => void table.delete(kind.part)
}

/** A part as it is before anyone has said more. */
export const freshPart = (kind: string): Part => ({ part: kind, ...partKind(kind)!.settings.defaults }) as Part

/** A part of a kind, with some of its settings; the others are as they are at first. */
export const part = <K extends PartKind>(kind: K, given: Partial<Extract<PartFields, { part: K }>> = {}): Part =>
  ({ ...freshPart(kind), ...given }) as Part

/** The bytes a part takes on the wire before escaping; a payload counts 0. */
export const sizeOfPart = (part: Part): number => partKind(part.part)?.size(part) ?? 0
