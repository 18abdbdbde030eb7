import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { mustHold } from '../base/index.ts'
import {
  extremeOf,
  extremes,
  AddressBook,
  decodeValue,
  encodeValue,
  findOverlaps,
  formatAddress,
  formatDecimals,
  formatValue,
  freshHolds,
  retyped,
  holdsTypes,
  isInRange,
  isNone,
  parseAddress,
  parseValue,
  spansOverlap,
  wordsOf,
  type Holds,
  type NumberHolds,
} from './index.ts'

const tenths: NumberHolds = { type: 'u16', factor: 0.1, offset: 0, decimals: 1, unit: '°', min: 0, max: 359.9 }
const low = 'low'
const orders = fc.constantFrom('low' as const, 'high' as const)
const round = (holds: Holds, value: number | string, o: 'low' | 'high' = low) =>
  decodeValue(holds, mustHold(encodeValue(holds, value, o)), o)

describe('values and words', () => {
  test('231.0 in tenths is 0x0906', () => expect(mustHold(encodeValue(tenths, 231, low))).toEqual(Uint16Array.of(0x0906)))

  test('every raw number of every whole type comes back, in every order', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('u8', 'i8', 'u16', 'i16', 'u32', 'i32'),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom(1, 0.1, 0.01, 2.5),
        orders,
        (type, where, factor, o) => {
          const holds = { ...freshHolds(type as 'u16'), factor, decimals: 2 } as NumberHolds
          const raw = Math.round(holds.min + where * (holds.max - holds.min))
          const words = mustHold(encodeValue(holds, raw * factor, o))
          expect(mustHold(encodeValue(holds, decodeValue(holds, words, o), o))).toEqual(words)
        },
      ),
    )
  })

  test('f32 keeps what binary32 keeps', () => {
    fc.assert(
      fc.property(
        fc.float({ noNaN: true, noDefaultInfinity: true }),
        orders,
        (value, o) => void expect(round(freshHolds('f32'), value, o)).toBe(value + 0),
      ),
    )
  })

  test('what does not fit the type is a coded problem with the limits', () => {
    expect(encodeValue(tenths, 6553.6, low)).toMatchObject({
      ok: false,
      problem: { code: 'value.type', facts: { low: 0, high: 6553.5 } },
    })
    expect(encodeValue(tenths, NaN, low)).toMatchObject({ problem: { code: 'value.number' } })
    expect(encodeValue({ type: 'text', bytes: 4, encoding: 'latin-1' }, 'abcde', low)).toMatchObject({
      problem: { code: 'value.long', facts: { bytes: 5, most: 4 } },
    })
    expect(encodeValue({ type: 'text', bytes: 4, encoding: 'ascii' }, 'é', low)).toMatchObject({
      problem: { code: 'value.encoding', facts: { character: 'é' } },
    })
    expect(encodeValue({ type: 'flags', names: [] }, 65536, low)).toMatchObject({ problem: { code: 'value.whole' } })
  })

  test('a value outside its range is stored and known as such', () => {
    expect(round(tenths, 400)).toBe(400)
    expect(isInRange(tenths, 400)).toBe(false)
    expect(isInRange(tenths, 359.9)).toBe(true)
  })

  test('text comes back in every encoding and order; a shorter text clears the rest', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 12 }), orders, (text, o) => {
        const clean = text.replaceAll('\0', '')
        const holds: Holds = { type: 'text', bytes: 200, encoding: 'utf-8' }
        const encoded = encodeValue(holds, clean, o)
        if (encoded.ok) expect(decodeValue(holds, encoded.value, o)).toBe(clean)
      }),
    )
    const holds: Holds = { type: 'text', bytes: 5, encoding: 'latin-1' }
    expect(wordsOf(holds)).toBe(3)
    expect(mustHold(encodeValue(holds, 'Cl', low))).toEqual(Uint16Array.of(0x6c43, 0, 0))
    expect(mustHold(encodeValue(holds, 'Cl', 'high'))).toEqual(Uint16Array.of(0x436c, 0, 0))
  })

  test('damaged UTF-8 is shown, never thrown', () => {
    const holds: Holds = { type: 'text', bytes: 8, encoding: 'utf-8' }
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 8, maxLength: 8 }),
        (bytes) => void decodeValue(holds, new Uint16Array(bytes.slice().buffer), low),
      ),
    )
    expect(decodeValue(holds, [0x80c3, 0x41, 0, 0], low)).toBe('ÀA')
    expect(decodeValue(holds, [0x41c3, 0, 0, 0], low)).toBe('\ufffdA')
  })
})

describe('values and words people read', () => {
  test('decimals round half away from zero, exactly', () => {
    expect([formatDecimals(0.15, 1), formatDecimals(-0.04, 1), formatDecimals(-2.5, 0), formatDecimals(7, 2)]).toEqual([
      '0.2',
      '0.0',
      '-3',
      '7.00',
    ])
  })
  test('each type in words, and back from typing', () => {
    const shutter: Holds = {
      type: 'choice',
      choices: [
        { value: 0, word: 'stop' },
        { value: 2, word: 'open' },
      ],
    }
    const weather: Holds = { type: 'flags', names: ['rain', 'wind', '', 'mains lost'] }
    expect(formatValue(tenths, 231)).toBe('231.0°')
    expect(formatValue(shutter, 2)).toBe('open')
    expect(formatValue(weather, 9)).toBe('rain mains lost')
    expect(formatValue({ type: 'time' }, 78426)).toBe('21:47:06')
    for (const typed of [' 231.0 ° ', '231.0°', '231']) expect(parseValue(tenths, typed)).toEqual({ ok: true, value: 231 })
    expect(parseValue(shutter, 'Open')).toEqual({ ok: true, value: 2 })
    expect(parseValue(weather, 'rain mains_lost')).toEqual({ ok: true, value: 9 })
    expect(parseValue({ type: 'time' }, '21:47:06')).toEqual({ ok: true, value: 78426 })
  })
  test('a raw number that means no value is its word, read and typed, and never out of range', () => {
    const kinds = [
      ['u16', 65535],
      ['i8', -128],
      ['u8', 255],
      ['i16', -32768],
      ['u32', 4294967295],
      ['i32', -2147483648],
      ['f32', -9999],
    ] as const
    for (const [type, raw] of kinds) {
      const holds: Holds = { ...tenths, type, factor: 0.1, offset: -5, min: 0, max: 100, none: { raw, word: 'open' } }
      const typed = mustHold(parseValue(holds, 'Open'))
      const words = mustHold(encodeValue(holds, typed, low))
      const value = decodeValue(holds, words, 'low')
      expect([type, formatValue(holds, value), isNone(holds, value), isInRange(holds, value)]).toEqual([type, 'open', true, true])
      expect([formatValue(holds, 4), isNone(holds, 4), isNone({ ...holds, none: { raw: 7, word: 'x' } }, value)]).toEqual(['4.0°', false, false]) // prettier-ignore
    }
    const float: Holds = { ...tenths, type: 'f32', none: { raw: 0, word: 'open' } }
    expect([formatValue(float, NaN), isInRange(float, NaN), isInRange({ ...tenths, type: 'f32' } as Holds, NaN)]).toEqual(['open', true, false]) // prettier-ignore
  })
  test('typing that means nothing is answered with what would', () => {
    expect(parseValue(tenths, '360')).toMatchObject({ problem: { code: 'value.range', facts: { low: 0, high: 359.9 } } })
    expect(parseValue(tenths, '12,5')).toMatchObject({ problem: { code: 'value.number' } })
    expect(parseValue({ type: 'choice', choices: [{ value: 0, word: 'stop' }] }, 'halt')).toMatchObject({
      problem: { code: 'value.choice', facts: { words: 'stop' } },
    })
    expect(parseValue({ type: 'time' }, '25:00')).toMatchObject({ problem: { code: 'value.time' } })
  })
})

describe('addresses', () => {
  const plan = { from: 0, to: 0x10000, ownFrom: 0x40, ownTo: 0x50, order: 'low' as const }
  test('handed out around everything taken, two-word values on even addresses, never twice', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ address: fc.nat(120), words: fc.integer({ min: 1, max: 9 }) }), { maxLength: 15 }),
        fc.array(fc.integer({ min: 1, max: 5 }), { maxLength: 40 }),
        (taken, wanted) => {
          const book = new AddressBook(plan, taken)
          const all = [...taken, { address: 0x40, words: 16 }]
          for (const words of wanted) {
            const address = book.give(words)!
            const span = { address, words }
            expect(all.some((other) => spansOverlap(other, span))).toBe(false)
            if (words === 2) expect(address % 2).toBe(0)
            const lowest = Array.from({ length: address }, (_, a) => a).find(
              (a) => (words !== 2 || a % 2 === 0) && !all.some((other) => spansOverlap(other, { address: a, words })),
            )
            expect(lowest).toBeUndefined()
            all.push(span)
          }
        },
      ),
    )
  })
  test('a full memory says so', () => {
    const book = new AddressBook({ from: 0, to: 8, ownFrom: 4, ownTo: 8, order: 'low' }, [])
    expect([book.give(3), book.give(2), book.give(1), book.give(1)]).toEqual([0, null, 3, null])
  })
  test('overlaps name both', () => {
    const spans = [
      { address: 16, words: 4 },
      { address: 0, words: 2 },
      { address: 19, words: 1 },
    ]
    expect(findOverlaps(spans)).toEqual([{ first: 0, second: 2 }])
  })
  test('read and written in hex or decimal', () => {
    expect([formatAddress(18), formatAddress(18, 'decimal')]).toEqual(['0x0012', '18'])
    expect([
      parseAddress('0x12'),
      parseAddress('18'),
      parseAddress('0012', true),
      parseAddress('70000'),
      parseAddress('x'),
    ]).toEqual([18, 18, 18, null, null])
  })
})

describe('numbers are exact', () => {
  const scaled = (type: 'u16' | 'u32' | 'i32', factor: number, decimals: number, offset = 0): Holds => ({
    type,
    factor,
    offset,
    decimals,
    unit: '',
    min: -1e12,
    max: 1e12,
  })
  const orders = 'low'
  const shown = (holds: Holds, raw: number) =>
    decodeValue(holds, Uint16Array.of(raw & 0xffff, Math.floor(raw / 65536)), orders) as number
  test.each([
    [scaled('u32', 0.1, 1), 1341418441, 134141844.1, '134141844.1'],
    [scaled('u32', 0.001, 3), 4294967295, 4294967.295, '4294967.295'],
    [scaled('u16', 1e-7, 9), 539, 5.39e-5, '0.000053900'],
    [scaled('u16', 1e-9, 9), 65535, 6.5535e-5, '0.000065535'],
    [scaled('u32', 0.25, 2, -100.5), 7, -98.75, '-98.75'],
    [scaled('u32', 1000, 0), 4294967295, 4294967295000, '4294967295000'],
  ])('%j: raw %s is %s', (holds, raw, value, text) => {
    expect(shown(holds, raw)).toBe(value)
    expect(formatValue(holds, value)).toBe(text)
    const words = encodeValue(holds, value, orders)
    expect(words.ok && Array.from(words.value).reduce((all, word, k) => all + word * 65536 ** k, 0)).toBe(raw)
  })
  test('every raw value of a 32-bit number with decimals comes back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4294967295 }), fc.constantFrom(0.1, 0.01, 0.001, 0.05, 1e-6, 1e-9), (raw, factor) => {
        const holds = scaled('u32', factor, 9)
        const words = encodeValue(holds, shown(holds, raw), orders)
        expect(words.ok && words.value[0]! + words.value[1]! * 65536).toBe(raw)
      }),
    )
  })
  test('whole numbers up to 2^53 are written as they are', () => {
    expect(formatDecimals(138539999916876, 0)).toBe('138539999916876')
    expect(formatDecimals(Number.MAX_SAFE_INTEGER, 0)).toBe('9007199254740991')
    expect(formatDecimals(-4503599627370497, 0)).toBe('-4503599627370497')
    expect(formatDecimals(-0, 1)).toBe('0.0')
  })
  test('names of bits are read as they are shown, blanks and all', () => {
    const flags: Holds = { type: 'flags', names: ['rain', 'mains', 'mains lost', 'lost_in_fog'] }
    for (let word = 0; word < 16; word++)
      expect([word, parseValue(flags, formatValue(flags, word))]).toEqual([word, { ok: true, value: word }])
    expect(parseValue(flags, 'Mains_Lost, rain')).toEqual({ ok: true, value: 5 })
    expect(parseValue(flags, 'lost')).toMatchObject({ ok: false, problem: { code: 'value.flag' } })
  })
})

describe('extremes', () => {
  test('are values the variable can hold, of every type', () => {
    for (const type of holdsTypes)
      for (const which of extremes) {
        const holds = freshHolds(type)
        const value = extremeOf(holds, which)
        expect(encodeValue(holds, value, low).ok).toBe(true)
        expect(isInRange(holds, value)).toBe(true)
      }
  })
  test('the longest is the one with the longest words', () => {
    const choice: Holds = {
      type: 'choice',
      choices: [
        { value: 0, word: 'off' },
        { value: 7, word: 'warming up' },
        { value: 9, word: 'on' },
      ],
    }
    expect([extremeOf(choice, 'least'), extremeOf(choice, 'most'), extremeOf(choice, 'longest')]).toEqual([0, 9, 7])
    expect(extremeOf({ ...tenths, min: -40, max: 9 } as Holds, 'longest')).toBe(-40)
    expect(extremeOf({ type: 'text', bytes: 3, encoding: 'latin-1' }, 'longest')).toBe('WWW')
  })
})

test('another type of number keeps scale, unit and range as far as it holds them; what nobody had said is not kept', () => {
  const tenths: NumberHolds = { type: 'i16', factor: 0.1, offset: 0, decimals: 1, unit: '°C', min: -40, max: 60 }
  expect(retyped(tenths, 'i32')).toEqual({ ...tenths, type: 'i32' })
  expect(retyped(tenths, 'u16')).toEqual({ ...tenths, type: 'u16', min: 0 })
  expect(retyped({ ...tenths, none: { raw: -32768, word: 'open' } }, 'u16')).not.toHaveProperty('none')
  expect(retyped({ ...tenths, none: { raw: -32768, word: 'open' } }, 'i32')).toHaveProperty('none')
  expect(retyped(freshHolds('u16'), 'i16')).toEqual(freshHolds('i16'))
  expect(retyped({ ...(freshHolds('u16') as NumberHolds), unit: 'm' }, 'u32')).toMatchObject({ unit: 'm', max: 4294967295 })
  expect(retyped(tenths, 'choice')).toEqual(freshHolds('choice'))
  expect(retyped(tenths, 'i16')).toEqual(tenths)
})
