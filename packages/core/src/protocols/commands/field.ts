import type { Problem, Result } from '../../base/index.ts'
import type { CompiledOf, Described, Fields } from '../../describe/index.ts'
import type { CompileContext } from '../../settings/index.ts'
import type { Cell, Holds, Value } from '../../variables/index.ts'

/** A field of a command as it is stored: its kind, and its settings beside it. */
export type CommandField = { id?: string; field: string } & Record<string, unknown>

/** The same in a build. */
export interface CompiledField {
  field: string
  with: Readonly<Record<string, unknown>>
}

/** A value that travels in a field: its name, the variable that it is, and the type by which it is shown. */
export interface Carried {
  label: string
  cell: Cell | null
  holds: Holds
  /** Where neither a variable nor anybody says one. */
  value: Value
}

/** A kind of field, in one file: content of a command, checks, editor and explanations are derived from it. */
export interface FieldKindOf<F extends Fields<CompileContext>> {
  field: string
  label: string
  /** The colour it is shown in, as the part of a frame that means the same. */
  tint: string
  settings: Described<CompileContext, F>
  /** How it is made, in a few words. */
  made(field: CompiledOf<F>): string
  /** Its bytes; null: it ends where what stands behind it begins. */
  size(field: CompiledOf<F>): number | null
  /** The bytes of a value. `before`: what stands before it in the command. Problems: `command.value` (name, value). */
  put(field: CompiledOf<F>, value: Value, before: readonly number[]): Result<readonly number[]>
  /** The value of some bytes, '' where none travels; null: they are none of it. */
  read(field: CompiledOf<F>, bytes: Uint8Array, from: number, to: number): Value | null
  /** The value that travels in it; without this, none. */
  carries?(field: CompiledOf<F>): Carried
  /** The bytes that always stand there. */
  constant?(field: CompiledOf<F>): readonly number[]
  /** Why it cannot be so, or null. */
  wrong?(field: CompiledOf<F>): Problem | null
}

/** A kind in the table, where each has its own settings. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what stands in the settings is the kind's own business
export type FieldKind = FieldKindOf<any>

export const fieldKindOf = <const F extends Fields<CompileContext>>(kind: FieldKindOf<F>): FieldKindOf<F> => kind

export const fieldGroup = 'Field'
