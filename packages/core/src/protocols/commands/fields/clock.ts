import { bad, good } from '../../../base/index.ts'
import { choiceText, oneOf, type CompiledOf } from '../../../describe/index.ts'
import { putWire, takeWire, type WireNumber } from '../../../frames/index.ts'
import { described, settingTypes as t } from '../../../settings/index.ts'
import { dateOf, daysOf, formatValue, type Holds } from '../../../variables/index.ts'
import { fieldGroup as group, fieldKindOf } from '../field.ts'

const parts = oneOf({
  hms: 'hours, minutes, seconds',
  hm: 'hours, minutes',
  ymd: 'year, month, day',
  dmy: 'day, month, year',
})
const spellings = oneOf({ bcd: 'BCD', binary: 'binary', decimal: 'decimal digits (ASCII)' })

const settings = described({
  label: { label: 'Name', type: t.text, default: 'time', group },
  variable: { label: 'Variable', type: t.touched, default: '', group, hint: 'the clock: seconds; the date: days since 2000' },
  parts: { label: 'Parts', type: parts, default: 'hms', group },
  spelling: { label: 'Spelling', type: spellings, default: 'bcd', group },
  value: {
    label: 'Value when none is given',
    type: t.whole,
    default: 0,
    min: 0,
    group,
    of: { variable: 'variable', as: 'value' },
  },
})
type Compiled = CompiledOf<typeof settings.fields>

const isDate = ({ parts: of }: Compiled): boolean => of === 'ymd' || of === 'dmy'
const wireOf = ({ spelling }: Compiled): WireNumber => ({ size: spelling === 'decimal' ? 2 : 1, order: 'high', spelling })
const sizeOf = (field: Compiled): number => field.parts.length * wireOf(field).size

const holdsOf = (field: Compiled): Holds =>
  field.variable?.holds ??
  (isDate(field) ? { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 36_524 } : { type: 'time' })

/** The number of each part, in the order of the field: a year as its two last digits, from 2000 on. */
function numbersOf(field: Compiled, value: number): number[] | null {
  if (isDate(field)) {
    const { year, month, day } = dateOf(value)
    if (year < 2000 || year > 2099) return null
    return field.parts === 'ymd' ? [year - 2000, month, day] : [day, month, year - 2000]
  }
  if (value < 0 || value > 86_399) return null
  return [Math.floor(value / 3600), Math.floor(value / 60) % 60, value % 60].slice(0, field.parts.length)
}

function valueOf(field: Compiled, numbers: readonly number[]): number | null {
  const [a, b, c = 0] = numbers as [number, number, number?]
  if (!isDate(field)) return a < 24 && b < 60 && c < 60 ? a * 3600 + b * 60 + c : null
  const [year, day] = field.parts === 'ymd' ? [a, c] : [c, a]
  if (b < 1 || b > 12 || day < 1) return null
  const days = daysOf(2000 + year, b, day)
  // A day that its month does not have would be another one.
  const back = dateOf(days)
  return back.month === b && back.day === day ? days : null
}

/** A time of day or a date, each of its parts in two figures: hours before minutes before seconds. */
export const clock = fieldKindOf({
  field: 'clock',
  label: 'time or date',
  tint: 'payload',
  settings,
  made: (field) => `${choiceText(parts, field.parts)}, ${choiceText(spellings, field.spelling)}`,
  size: sizeOf,
  put(field, value) {
    const numbers = typeof value === 'number' ? numbersOf(field, value) : null
    if (!numbers) return bad('command.value', { name: field.label, value: formatValue(holdsOf(field), value, false) })
    const number = wireOf(field)
    const bytes = new Uint8Array(sizeOf(field))
    numbers.forEach((one, k) => putWire(bytes, k * number.size, number, one))
    return good([...bytes])
  },
  read(field, bytes, from) {
    const number = wireOf(field)
    const numbers = Array.from(field.parts, (_, k) => takeWire(bytes, from + k * number.size, number))
    return numbers.some((one) => one < 0) ? null : valueOf(field, numbers)
  },
  carries: (field) => ({ label: field.label, cell: field.variable, holds: holdsOf(field), value: field.value }),
})
