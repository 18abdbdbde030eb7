import Joi from 'joi'
import { bad, good, roundHalfAway, tenTo, type Problem, type Result } from '../../../base/index.ts'
import { choiceText, oneOf, plain, type CompiledOf } from '../../../describe/index.ts'
import { mostIn, putWire, takeWire, type WireNumber } from '../../../frames/index.ts'
import { described, settingTypes as t } from '../../../settings/index.ts'
import { formatDecimals, formatValue, parseValue, type Cell, type NumberHolds, type Value } from '../../../variables/index.ts'
import { fieldGroup as group, fieldKindOf } from '../field.ts'

const spellings = oneOf({
  binary: 'binary',
  float: 'IEEE 754, 4 bytes',
  hex: 'hex digits (ASCII)',
  decimal: 'decimal digits (ASCII)',
  bcd: 'BCD',
  shown: 'as displayed (ASCII)',
})
const size = plain<number>('whole', Joi.number().integer().min(0).max(10))

const settings = described({
  label: { label: 'Name', type: t.text, default: 'value', group },
  variable: { label: 'Variable', type: t.touched, default: '', group },
  spelling: { label: 'Spelling', type: spellings, default: 'binary', group },
  size: { label: 'Bytes', type: size, default: 1, min: 0, max: 10, group, zero: 'as many digits as needed' },
  order: { label: 'Byte order', type: oneOf({ low: 'little-endian', high: 'big-endian' }), default: 'high', group },
  signed: { label: 'Signed', type: t.yesNo, default: false, group },
  decimals: { label: 'Decimals', type: t.whole, default: 0, min: 0, max: 6, group },
  factor: { label: 'Factor', type: t.number, default: 1, group, hint: 'value = number on the wire × factor + offset' },
  offset: { label: 'Offset', type: t.number, default: 0, group },
  value: { label: 'Value when none is given', type: t.number, default: 0, group, of: { variable: 'variable', as: 'value' } },
})
type Compiled = CompiledOf<typeof settings.fields>

const bytesIn = (field: Compiled): number => (field.spelling === 'float' ? 4 : field.size)
/** Digits as many as it takes. */
const isOpen = ({ spelling, size: digits }: Compiled): boolean => spelling === 'shown' || (spelling === 'decimal' && digits === 0)
const wireOf = (field: Compiled): WireNumber => ({
  size: field.size || 1,
  order: field.order,
  spelling: field.spelling as WireNumber['spelling'],
})

const plainHolds = ({ decimals }: Compiled): NumberHolds => ({
  type: 'f32',
  factor: 1,
  offset: 0,
  decimals,
  unit: '',
  min: -Number.MAX_VALUE,
  max: Number.MAX_VALUE,
})
const holdsOf = (field: Compiled) => (field.variable as Cell | null)?.holds ?? plainHolds(field)

const ascii = (text: string): number[] => [...text].map((c) => c.charCodeAt(0) & 0xff)
const textOf = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to))

/** Numbers that a field of so many bytes has in all, where it is binary. */
const span = (field: Compiled): number => mostIn(wireOf(field)) + 1

/** A value as the number on the wire, decimals included. */
const onWire = ({ factor, offset }: Compiled, value: number): number => (value - offset) / factor

function put(field: Compiled, value: Value): Result<readonly number[]> {
  const wrong = bad('command.value', { name: field.label, value: formatValue(holdsOf(field), value, false) })
  if (field.spelling === 'shown') return good(ascii(formatValue(holdsOf(field), value, false)))
  if (typeof value !== 'number' || !Number.isFinite(onWire(field, value))) return wrong
  const raw = onWire(field, value)
  if (field.spelling === 'float') {
    const view = new DataView(new ArrayBuffer(4))
    view.setFloat32(0, raw, field.order === 'low')
    return good([...new Uint8Array(view.buffer)])
  }
  if (field.spelling === 'decimal' && (isOpen(field) || field.decimals)) return spelt(field, raw) ?? wrong
  const whole = roundHalfAway(raw * tenTo(field.decimals))
  if (field.spelling === 'decimal' && field.signed && whole < 0) return spelt(field, raw) ?? wrong
  const least = field.signed && field.spelling === 'binary' ? -span(field) / 2 : 0
  const most = field.signed && field.spelling === 'binary' ? span(field) / 2 - 1 : span(field) - 1
  if (whole < least || whole > most) return wrong
  const bytes = new Uint8Array(field.size)
  putWire(bytes, 0, wireOf(field), whole < 0 ? whole + span(field) : whole)
  return good([...bytes])
}

/** Decimal digits, zeros in front where their number is fixed; null: they do not fit. */
function spelt(field: Compiled, raw: number): Result<readonly number[]> | null {
  const text = formatDecimals(raw, field.decimals)
  const isNegative = text.startsWith('-')
  if ((isNegative && !field.signed) || !/^-?\d+(\.\d+)?$/.test(text)) return null
  if (!field.size) return good(ascii(text))
  const digits = text.slice(isNegative ? 1 : 0).padStart(field.size - (isNegative ? 1 : 0), '0')
  const all = (isNegative ? '-' : '') + digits
  return all.length > field.size ? null : good(ascii(all))
}

function read(field: Compiled, bytes: Uint8Array, from: number, to: number): Value | null {
  if (field.spelling === 'shown') {
    const parsed = parseValue(holdsOf(field), textOf(bytes, from, to))
    return parsed.ok ? parsed.value : null
  }
  const raw = rawIn(field, bytes, from, to)
  // A product of decimal fractions is brought back to the digits that it was meant to have.
  return raw === null ? null : Number((raw * field.factor + field.offset).toPrecision(12))
}

function rawIn(field: Compiled, bytes: Uint8Array, from: number, to: number): number | null {
  if (field.spelling === 'float') {
    const raw = new DataView(bytes.buffer, bytes.byteOffset + from, 4).getFloat32(0, field.order === 'low')
    return Number.isFinite(raw) ? Number(raw.toPrecision(7)) : null
  }
  if (field.spelling === 'decimal') {
    const text = textOf(bytes, from, to)
    const decimals = field.decimals ? `\\.\\d{${field.decimals}}` : ''
    return new RegExp(`^${field.signed ? '-?' : ''}\\d{1,10}${decimals}$`).test(text) ? Number(text) : null
  }
  const whole = takeWire(bytes, from, wireOf(field))
  if (whole < 0) return null
  const isNegative = field.signed && field.spelling === 'binary' && whole >= span(field) / 2
  return (isNegative ? whole - span(field) : whole) / tenTo(field.decimals)
}

/** A number: of a variable, or one that is said when the command is sent. */
export const number = fieldKindOf({
  field: 'number',
  label: 'number',
  tint: 'payload',
  settings,
  made: (field) =>
    `${choiceText(spellings, field.spelling)}${isOpen(field) ? '' : `, ${bytesIn(field)} ${bytesIn(field) === 1 ? 'byte' : 'bytes'}`}`,
  size: (field) => (isOpen(field) ? null : bytesIn(field)),
  put,
  read,
  carries: (field) => ({ label: field.label, cell: field.variable, holds: holdsOf(field), value: field.value }),
  wrong: (field): Problem | null => {
    const { spelling, size: bytes, factor, label } = field
    if (factor === 0) return { code: 'command.factor', facts: { name: label } }
    if ((spelling === 'binary' || spelling === 'bcd') && (bytes < 1 || bytes > 4))
      return { code: 'command.size', facts: { name: label, most: 4 } }
    return spelling === 'hex' && (bytes < 1 || bytes > 8) ? { code: 'command.size', facts: { name: label, most: 8 } } : null
  },
})
