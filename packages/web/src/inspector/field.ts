import type { Setting } from '@moth-lamp/core/settings'

/** What a field for one setting is given. `mixed`: several are selected and differ. */
export interface FieldProps {
  setting: Setting
  value: unknown
  mixed: boolean
  onChange(value: unknown): void
  /** For new variables made from here. */
  nameHint: string
}
