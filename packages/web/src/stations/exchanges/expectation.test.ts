import { expect, test } from 'vitest'
import { freshHolds, formatValue, parseValue, type Holds, type Value } from '@moth-lamp/core/variables'
import { typedOf } from './expectation.ts'

const flags: Holds = { type: 'flags', names: ['rain', 'wind', 'mains lost'] }
const choice: Holds = { type: 'choice', choices: [{ id: 'choice:1', value: 0, word: 'going up' }] }
const number: Holds = { ...freshHolds('i16'), decimals: 1, factor: 0.1, unit: '°C', min: -100, max: 100 } as Holds

test.each<[string, Holds, Value]>([
  ['flags, the last one too', flags, 7],
  ['a choice of two words', choice, 0],
  ['a text of several words', freshHolds('text'), 'Dome is open'],
  ['a number with a unit', number, -12.5],
  ['a number without', freshHolds('u16'), 12],
])('%s: what is said is typed so that it reads the same', (_, holds, value) => {
  const read = parseValue(holds, typedOf(holds, formatValue(holds, value)))
  expect(read).toEqual({ ok: true, value })
})
