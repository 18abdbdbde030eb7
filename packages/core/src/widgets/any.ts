import type { Values } from '../describe/index.ts'
import type { Rule, CompiledRule } from '../rules/index.ts'
import type { FontSetting } from '../settings/index.ts'
import type { Align } from './text-box.ts'

/** Common members of a stored widget, whatever its kind: absent where the kind has it not. */
export interface AnyRaw {
  variable?: string
  rules?: readonly Rule[]
  font?: FontSetting
  align?: Align
}
export const rawOf = ({ settings }: { settings: Values }): AnyRaw => settings

/** Common settings of every widget, whatever its kind, once every follower has its value of now. */
export interface AnySettled {
  visible?: boolean
  enabled?: boolean
  beeps?: boolean
  /** The level that it asks for, 0–3. */
  level?: number
  /** After so long a touch is a long one, ms. */
  holdMs?: number
  /** Press duration after which the action runs. */
  confirms?: boolean
  rules?: readonly CompiledRule[]
}
export const settledOf = (settings: Values): AnySettled => settings
