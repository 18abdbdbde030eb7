import type { FormField, Values } from '@moth-lamp/core/describe'
import type { ComponentType } from 'react'

/** What a field for one setting is given. `mixed`: several are selected and differ. */
export interface FieldProps {
  setting: FormField
  value: unknown
  mixed: boolean
  onChange(value: unknown): void
  /** The other settings of the same record. */
  beside: Values
  /** For new variables made from here. */
  nameHint: string
  /** What stands before the field; without this, the label of the setting. */
  shown?: string
}

/** As a field gets them: with the row by which it shows settings of its own. */
export interface RowedProps extends FieldProps {
  Row: ComponentType<FieldProps>
}
