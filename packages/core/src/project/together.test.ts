import { expect, test } from 'vitest'
import type { WidgetId } from '../base/index.ts'
import { Job } from '../testing/job.ts'
import { heldWith, parentsOfCopies, undoOf, passGate, withHeld } from './index.ts'

const job = () => {
  const made = new Job()
  for (const name of ['a', 'b', 'c', 'd', 'e']) made.widget('label', name, [10, 10, 60, 20], { text: name })
  return made
}
const ids = (...names: string[]) => names.map((name): WidgetId => `widget:${name}`)
const held = (of: Job, name: string) =>
  heldWith(of.project, `widget:${name}`)
    .map((id) => id.slice(7))
    .join('')

test('is one thing, and each by itself again', () => {
  const one = job().edit('hold together', { ids: ids('c', 'a', 'd'), together: true })
  expect(['a', 'b', 'c', 'd', 'e'].map((name) => held(one, name))).toEqual(['acd', 'b', 'acd', 'acd', 'e'])
  expect(withHeld(one.project, ids('c', 'e'))).toEqual(ids('a', 'c', 'd', 'e'))
  one.edit('hold together', { ids: ids('a', 'c', 'd'), together: false })
  expect(held(one, 'c')).toBe('c')
})
test('goes on without one of it: deleted, taken into another, let go', () => {
  const one = job().edit('hold together', { ids: ids('a', 'b', 'c'), together: true })
  one.edit('hold together', { ids: ids('a', 'd'), together: true })
  expect([held(one, 'a'), held(one, 'b'), held(one, 'd')]).toEqual(['ad', 'bc', 'ad'])
  one.edit('hold together', { ids: ids('b', 'e'), together: true }).edit('delete widgets', { ids: ids('b') })
  expect([held(one, 'c'), held(one, 'e')]).toEqual(['c', 'e'])
  one.edit('hold together', { ids: ids('c', 'd', 'e'), together: true }).edit('delete widgets', { ids: ids('c') })
  expect(held(one, 'e')).toBe('de')
})
test('is refused across pages, and undone', () => {
  const one = job().page('other').widget('label', 'f', [10, 10, 60, 20], {}, 'page:other')
  const request = { changeId: 'change:x', edit: 'hold together', args: { ids: ids('a', 'f'), together: true } } as const
  const refused = passGate(one.project, request)
  expect(!refused.ok && refused.problem.code).toBe('edit.other-page')
  const done = passGate(one.project, { ...request, args: { ids: ids('a', 'b'), together: true } })
  const undone = done.ok && passGate(done.value.project, undoOf(done.value.change, 'change:y')!)
  expect(undone && undone.ok && undone.value.project.widgets).toEqual(one.project.widgets)
})
test('copies are held together as their originals are, whoever of them is copied', () => {
  const one = job().edit('hold together', { ids: ids('a', 'b', 'c'), together: true })
  const copies = (...names: string[]) =>
    parentsOfCopies(
      ids(...names).map((id) => one.project.widgets[id]!),
      (id) => `${id}-2`,
    )
  expect(copies('a', 'b', 'c', 'd')).toEqual(['', 'widget:a-2', 'widget:a-2', ''])
  expect(copies('b', 'c', 'e')).toEqual(['', 'widget:b-2', ''])
})
