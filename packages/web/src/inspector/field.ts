import type { FormField, Values } from '@moth-lamp/core/describe'
import type { ComponentType } from 'react'

/** Properties of the field for one setting. `mixed`: several are selected and differ. */
export interface FieldProps {
  setting: FormField
  value: unknown
  mixed: boolean
  onChange(value: unknown): void
  /** The other settings of the same record. */
  siblings: Values
  /** For new variables made from here. */
  nameHint: string
  /** Text before the field; without this, the label of the setting. */
  shown?: string
}

/** As fields get them that show settings of their own: with the field by which each is shown. */
export interface NestingProps extends FieldProps {
  Field: ComponentType<FieldProps>
}
