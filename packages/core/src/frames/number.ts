import Joi from 'joi'
import { putNumber, takeNumber, type Order } from '../base/index.ts'
import { choiceText, oneOf, plain } from '../describe/index.ts'

/** How a number stands on the wire: as bytes, as figures of ASCII, or two decimal figures a byte (binary coded decimal). */
const spellings = oneOf({ binary: 'binary', hex: 'hex digits (ASCII)', decimal: 'decimal digits (ASCII)', bcd: 'BCD' })
export type NumberSpelling = keyof NonNullable<typeof spellings.labels> & ('binary' | 'hex' | 'decimal' | 'bcd')

/** An unsigned number of a frame: so many bytes on the wire, the least significant first (`low`) or last. */
export interface WireNumber {
  size: number
  order: Order
  spelling: NumberSpelling
}

const group = 'Part'
const size = plain<number>('whole', Joi.number().integer().min(1).max(8))

/** The settings of a part that is a number; of more than four bytes only figures can be. */
export const numberFields = (bytes: number) => ({
  size: { label: 'Bytes', type: size, default: bytes, min: 1, max: 8, group },
  order: {
    label: 'Byte order',
    type: oneOf({ low: 'little-endian', high: 'big-endian' }),
    default: 'high' as Order,
    group,
  },
  spelling: { label: 'Spelling', type: spellings, default: 'binary' as NumberSpelling, group },
})

/** The largest number of so many bytes on the wire. */
export function mostIn({ size: bytes, spelling }: Pick<WireNumber, 'size' | 'spelling'>): number {
  const base = { binary: 256, hex: 16, decimal: 10, bcd: 100 }[spelling]
  let most = 1
  for (let k = 0; k < bytes && most <= 0xffffffff; k++) most *= base
  return Math.min(most - 1, 0xffffffff)
}

/** The byte of each place, the most significant first. */
const placesOf = ({ size: bytes, spelling }: WireNumber, value: number): number[] => {
  const [base, ascii] = { binary: [256, 0], hex: [16, 1], decimal: [10, 1], bcd: [100, 0] }[spelling] as [number, number]
  const out: number[] = []
  for (let rest = value; out.length < bytes; rest = Math.floor(rest / base)) {
    const digit = rest % base
    out.unshift(
      ascii
        ? digit.toString(base).toUpperCase().charCodeAt(0)
        : spelling === 'bcd'
          ? (Math.floor(digit / 10) << 4) | (digit % 10)
          : digit,
    )
  }
  return out
}

/** The value of one byte at a place, or −1 where it is no figure. */
function figure(spelling: NumberSpelling, byte: number): number {
  if (spelling === 'bcd') return byte >> 4 > 9 || (byte & 15) > 9 ? -1 : (byte >> 4) * 10 + (byte & 15)
  if (byte >= 0x30 && byte <= 0x39) return byte - 0x30
  return spelling === 'hex' && byte >= 0x41 && byte <= 0x46 ? byte - 0x37 : -1
}

/** Writes a number at `at`; one that is too large is taken modulo the first that has no place. */
export function putWire(into: Uint8Array, at: number, number: WireNumber, value: number): void {
  if (number.spelling === 'binary') return putNumber(into, at, number.size, number.order, value)
  const places = placesOf(number, value)
  for (let i = 0; i < places.length; i++) into[at + i] = places[number.order === 'high' ? i : places.length - 1 - i]!
}

/** Reads a number at `at`; −1 where a byte is no figure of its spelling. */
export function takeWire(from: ArrayLike<number>, at: number, { size: bytes, order, spelling }: WireNumber): number {
  if (spelling === 'binary') return takeNumber(from, at, bytes, order)
  const base = spelling === 'hex' ? 16 : spelling === 'decimal' ? 10 : 100
  let value = 0
  for (let i = 0; i < bytes; i++) {
    const next = figure(spelling, from[at + (order === 'high' ? i : bytes - 1 - i)]!)
    if (next < 0) return -1
    value = value * base + next
  }
  return value
}

/** `2 bytes, little-endian`, `4 decimal digits (ASCII)` */
export const numberWords = ({ size: bytes, order, spelling }: WireNumber): string => {
  if (spelling === 'hex' || spelling === 'decimal')
    return `${bytes} ${choiceText(spellings, spelling)}${order === 'low' && bytes > 1 ? ', low first' : ''}`
  const ends = bytes === 1 ? '1 byte' : `${bytes} bytes, ${order === 'low' ? 'little' : 'big'}-endian`
  return spelling === 'bcd' ? `${ends}, BCD` : ends
}

/** Why a number cannot be so, or null. Code: `layout.number-size` (size). */
export const numberWrong = ({ size: bytes, spelling }: WireNumber) =>
  bytes > 4 && (spelling === 'binary' || spelling === 'bcd') ? { code: 'layout.number-size', facts: { size: bytes } } : null
