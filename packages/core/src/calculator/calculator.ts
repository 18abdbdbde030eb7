import {
  checksumFunction,
  checksumNames,
  checksums,
  checksumSize,
  hexByte,
  putNumber,
  takeNumber,
  toHex,
  type Order,
} from '../base/index.ts'
import {
  decodeValue,
  encodeValue,
  formatValue,
  isNumber,
  parseValue,
  rawLimits,
  wordsOf,
  type Holds,
} from '../variables/index.ts'

/** One way of writing what was typed. */
export interface CalculatorRow {
  label: string
  text: string
}

/** Rows that belong together. */
export interface CalculatorGroup {
  label: string
  rows: readonly CalculatorRow[]
}

/** Kind of the typed text, a whole number, a decimal, bytes, or characters; '' where it is none of them. */
export interface Calculation {
  kind: 'number' | 'decimal' | 'bytes' | 'text' | ''
  groups: readonly CalculatorGroup[]
}

const row = (label: string, text: string): CalculatorRow => ({ label, text })
const spaced = (text: string, every: number): string => text.replaceAll(new RegExp(`\\B(?=(.{${every}})+$)`, 'g'), ' ')

/** So many bytes are looked at. */
const mostBytes = 1024

/**
 * Reads a number (`500`, `-3`, `0x1F4`, `1F4h`, `0b1010`), a decimal (`3.14`), bytes in hex (`7E 51`, `0x7E, 0x51`), or characters in
 * quotes, and writes it in every other way. One pair of hex digits is a decimal number unless it says `0x`.
 */
export function calculate(text: string): Calculation {
  const typed = text.trim()
  const quoted = /^["'](.*)["']$/s.exec(typed)
  if (quoted)
    return ofBytes(
      Array.from(quoted[1]!, (c) => c.charCodeAt(0) & 0xff),
      'text',
    )
  const whole = wholeOf(typed)
  if (whole !== null) return ofNumber(whole)
  if (/^[+-]?\d*[.,]\d+(e[+-]?\d+)?$/i.test(typed)) return ofDecimal(Number(typed.replace(',', '.')))
  const bytes = bytesOf(typed)
  if (bytes) return ofBytes(bytes, 'bytes')
  return typed && [...typed].every((c) => c >= ' ' && c <= '~')
    ? ofBytes(
        Array.from(typed, (c) => c.charCodeAt(0)),
        'text',
      )
    : { kind: '', groups: [] }
}

/** A whole number from −2³¹ to 2³² − 1; null: none. */
function wholeOf(text: string): number | null {
  const plain = text.replaceAll('_', '')
  const value = /^[+-]?\d{1,10}$/.test(plain)
    ? Number(plain)
    : /^0x[0-9a-f]{1,8}$/i.test(plain)
      ? Number(plain)
      : /^[0-9a-f]{1,8}h$/i.test(plain)
        ? parseInt(plain, 16)
        : /^0b[01]{1,32}$/i.test(plain)
          ? parseInt(plain.slice(2), 2)
          : NaN
  return value >= -0x8000_0000 && value <= 0xffff_ffff ? value : null
}

function bytesOf(text: string): number[] | null {
  const tokens = text.split(/[\s,;{}[\]()]+/).filter(Boolean)
  if (!tokens.length || !tokens.every((token) => /^(0x)?([0-9a-f]{2})+$/i.test(token))) return null
  return tokens
    .flatMap((token) =>
      token
        .replace(/^0x/i, '')
        .match(/../g)!
        .map((pair) => parseInt(pair, 16)),
    )
    .slice(0, mostBytes)
}

/** Bytes of a number of so many bytes; one below zero in two's complement. */
function numberBytes(value: number, size: number, order: Order): Uint8Array {
  const out = new Uint8Array(size)
  putNumber(out, 0, size, order, value)
  return out
}

const hexOf = (value: number, digits: number): string => `0x${(value >>> 0).toString(16).toUpperCase().padStart(digits, '0')}`

function ofNumber(value: number): Calculation {
  const size = value >= -0x8000 && value <= 0xffff ? 2 : 4
  const bits = ((size === 2 ? value & 0xffff : value) >>> 0).toString(2).padStart(value >= 0 && value <= 0xff ? 8 : size * 8, '0')
  const set = [...Array(size * 8).keys()].filter((bit) => (value >>> bit) & 1)
  const rows = [
    row('decimal', String(value)),
    row('hex', hexOf(size === 2 ? value & 0xffff : value, value >= 0 && value <= 0xff ? 2 : size * 2)),
    row('binary', spaced(bits, 4)),
    ...(set.length && set.length <= 8 ? [row('bits set', set.join(', '))] : []),
    ...(value >= 0 && value <= 99_999_999 ? [row('BCD', bcdOf(value))] : []),
    row('characters', toHex(Array.from(String(value), (c) => c.charCodeAt(0)))),
  ]
  const bytes = [
    ...(size === 2
      ? [
          row('16 bits, low byte first', toHex(numberBytes(value, 2, 'low'))),
          row('16 bits, high byte first', toHex(numberBytes(value, 2, 'high'))),
        ]
      : []),
    row('32 bits, low byte first', toHex(numberBytes(value, 4, 'low'))),
    row('32 bits, high byte first', toHex(numberBytes(value, 4, 'high'))),
    row('float, low byte first', toHex(floatBytes(value, 'low'))),
    row('float, high byte first', toHex(floatBytes(value, 'high'))),
  ]
  const signed = [
    ...(value > 0x7f && value <= 0xff ? [row('as 8 bits with sign', String(value - 0x100))] : []),
    ...(value > 0x7fff && value <= 0xffff ? [row('as 16 bits with sign', String(value - 0x1_0000))] : []),
    ...(value > 0x7fff_ffff ? [row('as 32 bits with sign', String(value - 0x1_0000_0000))] : []),
    ...(value < 0 ? [row('as it is without sign', String(size === 2 ? value + 0x1_0000 : value + 0x1_0000_0000))] : []),
  ]
  return {
    kind: 'number',
    groups: [
      { label: 'Number', rows: [...rows, ...signed] },
      { label: 'On the wire', rows: bytes },
    ],
  }
}

/** Two decimal digits a byte: `05 00`. */
function bcdOf(value: number): string {
  const digits = String(value)
  return spaced(digits.length % 2 ? `0${digits}` : digits, 2)
}

/** IEEE 754 binary32. */
function floatBytes(value: number, order: Order): Uint8Array {
  const view = new DataView(new ArrayBuffer(4))
  view.setFloat32(0, value, order === 'low')
  return new Uint8Array(view.buffer)
}

function ofDecimal(value: number): Calculation {
  const rows = [
    row('float, low byte first', toHex(floatBytes(value, 'low'))),
    row('float, high byte first', toHex(floatBytes(value, 'high'))),
    row('nearest float', String(Math.fround(value))),
    row('characters', toHex(Array.from(String(value), (c) => c.charCodeAt(0)))),
  ]
  return { kind: 'decimal', groups: [{ label: 'On the wire', rows }] }
}

function ofBytes(bytes: readonly number[], kind: 'bytes' | 'text'): Calculation {
  const all = Uint8Array.from(bytes.slice(0, mostBytes))
  if (!all.length) return { kind: '', groups: [] }
  const isSeen = all.every((byte) => byte >= 0x20 && byte < 0x7f)
  const digits = [...all].map(hexByte).join('')
  const rows = [
    row('hex', toHex(all)),
    row('C array', `{ ${Array.from(all, (byte) => `0x${hexByte(byte)}`).join(', ')} }`),
    row('decimal', [...all].join(' ')),
    ...(isSeen ? [row('characters', String.fromCharCode(...all))] : []),
    ...(/^\d+$/.test(digits) && all.length <= 4 ? [row('BCD', String(Number(digits)))] : []),
    row('bytes', String(all.length)),
  ]
  const asNumbers =
    all.length === 2 || all.length === 4 || all.length === 1
      ? (['low', 'high'] as const).slice(0, all.length === 1 ? 1 : 2).flatMap((order) => numbersOf(all, order))
      : []
  const checks = checksumNames.flatMap((name) => {
    const [size, value] = [checksumSize(name), checksumFunction(name)(all, 0, all.length)]
    const text = toHex(numberBytes(value, size, 'high'))
    return [row(checksums[name].label, size === 1 ? text : `${text}`)]
  })
  return {
    kind,
    groups: [
      { label: 'Bytes', rows },
      ...(asNumbers.length ? [{ label: 'As a number', rows: asNumbers }] : []),
      { label: 'Checks, high byte first', rows: checks },
    ],
  }
}

function numbersOf(bytes: Uint8Array, order: Order): CalculatorRow[] {
  const value = takeNumber(bytes, 0, bytes.length, order)
  const words = bytes.length === 1 ? '' : `${order} byte first`
  const limit = 2 * [0, 0x80, 0x8000, 0, 0x8000_0000][bytes.length]!
  const label = (what: string) => [what, words].filter(Boolean).join(', ')
  const signed = value >= limit / 2 ? [row(label('with sign'), String(value - limit))] : []
  if (bytes.length !== 4) return [row(label('number'), String(value)), ...signed]
  const view = new DataView(Uint8Array.from(bytes).buffer)
  return [row(label('number'), String(value)), ...signed, row(label('float'), String(view.getFloat32(0, order === 'low')))]
}

/** A typed value in the scale of a variable: raw and shown, and its words of memory. `order`: of bytes and words in memory. Empty: no value of it. */
export function scaleRows(holds: Holds, text: string, order: Order): CalculatorRow[] {
  const typed = text.trim()
  const shown = parseValue(holds, typed)
  const rows: CalculatorRow[] = []
  const bytesIn = (words: Uint16Array) => toHex([...words].flatMap((word) => [...numberBytes(word, 2, order)]))
  if (shown.ok) {
    const words = encodeValue(holds, shown.value, order)
    if (words.ok) {
      rows.push(row(`${formatValue(holds, shown.value)} in memory`, bytesIn(words.value)))
      if (isNumber(holds) && holds.type !== 'f32')
        rows.push(row(`${formatValue(holds, shown.value)} raw`, String(rawIn(words.value, order))))
    }
  }
  const raw = wholeOf(typed)
  if (raw !== null && isNumber(holds) && holds.type !== 'f32') {
    const { min, max } = rawLimits[holds.type]
    if (raw >= min && raw <= max) {
      const words = wordsOf(holds) === 1 ? Uint16Array.of(raw & 0xffff) : longWords(raw, order)
      rows.push(row(`raw ${raw} is shown`, formatValue(holds, decodeValue(holds, words, order))))
    }
  }
  return rows
}

const longWords = (raw: number, order: Order): Uint16Array => {
  const [low, high] = [raw & 0xffff, (raw >>> 16) & 0xffff]
  return order === 'low' ? Uint16Array.of(low, high) : Uint16Array.of(high, low)
}

const rawIn = (words: Uint16Array, order: Order): number =>
  words.length === 1
    ? words[0]!
    : (order === 'low' ? words[1]! : words[0]!) * 0x1_0000 + (order === 'low' ? words[0]! : words[1]!)
