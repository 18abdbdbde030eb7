import { bad, good, bytesToWords, wordsToBytes, type Result } from '../../base/index.ts'
import { oneOf, record, whole } from '../../describe/index.ts'
import type { BadCode } from '../bad.ts'
import { mostIn, putWire, takeWire, type WireNumber } from '../number.ts'
import { partOf, type Carried, type Packing } from '../part.ts'

const group = 'Part'
const signs = oneOf({ none: 'no sign', first: '+ or − first' })

/**
 * The data as digits of ASCII: each byte as two hex digits, or each word as a decimal number. Problem: `frame.digits` (value, digits).
 */
export const digits = partOf({
  part: 'digits',
  label: 'data as digits',
  settings: record({
    spelling: {
      label: 'Spelling',
      type: oneOf({ hex: 'hex, two digits a byte', decimal: 'decimal, a number a word' }),
      default: 'hex',
      group,
    },
    digits: { label: 'Digits a number', type: whole, default: 5, min: 1, max: 10, group },
    sign: { label: 'Sign', type: signs, default: 'none', group },
  }),
  idle: ({ spelling }) => (spelling === 'hex' ? ['digits', 'sign'] : []),
  onlyIn: ['write', 'value', 'report', 'message', 'done'],
  tells: 'payload',
  stands: ['payload'],
  spans: 'payload',
  packs: ({ spelling, digits: size, sign }, memory, swaps) =>
    spelling === 'hex' ? inHex(swaps) : inDecimals(size, sign === 'first', memory),
  size: () => 0,
  made: ({ spelling, digits: size, sign }) =>
    spelling === 'hex' ? '2n hex digits' : `${size} decimal digits a word${sign === 'first' ? ', sign first' : ''}`,
})

/** The bytes of a word in each other's place; a last byte without its other half stays where it is. */
export const swapped = (bytes: readonly number[], swaps: boolean): readonly number[] =>
  swaps ? bytes.map((byte, i) => bytes[i ^ 1] ?? byte) : bytes

function inHex(swaps: boolean): Packing {
  const two: WireNumber = { size: 2, order: 'high', spelling: 'hex' }
  return {
    bytesPerByte: 2,
    pack({ payload }) {
      const out = new Uint8Array(payload.length * 2)
      swapped(payload, swaps).forEach((byte, k) => putWire(out, 2 * k, two, byte))
      return good([...out])
    },
    unpack(wire) {
      if (wire.length % 2) return 'length'
      const bytes = Array.from({ length: wire.length / 2 }, (_, k) => takeWire(wire, 2 * k, two))
      return bytes.includes(-1) ? 'digits' : { payload: swapped(bytes, swaps) }
    },
    some: (size, any) => (size % 2 ? null : { payload: Array.from({ length: size / 2 }, () => any(255)) }),
  }
}

const [plus, minus] = [0x2b, 0x2d]

function inDecimals(size: number, isSigned: boolean, memory: 'low' | 'high'): Packing {
  const each = size + (isSigned ? 1 : 0)
  const number: WireNumber = { size, order: 'high', spelling: 'decimal' }
  const mostDigits = mostIn(number)
  const most = Math.min(mostDigits, isSigned ? 0x7fff : 0xffff)
  const packed = (words: readonly number[]): Result<number[]> => {
    const out = new Uint8Array(words.length * each)
    for (const [k, word] of words.entries()) {
      const value = isSigned && word > 0x7fff ? word - 0x1_0000 : word
      if (Math.abs(value) > mostDigits) return bad('frame.digits', { value, digits: size })
      if (isSigned) out[k * each] = value < 0 ? minus : plus
      putWire(out, k * each + each - size, number, Math.abs(value))
    }
    return good([...out])
  }
  const word = (wire: Uint8Array, at: number): number | BadCode => {
    const value = takeWire(wire, at + each - size, number)
    const sign = isSigned ? wire[at] : plus
    if (value < 0 || (sign !== plus && sign !== minus)) return 'digits'
    // A zero below zero is another spelling of the same.
    if (sign === minus) return value === 0 || value > 0x8000 ? 'digits' : 0x1_0000 - value
    return value > most ? 'digits' : value
  }
  const bytesOf = (words: readonly number[]): Carried => ({ payload: [...wordsToBytes(Uint16Array.from(words), memory)] })
  return {
    bytesPerByte: each / 2,
    pack: ({ payload }) =>
      payload.length % 2 ? bad('frame.whole-words', { bytes: payload.length }) : packed([...bytesToWords(payload, memory)]),
    unpack(wire) {
      if (wire.length % each) return 'length'
      const words: number[] = []
      for (let at = 0; at < wire.length; at += each) {
        const read = word(wire, at)
        if (typeof read === 'string') return read
        words.push(read)
      }
      return bytesOf(words)
    },
    some: (bytes, any) => (bytes % each ? null : bytesOf(Array.from({ length: bytes / each }, () => any(most)))),
  }
}
