import { expect, test } from 'vitest'
import { outputWords, quantityWords, reactionWords, type Quantity, type Speech } from './index.ts'
import { outputSettings, quantityKinds, reactionSettings } from './index.ts'

const speech: Speech = { name: (id) => id || '…', value: (_, value) => `${value} V`, bit: (_, bit) => `bit ${bit}` }
const moves = (kind: keyof typeof quantityKinds, settings: object) =>
  quantityWords(
    { id: 'quantity:a', kind, settings: { ...quantityKinds[kind].settings.defaults, variable: 'v', ...settings } } as Quantity,
    speech,
  )

test.each([
  ['constant', { value: 4, everyMs: 2000 }, 'stays at 4 V, every 2 s'],
  ['constant', { value: 4, everyMs: 0 }, 'stays at 4 V, sent when it changes'],
  ['ramp', { from: 0, to: 9, perSecond: 3, atEnd: 'back' }, 'goes from 0 V to 9 V by 3 a second and back, every 1 s'],
  [
    'approach',
    { target: 'goal', perSecond: 2.5, circle: 360 },
    'approaches goal by 2.5 a second, the short way round, every 1 s',
  ],
  ['list', { values: '1, 2', stepMs: 1500 }, 'steps through 1, 2, each for 1.5 s, every 1 s'],
  ['walk', { low: 1, high: 3, step: 0.5, everyMs: 250 }, 'wanders between 1 V and 3 V by at most 0.5, every 250 ms'],
] as const)('a value that %ss %j', (kind, settings, words) => expect(moves(kind, settings)).toBe(words))

test('a reaction with a condition, a refusal and effects', () => {
  const settings = {
    ...reactionSettings.defaults,
    variable: 'order',
    compare: 'is' as const,
    value: 1,
    whenVariable: 'flags',
    whenCompare: 'has bit' as const,
    whenValue: 3,
    answer: 'refused' as const,
    effects: [{ afterMs: 4000, variable: 'state', value: 2 }],
  }
  expect(reactionWords({ id: 'reaction:a', settings }, speech)).toBe(
    'order reported as 1 V while flags has bit 3: refused, busy after 5 ms; after 4 s state becomes 2 V',
  )
})

test('a pin says how it stands, and when it follows nothing', () => {
  const settings = {
    ...outputSettings.defaults,
    whenVariable: 'state',
    whenCompare: 'above' as const,
    whenValue: 2,
    activeLow: true,
  }
  expect(outputWords({ id: 'output:a', settings }, speech)).toBe('low while state is above 2 V')
  expect(outputWords({ id: 'output:a', settings: { ...settings, whenVariable: '' } }, speech)).toBe(
    'always high: it follows nothing yet',
  )
})
