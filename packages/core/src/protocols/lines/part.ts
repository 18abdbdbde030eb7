import type { Order, Problem, Result } from '../../base/index.ts'
import type { Described, Fields, FollowContext, RawOf } from '../../describe/index.ts'
import type { EventKind, Message, Numbered, Operation, PlacedBytes, Reason } from '../../frames/index.ts'
import type { NamedCell, WireNames } from './names.ts'
import type { Spelling } from './spelling.ts'

/** Why a line is none of a form: a code of `lineFaults`, and the characters that it speaks of. */
export interface LineFault extends Problem {
  from: number
  to: number
}
export const isFault = (value: unknown): value is LineFault =>
  typeof value === 'object' && value !== null && 'code' in value && 'from' in value

/** A value as it is spelt, without quotes, and its place in the line. */
export interface Spelt {
  text: string
  from: number
  to: number
}

/** Content of a line while its parts are read one after another. */
export interface LineReading {
  sequence: number
  named: NamedCell | null
  /** Number of a widget or a message. */
  number: number | null
  /** Kind of what is answered, where that is its number. */
  to: Numbered | null
  /** The value as it is spelt, without quotes; it is understood when the name is known. */
  spelt: Spelt | null
  payload: readonly number[] | null
  /** Places behind the first, where the line has several. */
  also: readonly PlacedBytes[]
  what: EventKind | null
  reason: Reason | null
}

/** All that a part may ask of its way and its form. */
export interface Ground {
  names: WireNames
  spelling: Spelling
  memory: Order
  operation: Operation
  /** Where what begins at a place ends, by the part behind it: at its first character, or with the line. */
  until(line: string, at: number): number
  /** Bytes that end a line, or are passed over: not even a quoted text has them as they are. */
  ends(byte: number): boolean
  /** Bytes that may not stand in what is not quoted: also those with which the part behind it begins. */
  stops(byte: number): boolean
}

/** A kind of part of a line, in one file: codec, checks, editor and explanations are derived from it. */
export interface LinePartKindOf<F extends Fields<FollowContext>> {
  part: string
  label: string
  /** The colour it is shown in, as the part of a frame of bytes that means the same. */
  tint: string
  settings: Described<FollowContext, F>
  /** How it is made, in a few words. */
  made(part: RawOf<F>): string
  /** The characters of a message. `before`: what stands before it in the line. */
  put(part: RawOf<F>, message: Message, ground: Ground, before: string): Result<string>
  /** Reads it at its place; the place behind it. */
  read(part: RawOf<F>, line: string, at: number, into: LineReading, ground: Ground): number | LineFault
  /** The characters that always stand there. */
  constant?(part: RawOf<F>): string
  /** Its characters, where their number is known. */
  size?(part: RawOf<F>): number
  /** May stand in a line more than once. */
  many?: true
  /** The operations that nobody could act on without it, and those it has a use in; without `onlyIn`, all. */
  neededBy?: readonly Operation[]
  onlyIn?: readonly Operation[]
  /** The parts that it stands for: a line that has it needs none of them, and may have none. */
  stands?: readonly string[]
  /** The characters between several of the same in it, which what stands behind it may not begin with. */
  separates?(part: RawOf<F>): string
  /** Ends only where what stands behind it begins, so that it needs a constant behind it, or the end of the line. */
  isOpen?: true
}

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what stands in the settings is the kind's own business
export type LinePartKind = LinePartKindOf<any>

export const linePart = <const F extends Fields<FollowContext>>(kind: LinePartKindOf<F>): LinePartKindOf<F> => kind

export const faultAt = (code: string, from: number, to: number, facts: Problem['facts'] = {}): LineFault => ({
  code,
  facts,
  from,
  to,
})
