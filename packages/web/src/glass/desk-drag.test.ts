import { beforeEach, expect, test } from 'vitest'
import type { Rect } from '@moth-lamp/core/base'
import { freshProject, passGate, plainPanel, type Project, type Widget } from '@moth-lamp/core/project'
import type { Session } from '../session/session.ts'
import type { ViewState } from '../session/state.ts'
import { Store } from '../session/store.ts'
import { DeskDrag, type Shown } from './desk-drag.ts'

// The work of a pointer on the desk, without a desk.

let project: Project
let asked: [string, unknown][]
let shown: Shown
let added: unknown[]
let drag: DeskDrag
let session: Pick<Session, 'view' | 'edit' | 'preview' | 'cancelPreview'>

const place = (x: number, y: number) => ({ x, y, width: 40, height: 40 })
beforeEach(() => {
  const start = freshProject('Desk', plainPanel, [])
  const widgets = [
    { id: 'widget:a', kind: 'shape', place: place(20, 20) },
    { id: 'widget:b', kind: 'shape', place: place(300, 20) },
    { id: 'widget:c', kind: 'shape', place: place(310, 30) },
  ]
  const made = passGate(start, { changeId: 'change:a', edit: 'add widgets', args: { page: start.startPage, after: '', widgets } })
  if (!made.ok) throw new Error(JSON.stringify(made.problem))
  project = made.value.project
  asked = []
  added = []
  session = {
    view: new Store({ widgets: [] as string[], adding: null, addAt: null, variable: null } as unknown as ViewState),
    edit: (edit, args) => (asked.push([edit, args]), true),
    preview: (edit) => void asked.push([`preview ${edit}`, null]),
    cancelPreview: () => void asked.push(['cancel', null]),
  }
  const of = {
    session: session as Session,
    project,
    page: Object.values(project.pages)[0]!,
    onAdd: (at: unknown) => void added.push(at),
  }
  drag = new DeskDrag(of, (now) => (shown = now))
})
const at = (x: number, y: number, more = {}) => ({ x, y, shift: false, free: true, handle: undefined, ...more })
const picked = () => session.view.value.widgets
const edits = () => asked.filter(([name]) => !/preview|cancel/.test(name))
const widget = (name: string) => project.widgets[`widget:${name}`] as Widget

test('a drag is a preview until it ends, then one change; Shift keeps the axis', () => {
  drag.begin(at(30, 30))
  for (const x of [32, 50, 90]) drag.move(at(x, 35))
  expect([picked(), edits()]).toEqual([['widget:a'], []])
  drag.move(at(130, 60, { shift: true }))
  expect(shown.places['widget:a']).toEqual({ ...widget('a').place, x: 120 })
  drag.end(at(130, 60))
  expect(edits()).toEqual([['place widgets', { places: { 'widget:a': { ...widget('a').place, x: 120 } } }]])
  expect([drag.isUnderWay, shown.places]).toEqual([false, {}])
})

test('given up it leaves no trace, and a hand that trembles moves nothing', () => {
  drag.begin(at(30, 30))
  drag.move(at(90, 30))
  expect(drag.giveUp()).toBe(true)
  drag.end(at(90, 30))
  drag.begin(at(30, 30))
  drag.move(at(32, 31))
  drag.end(at(32, 31))
  expect([edits(), drag.giveUp()]).toEqual([[], false])
})

test('a rectangle on the ground picks what it touches; where it touches nothing, something may be added there', () => {
  drag.begin(at(280, 5))
  drag.move(at(380, 90))
  drag.end(at(380, 90))
  expect(picked()).toEqual(['widget:b', 'widget:c'])
  drag.begin(at(100, 200))
  drag.move(at(160, 240))
  drag.end(at(160, 240))
  expect(session.view.value.addAt).toEqual({ x: 100, y: 200, width: 60, height: 40 } satisfies Rect)
  expect(picked()).toEqual([])
})

test('a click on what is picked goes down to what lies under it, and up again', () => {
  const click = () => {
    drag.begin(at(320, 40))
    drag.end(at(320, 40))
    return picked()
  }
  expect([click(), click(), click()]).toEqual([['widget:c'], ['widget:b'], ['widget:c']])
})

test('a handle sizes from its side, and what is to be added is drawn or clicked', () => {
  session.view.set({ widgets: ['widget:a'] })
  drag.begin(at(60, 60, { handle: 'se' }))
  drag.move(at(80, 70))
  drag.end(at(80, 70))
  expect(edits()).toEqual([['place widgets', { places: { 'widget:a': { x: 20, y: 20, width: 60, height: 50 } } }]])
  session.view.set({ adding: 'button' })
  drag.begin(at(200, 200))
  drag.end(at(200, 200))
  drag.begin(at(200, 200))
  drag.move(at(260, 240))
  drag.end(at(260, 240))
  expect(added).toEqual([
    { x: 200, y: 200 },
    { x: 200, y: 200, width: 60, height: 40 },
  ])
})
