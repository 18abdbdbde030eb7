import { expect, test } from 'vitest'
import { demo, edited } from '../../../../core/src/testing/demo.ts'
import { passGate, type Project } from '@moth-lamp/core/project'
import { clashes, repeated, setsValue, type Repeat } from './repeat.ts'

const { project } = demo
const page = project.pages[project.pageOrder[0]!]!
const named = (p: Project, name: string) => Object.values(p.widgets).find((w) => w.name === name)!
const plain: Repeat = {
  across: 1,
  down: 3,
  pitchX: 0,
  pitchY: 50,
  variables: 'the same',
  bits: [],
  words: [],
  valueStep: 0,
  linked: false,
}
const made = (p: Project, ids: string[], change: Partial<Repeat>) => {
  const request = repeated(p, p.pages[page.id]!, ids, { ...plain, ...change })!
  const done = passGate(p, { changeId: 'change:repeat', edit: 'repeat widgets', args: request })
  if (!done.ok) throw new Error(JSON.stringify(done.problem))
  return { request, project: done.value.project }
}

test('copies stand at their pitch row by row, with names and words counted up', () => {
  const p = edited(project, 'set widgets', { ids: [named(project, 'Open shutter').id], values: { text: 'Slot 09' } })
  const { id, place } = named(p, 'Slot 09')
  const { request } = made(p, [id], { across: 2, down: 2, pitchX: 10, pitchY: 20 })
  expect(request.add.widgets.map((w) => [w.place.x - place.x, w.place.y - place.y, w.name, w.settings['text']])).toEqual([
    [10, 0, 'Slot 10', 'Slot 10'],
    [0, 20, 'Slot 11', 'Slot 11'],
    [10, 20, 'Slot 12', 'Slot 12'],
  ])
})

test('own variables are of the same type and range, one set a copy, at addresses of their own; one change makes all', () => {
  const lamp = named(project, 'Target')
  const { project: after } = made(project, [lamp.id], { variables: 'own ones' })
  const fresh = after.variableOrder.filter((id) => !(id in project.variables)).map((id) => after.variables[id]!)
  const source = project.variables[lamp.settings['variable'] as keyof typeof project.variables]!
  expect(fresh.map((v) => [v.name, v.holds, v.travels])).toEqual([
    [`${source.name}_2`, source.holds, source.travels],
    [`${source.name}_3`, source.holds, source.travels],
  ])
  const bound = Object.values(after.widgets).filter((w) => !(w.id in project.widgets))
  expect(bound.map((w) => w.settings['variable'])).toEqual(fresh.map((v) => v.id))
})

test('bits and words go to the original and its copies in order, and values that are set grow', () => {
  const button = named(project, 'Open shutter')
  const action = (action: string, values: object) => ({
    on: { moment: 'pressed', everyMs: 0 },
    lines: [{ action, with: values }],
  })
  const p = edited(project, 'set widgets', {
    ids: [button.id],
    values: {
      rules: [
        action('toggle bits', { variable: 'variable:weather_flags', mask: 1 }),
        action('set', { variable: 'variable:flat_level', to: 5 }),
        action('step', { variable: 'variable:flat_level', by: 7 }),
      ],
    },
  })
  const { project: after } = made(p, [button.id], { bits: [3, 5, 9], words: ['ash', 'elm', 'fir'], valueStep: 2 })
  const all = [after.widgets[button.id]!, ...Object.values(after.widgets).filter((w) => !(w.id in p.widgets))]
  const lines = all.map((w) =>
    (w.settings['rules'] as { lines: { with: Record<string, unknown> }[] }[]).map((a) => a.lines[0]!.with),
  )
  expect(all.map((w) => w.settings['text'])).toEqual(['ash', 'elm', 'fir'])
  expect(lines.map(([bit, value, step]) => [bit!['mask'], value!['to'], step!['by']])).toEqual([
    [8, 5, 7],
    [32, 7, 7],
    [512, 9, 7],
  ])
})

test('ranges of states stay as they are while values grow', () => {
  const lamp = Object.values(project.widgets).find((w) => w.kind === 'indicator')!
  const when = { by: 'range', from: 1, to: 9 }
  const p = edited(project, 'set widgets', {
    ids: [lamp.id],
    values: { states: (lamp.settings['states'] as object[]).map((state) => ({ ...state, when })) },
  })
  const request = repeated(p, p.pages[p.widgets[lamp.id]!.page]!, [lamp.id], { ...plain, valueStep: 3 })!
  const states = request.add.widgets.map((w) => w.settings['states'] as { when: object }[])
  expect(states.flat().every((state) => JSON.stringify(state.when) === JSON.stringify(when))).toBe(true)
})

test('words go to what a touch area is for, to a caption, and to the start of a text that stands alone', () => {
  const text = { type: 'text', bytes: 12, encoding: 'utf-8', letters: '' }
  const add = (p: Project, kind: string, settings: object) =>
    edited(p, 'add widgets', {
      page: page.id,
      after: '',
      widgets: [{ id: `widget:${kind}`, kind, name: kind, place: { x: 0, y: 0, width: 80, height: 60 }, settings }],
    })
  let p = add(project, 'area', { note: 'door 1' })
  p = edited(p, 'add variable', {
    id: 'variable:oven',
    name: 'oven',
    values: { holds: text, travels: 'both', initial: 'Oven 1' },
  })
  p = add(p, 'text', { variable: 'variable:oven' })
  const noteOf = (words: string[]) => made(p, ['widget:area'], { words }).request.add.widgets.map((w) => w.settings['note'])
  expect([noteOf([]), noteOf(['hatch', 'gate'])]).toEqual([
    ['door 2', 'door 3'],
    ['gate', 'door 3'],
  ])
  const startsOf = (change: Partial<Repeat>) => {
    const { project: after } = made(p, ['widget:text'], { variables: 'own ones', ...change })
    return after.variableOrder
      .map((id) => after.variables[id]!)
      .filter((v) => v.holds.type === 'text' && v.name.startsWith('oven'))
      .map((v) => v.initial)
  }
  expect(startsOf({})).toEqual(['Oven 1', 'Oven 2', 'Oven 3'])
  expect(startsOf({ words: ['Bake', 'Proof', 'Cool'] })).toEqual(['Bake', 'Proof', 'Cool'])
})

test('keys that set one value of a choice each act on the same variable', () => {
  const button = named(project, 'Open shutter')
  const values = {
    works: 'sets its value',
    variable: 'variable:flat_level',
    value: 4,
    shows: 'variable:flat_level',
    reaches: 4,
    rules: [],
  }
  const p = edited(project, 'set widgets', { ids: [button.id], values })
  expect([setsValue([p.widgets[button.id]!]), setsValue([named(project, 'Target')])]).toEqual([true, false])
  const { request } = made(p, [button.id], { valueStep: 1 })
  expect(request.add.widgets.map(({ settings: s }) => [s['variable'], s['value'], s['reaches']])).toEqual([
    ['variable:flat_level', 5, 5],
    ['variable:flat_level', 6, 6],
  ])
})

test('what would lie over the edge is told before it is made', () => {
  const request = repeated(project, page, [named(project, 'Open shutter').id], { ...plain, down: 40, pitchY: 60 })
  expect(clashes(project, request)[0]).toMatch(/do not fit/)
})

test('linked copies keep only what is another with them', () => {
  const p = edited(project, 'set widgets', { ids: [named(project, 'Open shutter').id], values: { text: 'Slot 09' } })
  const { request, project: after } = made(p, [named(p, 'Slot 09').id], { linked: true, across: 2, down: 1 })
  const [copy] = request.add.widgets
  expect(copy).toMatchObject({ like: named(p, 'Slot 09').id, settings: { text: 'Slot 10' } })
  expect(Object.keys(copy!.settings!)).toEqual(['text'])
  expect(after.widgets[copy!.id as keyof typeof after.widgets]!.like).toBe(named(p, 'Slot 09').id)
})
