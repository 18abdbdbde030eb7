import type { FormField } from '@moth-lamp/core/describe'

/** What a field for one setting is given. `mixed`: several are selected and differ. */
export interface FieldProps {
  setting: FormField
  value: unknown
  mixed: boolean
  onChange(value: unknown): void
  /** For new variables made from here. */
  nameHint: string
}
