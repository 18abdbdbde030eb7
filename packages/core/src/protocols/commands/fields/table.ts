import type { CommandField, FieldKind } from '../field.ts'
import { check } from './check.ts'
import { clock } from './clock.ts'
import { constant } from './constant.ts'
import { number } from './number.ts'
import { text } from './text.ts'

const table = new Map<string, FieldKind>([constant, number, text, clock, check].map((kind) => [kind.field, kind]))

/** The kinds there are, in the order they are offered. */
export const fieldKinds = (): FieldKind[] => [...table.values()]

/** The kind of that name, or undefined: a document of a later version may have others. */
export const fieldKind = (field: string): FieldKind | undefined => table.get(field)

/** Adds a kind; a test registers one of its own and takes it out again with the function it gets back. */
export function registerFieldKind(kind: FieldKind): () => void {
  table.set(kind.field, kind)
  return () => void table.delete(kind.field)
}

/** A field as it is before anyone has said more. */
export const freshField = (kind: string): CommandField => ({ field: kind, ...fieldKind(kind)!.settings.defaults })
