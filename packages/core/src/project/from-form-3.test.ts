import { describe, expect, test } from 'vitest'
import { mustHold, sameJson, seededRandom } from '../base/index.ts'
import { EditMaker } from '../testing/edits.ts'
import { demo, edited } from '../testing/demo.ts'
import { Job } from '../testing/job.ts'
import { migrate, migrateRequest, passGate, undoOf, validateProject, type Project, type Request } from './index.ts'

type Loose = Record<string, unknown>
const { project } = demo
const isLoose = (value: unknown): value is Loose => typeof value === 'object' && value !== null && !Array.isArray(value)
const formerActions: Record<string, string> = { 'open pop-up': 'open layer', 'close pop-up': 'close layer' }

/** Whatever form 3 called otherwise, as it did. */
function former(value: unknown): unknown {
  if (value === 'variable:own-pop-up') return 'variable:own-layer'
  if (Array.isArray(value)) return value.map(former)
  if (!isLoose(value)) return value
  const { action, with: settings, ...line } = value
  if (typeof action === 'string' && isLoose(settings)) {
    const { popUp, ...rest } = former(settings) as Loose
    return { ...line, deed: formerActions[action] ?? action, with: popUp === undefined ? rest : { ...rest, layer: popUp } }
  }
  return Object.fromEntries(
    Object.entries(value).map(([key, inside]) => [key === 'rules' && Array.isArray(inside) ? 'actions' : key, former(inside)]),
  )
}

/** A document as form 3 kept it. */
function documentOfForm3(whole: Project): Loose {
  const { layout, panel, pages, pictures, styles, variables, ...rest } = former(whole) as Loose & Record<string, Loose>
  const { kind: _, ...way } = (layout as Loose)['toPanel'] as Loose
  const { pins: __, ...module } = panel as Loose
  const numberless = (records: unknown) =>
    Object.fromEntries(Object.entries(records as Record<string, Loose>).map(([id, { number: _, ...record }]) => [id, record]))
  return {
    ...rest,
    format: 3,
    layout: { name: (layout as Loose)['name'], ...way },
    panel: { ...module, pins: 3, pwm: 1 },
    pages: Object.fromEntries(
      Object.entries(pages as Record<string, Loose>).map(([id, page]) => [
        id,
        page['kind'] === 'pop-up' ? { ...page, kind: 'layer' } : page,
      ]),
    ),
    pictures: numberless(pictures),
    styles: numberless(styles),
    variables: numberless(variables),
    spent: {
      pageNumber: whole.spent.lastNumbers['pages'],
      widgetNumber: whole.spent.lastNumbers['widgets'],
      addresses: whole.spent.addresses,
    },
  }
}

/** A request as a window of form 3 made it. */
function requestOfForm3(request: Request): Request {
  const args = former(request.args) as Loose
  const values = args['values'] as Loose
  if (request.edit === 'set layout') {
    const { name, toPanel } = values as { name?: string; toPanel?: Loose }
    const { kind: _, ...way } = toPanel ?? {}
    return { ...request, args: { values: { ...(name ? { name } : {}), ...way } } }
  }
  if (request.edit === 'add page' && args['kind'] === 'pop-up') return { ...request, args: { ...args, kind: 'layer' } }
  if (request.edit !== 'undo') return { ...request, args }
  const path = (at: string) =>
    at
      .replace(/^\/layout\/toPanel\//, '/layout/')
      .replace(/^(\/widgets\/[^/]+\/settings|\/pages\/[^/]+|\/conduct)\/rules(?=\/|$)/, '$1/actions')
  const patches = (key: string) => (args[key] as { path: string }[]).map((patch) => ({ ...patch, path: path(patch.path) }))
  return { ...request, args: { ...args, patches: patches('patches'), left: patches('left') } }
}

const over = (request: Request): Request => mustHold(migrateRequest(requestOfForm3(request), 3))

describe('a document of form 3', () => {
  test('is the same but for what was reshaped: pins have names, pictures and fonts numbers', () => {
    const now = mustHold(validateProject(mustHold(migrate(documentOfForm3(project)))))
    const { pins, ...panel } = now.panel
    expect(pins.map(({ name, input, pwm }) => [name, input, pwm])).toEqual([
      ['pin 1', true, false],
      ['pin 2', true, false],
      ['pin 3', true, false],
      ['PWM 1', false, true],
    ])
    expect(sameJson({ ...now, panel: { ...panel, pins: [] } }, { ...project, spent: now.spent })).toBe(true)
    expect(now.spent.lastNumbers).toEqual(project.spent.lastNumbers)
  })
  test('keeps a layer that pages share; one that is opened becomes a pop-up', () => {
    const job = new Job().page('frame', {}, 'layer').page('ask', {}, 'pop-up')
    job.edit('set page', { id: job.first, values: { layer: 'page:frame' } })
    const now = mustHold(validateProject(mustHold(migrate(documentOfForm3(job.project)))))
    expect(Object.values(now.pages).map(({ name, kind }) => `${name}: ${kind}`)).toEqual([
      'page 1: page',
      'frame: layer',
      'ask: pop-up',
    ])
  })
})

test('an edit that waits, and its undo, are the same under form 4: whatever the edit', () => {
  const random = seededRandom(34)
  const maker = new EditMaker(random)
  const seen = new Set<string>()
  let now = project
  for (let k = 0; k < 700; k++) {
    const request = maker.request(now)
    if (!request || request.edit === 'undo') continue
    // What form 3 had not: a layer of its own kind is made by nobody, and no number is given by hand.
    if (JSON.stringify(request.args).includes('"kind":"layer"') || request.edit === 'set panel') continue
    const done = passGate(now, request)
    if (!done.ok) continue
    expect(over(request).edit).toBe(request.edit)
    const again = mustHold(passGate(now, over(request)))
    expect(sameJson(again.project, done.value.project)).toBe(true)
    const undo = undoOf(done.value.change, `change:u${k}`)
    if (undo)
      expect(
        sameJson(mustHold(passGate(again.project, over(undo))).project, mustHold(passGate(again.project, undo)).project),
      ).toBe(true)
    seen.add(request.edit)
    now = done.value.project
  }
  expect(seen.size).toBeGreaterThan(40)
})

test('an undo of counted pins brings a list; a count of PWM outputs alone is let go', () => {
  const values = mustHold(migrateRequest({ changeId: 'change:p', edit: 'set panel', args: { values: { pins: 2, pwm: 1 } } }, 3))
  expect(edited(project, 'set panel', values.args).panel.pins.map(({ name }) => name)).toEqual(['pin 1', 'pin 2', 'PWM 1'])
  const patches = [
    { op: 'replace', path: '/panel/pins', value: 1 },
    { op: 'replace', path: '/panel/pwm', value: 2 },
  ]
  const undo = mustHold(migrateRequest({ changeId: 'change:q', edit: 'undo', args: { of: 'change:x', patches, left: [] } }, 3))
  expect(undo.args).toMatchObject({ patches: [{ path: '/panel/pins', value: [{ name: 'pin 1' }] }] })
})

test('an undo of a picture’s coming, made before pictures had numbers, takes it away', () => {
  const random = seededRandom(3)
  const maker = new EditMaker(random)
  let made = maker.request(project)
  while (made?.edit !== 'add pictures') made = maker.request(project)
  const { project: with1, change } = mustHold(passGate(project, made))
  const undo = undoOf(change, 'change:u')!
  const args = JSON.parse(JSON.stringify(undo.args)) as { left: { value?: Loose }[] }
  for (const patch of args.left) if (patch.value) delete patch.value['number']
  expect(Object.keys(mustHold(passGate(with1, over({ ...undo, args }))).project.pictures)).toEqual(Object.keys(project.pictures))
})
