import { describe, expect, test } from 'vitest'
import { checksumNames, checksums } from '../base/index.ts'
import { freshHolds, type NumberHolds } from '../variables/index.ts'
import { calculate, scaleRows } from './index.ts'

const rows = (text: string) =>
  Object.fromEntries(calculate(text).groups.flatMap(({ rows: all }) => all.map(({ label, text: value }) => [label, value])))

describe('a number in every way', () => {
  test.each([
    [
      '500',
      {
        hex: '0x01F4',
        binary: '0000 0001 1111 0100',
        BCD: '05 00',
        '16 bits, low byte first': 'F4 01',
        '16 bits, high byte first': '01 F4',
      },
    ],
    ['0x1F4', { decimal: '500', characters: '35 30 30' }],
    ['1F4h', { decimal: '500' }],
    ['0b1010', { decimal: '10', hex: '0x0A', 'bits set': '1, 3' }],
    ['-3', { hex: '0xFFFD', '16 bits, low byte first': 'FD FF', 'as it is without sign': '65533' }],
    ['65533', { 'as 16 bits with sign': '-3' }],
    ['123456', { hex: '0x0001E240', '32 bits, high byte first': '00 01 E2 40' }],
    ['1', { 'float, high byte first': '3F 80 00 00' }],
    ['3.5', { 'float, low byte first': '00 00 60 40' }],
  ])('%s', (text, wanted) => expect(rows(text)).toMatchObject(wanted))
  test.each(['', '  ', '99999999999', '0x123456789', '\u0007'])('“%s” is none of them, or characters', (text) =>
    expect(['', 'text']).toContain(calculate(text).kind),
  )
})

describe('bytes', () => {
  test('every check of the catalogue, with its known value', () => {
    const all = rows('"123456789"')
    for (const name of checksumNames)
      expect(parseInt(all[checksums[name].label]!.replaceAll(' ', ''), 16)).toBe(checksums[name].check)
  })
  test.each([
    ['07 D0', { 'number, high byte first': '2000', 'number, low byte first': '53255', 'with sign, low byte first': '-12281' }],
    ['00 00 60 40', { 'float, low byte first': '3.5' }],
    ['0x7E, 0x51', { hex: '7E 51', 'C array': '{ 0x7E, 0x51 }', decimal: '126 81', characters: '~Q' }],
    ['12 34', { BCD: '1234' }],
    ['"Weir"', { hex: '57 65 69 72', bytes: '4' }],
  ])('%s', (text, wanted) => expect(rows(text)).toMatchObject(wanted))
})

test('the scale of a variable goes both ways', () => {
  const holds: NumberHolds = { ...(freshHolds('u16') as NumberHolds), factor: 0.1, decimals: 1, unit: '°', max: 360 }
  expect(scaleRows(holds, '231.0', 'low')).toEqual([
    { label: '231.0° in memory', text: '06 09' },
    { label: '231.0° raw', text: '2310' },
  ])
  expect(scaleRows(holds, '2310', 'high').at(-1)).toEqual({ label: 'raw 2310 is shown', text: '231.0°' })
  expect(scaleRows(holds, 'rubbish', 'low')).toEqual([])
})
