import type { LinePart } from '../../../frames/index.ts'
import type { LinePartKind } from '../part.ts'
import { check } from './check.ts'
import { gap, words } from './constant.ts'
import { name, number } from './named.ts'
import { reason, sequence, what } from './told.ts'
import { pairs } from './pairs.ts'
import { hexData, raw, value } from './valued.ts'

const table = new Map<string, LinePartKind>(
  [words, gap, name, number, value, pairs, hexData, raw, sequence, what, reason, check].map((kind) => [kind.part, kind]),
)

/** The kinds there are, in the order they are offered. */
export const linePartKinds = (): LinePartKind[] => [...table.values()]

/** The kind of that name, or undefined: a layout of a later version may have others. */
export const linePartKind = (part: string): LinePartKind | undefined => table.get(part)

/** Adds a kind; a test registers one of its own and takes it out again with the function it gets back. */
export function registerLinePart(kind: LinePartKind): () => void {
  table.set(kind.part, kind)
  return () => void table.delete(kind.part)
}

/** A part as it is before anyone has said more. */
export const freshLinePart = (kind: string): LinePart => ({ part: kind, ...linePartKind(kind)!.settings.defaults })
