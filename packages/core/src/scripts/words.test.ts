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
  ['constant', { value: 4, everyMs: 2000 }, 'constant 4 V, every 2 s'],
  ['constant', { value: 4, everyMs: 0 }, 'constant 4 V, on change'],
  ['ramp', { from: 0, to: 9, perSecond: 3, atEnd: 'back' }, 'ramp 0 V to 9 V, 3/s, then reverses, every 1 s'],
  ['approach', { target: 'goal', perSecond: 2.5, circle: 360 }, 'tracks goal at 2.5/s, shortest path, every 1 s'],
  ['list', { values: '1, 2', stepMs: 1500 }, 'table 1, 2, 1.5 s each, every 1 s'],
  ['walk', { low: 1, high: 3, step: 0.5, everyMs: 250 }, 'random 1 V to 3 V, max step 0.5, every 250 ms'],
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
    effects: [{ afterMs: 4000, variable: 'state', value: 2, command: '' }],
  }
  expect(reactionWords({ id: 'reaction:a', settings }, speech)).toBe(
    'on report order = 1 V while flags has bit 3: reject (busy) after 5 ms; after 4 s set state = 2 V',
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
  expect(outputWords({ id: 'output:a', settings }, speech)).toBe('low while state > 2 V')
  expect(outputWords({ id: 'output:a', settings: { ...settings, whenVariable: '' } }, speech)).toBe('always high: not assigned')
})
