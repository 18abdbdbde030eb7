import { NumberField } from '../controls/fields.tsx'

interface Props {
  /** The setting as its description has it: its label, unit and limits are told there alone. */
  field: { label: string; min?: number; max?: number; unit?: string; type: { name: string } }
  /** A sign before the number. */
  left?: string
  value: number
  onCommit(value: number): void
}

/** A number of a description where it stands in a picture or a sentence. */
export function DescribedNumber({ field: { label, min, max, unit, type }, left, value, onCommit }: Props) {
  const whole = type.name === 'whole'
  return <NumberField {...{ label, min, max, unit, left, whole, value, onCommit }} />
}
