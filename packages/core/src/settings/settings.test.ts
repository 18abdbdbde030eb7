import { describe, expect, test } from 'vitest'
import type { Cell } from '../variables/index.ts'
import { oneOf } from '../describe/index.ts'
import { described, settingTypes as t, type CompileContext } from './index.ts'

const looks = described({
  text: { label: 'Text', type: t.text, default: 'hello', group: 'g', follows: true },
  size: { label: 'Size', type: t.whole, default: 3, group: 'g', min: 1, max: 9 },
  way: { label: 'Way', type: oneOf({ left: 'left', right: 'right' }), default: 'left', group: 'g' },
  colour: { label: 'Colour', type: t.colour, default: '#ff0000', group: 'g', follows: true },
  variable: { label: 'Variable', type: t.variable, default: '', group: 'g' },
  page: { label: 'Page', type: t.page, default: '', group: 'g' },
  font: { label: 'Font', type: t.font, default: { typeface: '', size: 20 }, group: 'g' },
  on: { label: 'On', type: t.yesNo, default: true, group: 'g', follows: true },
})
const { schema, defaults } = looks
const fits = (change: object) => looks.fill({ ...defaults, ...change }).ok
const cell: Cell = { index: 1, address: 5, words: 1, holds: { type: 'colour' }, order: 'low', travels: 'both', stale: null }
const context: CompileContext = {
  cell: (id) => (id === 'variable:a' ? cell : null),
  pageNumber: (id) => (id === 'page:a' ? 4 : null),
  commandNumber: () => null,
  widgetNumber: () => null,
  sheet: (font) => (typeof font === 'string' ? font : font.typeface ? `${font.typeface}/${font.size}` : null),
  picture: () => null,
  face: () => null,
  colour: (stored) => (stored === 'colour:ink' ? '#ffffff' : stored),
}

describe('the schema that a description makes', () => {
  test('takes its own defaults', () => expect(fits({})).toBe(true))
  test.each([
    [{ size: 0 }, false],
    [{ size: 10 }, false],
    [{ size: 2.5 }, false],
    [{ way: 'up' }, false],
    [{ way: 'right' }, true],
    [{ colour: 'red' }, false],
    [{ colour: { follows: 'variable:a' } }, true],
    [{ colour: { follows: '' } }, true],
    [{ size: { follows: 'variable:a' } }, false],
    [{ variable: 'page:a' }, false],
    [{ variable: 'variable:__proto__!' }, false],
    [{ font: { typeface: 'typeface:a', size: 400 } }, false],
    [{ on: 'yes please' }, false],
    [{ extra: 1 }, false],
    [{ text: 'x'.repeat(401) }, false],
  ])('%j: %s', (change, ok) => expect(fits(change)).toBe(ok))
  test('fills what is missing from its default, and lends the default to nobody', () => {
    const filled = schema.validate({}, { convert: false })
    expect(filled.value).toEqual(defaults)
    const font = (filled.value as { font: { size: number } }).font
    font.size = 99
    expect((schema.validate({}).value as { font: unknown }).font).not.toEqual(font)
  })
})

describe('references', () => {
  const values = {
    ...defaults,
    text: { follows: 'variable:b' },
    variable: 'variable:a',
    page: 'page:a',
    font: { typeface: 'typeface:t', size: 9 },
    on: { follows: 'variable:a' },
  }
  test('are found wherever a setting makes them, with the setting', () => {
    expect(looks.refs(values).map(({ ref, field }) => [field.key, ref.to, ref.use])).toEqual([
      ['text', 'variable:b', 'reads'],
      ['variable', 'variable:a', 'reads'],
      ['page', 'page:a', 'names'],
      ['font', 'typeface:t', 'names'],
      ['on', 'variable:a', 'reads'],
    ])
  })
  test('are let go of one by one; a follower gets its default back, and nothing else changes', () => {
    const without = looks.without(values, 'variable:a')
    expect(without).toEqual({ ...values, variable: '', on: true })
    expect(schema.validate(without).error).toBeUndefined()
    expect(looks.without(values, 'variable:zzz')).toBe(values)
    expect(looks.without(values, 'typeface:t')['font']).toEqual({ typeface: '', size: 9 })
  })
})

test('compiling resolves colours, cells, pages and letters; a follower of nothing gets its default', () => {
  const compiled = looks.compile(
    {
      ...defaults,
      colour: { follows: 'variable:a' },
      text: { follows: 'variable:gone' },
      variable: 'variable:a',
      page: 'page:a',
      font: { typeface: 'typeface:t', size: 9 },
    },
    context,
  )
  expect(compiled).toEqual({
    text: 'hello',
    size: 3,
    way: 'left',
    colour: { follow: cell },
    variable: cell,
    page: 4,
    font: 'typeface:t/9',
    on: true,
  })
  expect(looks.compile(defaults, context)).toMatchObject({
    colour: 0xf800,
    variable: null,
    page: null,
    font: null,
  })
})
