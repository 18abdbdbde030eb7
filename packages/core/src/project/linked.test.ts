import { describe, expect, test } from 'vitest'
import type { WidgetId } from '../base/index.ts'
import { edited } from '../testing/demo.ts'
import { demo } from '../testing/demo.ts'
import { MadeChunks } from '../artwork/index.ts'
import { Compiler } from '../compile/index.ts'
import { passGate, undoOf, usersOf, validateProject, withSettings, type Project } from './index.ts'

const { project } = demo
const original = Object.values(project.widgets).find((w) => w.name === 'Open shutter')!
const a = 'widget:copy-a' as WidgetId
const b = 'widget:copy-b' as WidgetId
const place = { x: 10, y: 400, width: 80, height: 40 }

const linked = (): Project =>
  edited(project, 'add widgets', {
    page: original.page,
    after: '',
    widgets: [
      { id: a, kind: 'button', place, like: original.id, settings: { text: 'A' } },
      { id: b, kind: 'button', place, like: original.id, settings: {} },
    ],
  })
const settings = (p: Project, id: WidgetId) => withSettings(p).widgets[id]!.settings
const radius = (p: Project, id: WidgetId) => (settings(p, id)['face'] as { radius: number }).radius

describe('a linked copy', () => {
  test('stores what is its own, and has everything else from its original, also what changes there later', () => {
    const p = linked()
    expect(p.widgets[a]!.settings).toEqual({ text: 'A' })
    expect(p.widgets[b]!.settings).toEqual({})
    expect(settings(p, a)).toEqual({ ...original.settings, text: 'A' })
    const later = edited(p, 'set widgets', { ids: [original.id], values: { 'face/radius': 3, text: 'All' } })
    expect([radius(later, a), radius(later, b)]).toEqual([3, 3])
    expect([settings(later, a)['text'], settings(later, b)['text']]).toEqual(['A', 'All'])
    expect(validateProject(later).ok).toBe(true)
  })
  test('what is set in it is its own from then on, until it is as its original’s again', () => {
    let p = edited(linked(), 'set widgets', { ids: [b], values: { 'face/radius': 1 } })
    expect(Object.keys(p.widgets[b]!.settings)).toEqual(['face'])
    p = edited(p, 'set widgets', { ids: [original.id], values: { 'face/radius': 9 } })
    expect([radius(p, a), radius(p, b)]).toEqual([9, 1])
    p = edited(p, 'set as original', { id: b, keys: ['face'] })
    expect(radius(p, b)).toBe(9)
    const refused = passGate(p, { changeId: 'change:x', edit: 'set as original', args: { id: original.id, keys: ['face'] } })
    expect(!refused.ok && refused.problem.code).toBe('edit.no-copy')
  })
  test('setting what it has from its original already changes nothing', () => {
    const p = linked()
    expect(edited(p, 'set each widget', { each: { [b]: { place } } })).toBe(p)
  })
  test('a copy of a copy is a copy of the original, with what was the other’s own', () => {
    const p = edited(linked(), 'add widgets', {
      page: original.page,
      after: '',
      widgets: [{ id: 'widget:copy-c', kind: 'button', place, like: a }],
    })
    expect(p.widgets['widget:copy-c' as WidgetId]).toMatchObject({ like: original.id, settings: { text: 'A' } })
  })
  test('unlinked, it looks as it did, and follows no more', () => {
    const before = settings(linked(), a)
    let p = edited(linked(), 'unlink widgets', { ids: [a] })
    expect(p.widgets[a]).toMatchObject({ like: '', settings: before })
    p = edited(p, 'set widgets', { ids: [original.id], values: { 'face/radius': 2 } })
    expect(settings(p, a)).toEqual(before)
  })
})

describe('without the original', () => {
  test('the first copy becomes the original of the others, none looks different; undone, all is as before', () => {
    const p = edited(linked(), 'set widgets', { ids: [a], values: { 'face/radius': 4 } })
    const looks = [settings(p, a), settings(p, b)]
    const done = passGate(p, { changeId: 'change:d', edit: 'delete widgets', args: { ids: [original.id] } })
    if (!done.ok) throw new Error(done.problem.code)
    const after = done.value.project
    expect(after.widgets[a]!.like).toBe('')
    expect(after.widgets[b]!.like).toBe(a)
    expect([settings(after, a), settings(after, b)]).toEqual(looks)
    expect(validateProject(after).ok).toBe(true)
    const undone = passGate(after, undoOf(done.value.change, 'change:u')!)
    expect(undone.ok && undone.value.project.widgets).toEqual(p.widgets)
  })
  test('all of them deleted at once, and their page with them', () => {
    const p = edited(linked(), 'delete widgets', { ids: [original.id, a, b] })
    expect(Object.values(p.widgets).some((w) => w.like !== '')).toBe(false)
    expect(validateProject(edited(linked(), 'delete page', { id: original.page })).ok).toBe(true)
  })
})

test('a deleted variable leaves original and copies; users are both', () => {
  const target = Object.values(project.widgets).find((w) => w.name === 'Target')!
  let p = edited(project, 'add widgets', {
    page: target.page,
    after: '',
    widgets: [{ id: a, kind: target.kind, place, like: target.id, settings: {} }],
  })
  const variable = String(target.settings['variable'])
  expect(usersOf(withSettings(p), variable).map((u) => u.from)).toEqual(expect.arrayContaining([target.id, a]))
  p = edited(p, 'delete variable', { id: variable })
  expect([settings(p, target.id)['variable'], settings(p, a)['variable']]).toEqual(['', ''])
  expect(validateProject(p).ok).toBe(true)
})

test('a link to nothing, to another kind or to a copy is refused', () => {
  const add = (like: string, kind = 'button') =>
    passGate(linked(), {
      changeId: 'change:y',
      edit: 'add widgets',
      args: { page: original.page, after: '', widgets: [{ id: 'widget:z', kind, place, like }] },
    })
  expect(add('widget:gone').ok).toBe(false)
  expect(add(original.id, 'number').ok).toBe(false)
  const torn = { ...linked().widgets[b]!, like: a }
  const damaged = { ...linked(), widgets: { ...linked().widgets, [b]: torn } }
  expect(validateProject(JSON.parse(JSON.stringify(damaged))).ok).toBe(false)
})

test('compiled, copies are as widgets with all of it written out; one change of the original compiles them again', () => {
  const p = linked()
  const warm = new Compiler(new MadeChunks(demo.assets))
  warm.compile(p)
  const next = edited(p, 'set widgets', { ids: [original.id], values: { 'face/fill': '#112233' } })
  const build = warm.compile(next)
  expect(warm.recompiled).toBe(3)
  const written = edited(next, 'unlink widgets', { ids: [a, b] })
  expect(build.header.pages).toEqual(new Compiler(new MadeChunks(demo.assets)).compile(written).header.pages)
})
