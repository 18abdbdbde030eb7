import Joi from 'joi'
import type { Problem } from '../base/index.ts'
import { plain, type Described, type Fields, type FollowContext, type RawOf } from '../describe/index.ts'
import type { FramingAt } from './compiled.ts'

type Settings = Fields<FollowContext>

/** How a frame is found in the stream of bytes, a kind in one file: decoder, anatomy, checks, hints and editor ask it. */
export interface FramingKindOf<F extends Settings> {
  kind: string
  label: string
  detail: string
  settings: Described<FollowContext, F>
  /** The end of a frame is known by its length field. */
  isLedByLength?: true
  /** Bytes of every body, where all have the same number. */
  bodySize?(framing: RawOf<F>): number
  /** The end of a frame is a silence, so that a sender must leave one behind each. */
  endsBySilence?: true
  at(framing: RawOf<F>): FramingAt
  /** Why it cannot be used as it is set, or null. */
  wrong(framing: RawOf<F>): Problem | null
}

/** A kind in the table, where each has its own settings. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what stands in the settings is the kind's own business
export type FramingKindRecord = FramingKindOf<any>

export const framingOf = <const F extends Settings>(kind: FramingKindOf<F>): FramingKindOf<F> => kind

const group = 'Framing'
const byte = Joi.number().integer().min(0).max(255)
const byteType = plain<number>('byte', byte)

export const byteField = (label: string, value: number, before = label.toLowerCase()) => ({
  label,
  type: byteType,
  default: value,
  group,
  before,
})
/** A few bytes, or none. */
export const bytesField = (label: string, value: readonly number[], least: number, most: number, hint = '') => ({
  label,
  type: plain<readonly number[]>('bytes', Joi.array().items(byte).min(least).max(most)),
  default: value,
  group,
  ...(hint ? { hint } : {}),
})
/** A byte and its code, one pair behind the other; without any, a byte is sent XOR another. */
export const codesField = bytesField('Escape table', [], 0, 16, 'byte and code, in pairs')
