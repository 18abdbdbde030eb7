import { expect, test } from 'vitest'
import { demo } from '../../../core/src/testing/demo.ts'
import { requestWords } from './request-words.ts'

const words = (edit: string, args: object) => requestWords(demo.project, { changeId: 'change:a', edit, args })

test('an edit is said as a sentence, never as JSON', () => {
  const target = Object.values(demo.project.widgets).find((w) => w.name === 'Target')!
  expect(words('place widgets', { places: { [target.id]: { x: 420, y: 114, width: 1, height: 1 } } })).toBe(
    'Place widgets “Target” to 420, 114',
  )
  expect(words('place widgets', { places: { [target.id]: { x: 420 } } })).toBe('Place widgets “Target” x 420')
  expect(words('place widgets', { places: { [target.id]: { width: 90, height: 20 } } })).toBe('Place widgets “Target” w 90, h 20')
  expect(words('set each widget', { each: { [target.id]: { name: 'Goal' }, 'widget:none': { name: 'x' } } })).toBe(
    'Set each widget “Target”, a deleted widget',
  )
  expect(words('lock widgets', { ids: [target.id], locked: true })).toBe('Lock widgets “Target”')
  expect(words('set variable', { id: 'variable:humidity', values: { name: 'damp', address: 16 } })).toBe(
    'Set variable “humidity”: name “damp”, address 16',
  )
  expect(words('set widgets', { ids: ['widget:none'], values: { variable: 'variable:humidity', face: {} } })).toBe(
    'Set widgets a deleted widget: variable “humidity”, face (changed)',
  )
})
