import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { strToU8, zipSync } from 'fflate'
import { sameJson, seededRandom } from '../base/index.ts'
import { EditMaker } from '../testing/edits.ts'
import { testAssets, testTypefaces } from '../testing/fonts.ts'
import {
  assetsOf,
  currentForm,
  freshProject,
  packProject,
  validateProject,
  withinMemory,
  passGate,
  plainPanel,
  projectText,
  retiredAddresses,
  unpackProject,
  usersOf,
  type Project,
} from './index.ts'
import { does } from '../testing/actions.ts'
import { Job } from '../testing/job.ts'

const fresh = () => freshProject('Test', plainPanel, testTypefaces)
const seed = Number(process.env['SEED'] ?? 4600)

/** Does an edit that must apply. */
function must(project: Project, edit: string, args: unknown): Project {
  const done = passGate(project, { changeId: 'change:t', edit, args })
  if (!done.ok) throw new Error(JSON.stringify(done.problem))
  return done.value.project
}

describe('laws over all edits, seeded', () => {
  test('records that an edit did not touch stay the same objects', () => {
    let project = must(fresh(), 'add widgets', {
      page: Object.keys(fresh().pages)[0],
      after: '',
      widgets: [
        { id: 'widget:a', kind: 'label', place: { x: 0, y: 0, width: 9, height: 9 } },
        { id: 'widget:b', kind: 'shape', place: { x: 0, y: 0, width: 9, height: 9 } },
      ],
    })
    const before = project
    project = must(project, 'name widget', { id: 'widget:a', name: 'first' })
    expect(project.widgets['widget:b']).toBe(before.widgets['widget:b'])
    expect(project.pages).toBe(before.pages)
    expect(must(project, 'name widget', { id: 'widget:a', name: 'first' })).toBe(project)
  })
})

describe('the gate', () => {
  const page = Object.keys(fresh().pages)[0]!
  const place = { x: 0, y: 0, width: 10, height: 10 }
  const code = (project: Project, edit: string, args: unknown) => {
    const done = passGate(project, { changeId: 'change:t', edit, args })
    return done.ok ? 'ok' : done.problem.code
  }
  test('refuses what breaks schema, references and order, each with its code', () => {
    expect(code(fresh(), 'paint it black', {})).toBe('gate.edit')
    expect(code(fresh(), 'add page', { id: 'page:x' })).toBe('gate.args')
    expect(code(fresh(), 'set link', { values: { baud: 7 } })).toBe('gate.schema')
    expect(
      code(fresh(), 'add widgets', {
        page,
        after: '',
        widgets: [{ id: 'widget:a', kind: 'number', place, settings: { variable: 'variable:gone' } }],
      }),
    ).toBe('gate.dangling')
    expect(code(fresh(), 'add widgets', { page, after: '', widgets: [{ id: 'widget:a', kind: 'hovercraft', place }] })).toBe(
      'edit.kind',
    )
    expect(
      code(fresh(), 'add widgets', {
        page,
        after: '',
        widgets: [{ id: 'widget:a', kind: 'number', place, settings: { digits: 99 } }],
      }),
    ).toBe('gate.schema')
    expect(code(fresh(), 'delete page', { id: page })).toBe('edit.last-page')
    expect(code(fresh(), 'name widget', { id: 'widget:gone', name: 'x' })).toBe('edit.gone')
    expect(code(fresh(), 'add variable', { id: 'variable:__proto__', name: 'x', values: { holds: { type: 'colour' } } })).toBe(
      'ok',
    )
    expect(
      code(fresh(), 'undo', { of: 'change:a', patches: [{ op: 'replace', path: '/spent/widgetNumber', value: 0 }], left: [] }),
    ).toBe('edit.spent')
  })
  test('an undo that was never a change is validated like any other edit', () => {
    const project = must(fresh(), 'add widgets', { page, after: '', widgets: [{ id: 'widget:a', kind: 'label', place }] })
    const undo = (path: string, value: unknown, op = 'replace') =>
      code(project, 'undo', { of: 'change:a', left: [], patches: [{ op, path, value }] })
    expect(undo('/widgets/widget:a/place', { x: 'left' })).toBe('gate.schema')
    expect(undo('/widgets/widget:a/settings/font', { typeface: 'typeface:gone', size: 20 })).toBe('gate.dangling')
    expect(undo('/link/baud', 1)).toBe('gate.schema')
    expect(undo('/link', 'none')).toBe('gate.schema')
    for (const path of [
      '/pages',
      '/variables',
      '/host/quantities',
      '/widgets/constructor',
      '/widgets/page:a',
      '/pages/__proto__',
    ])
      expect([path, undo(path, {}, 'add')]).toEqual([path, 'edit.path'])
    expect(undo('/constructor', {}, 'add')).toBe('gate.schema')
    expect(undo('/widgets/widget:a', undefined, 'remove')).toBe('gate.order')
    expect(undo('/format', 9)).toBe('gate.schema')
    expect(undo('/nowhere/at/all', 1)).toBe('edit.changed-since')
    expect(undo('/extra', 1, 'add')).toBe('gate.schema')
    expect(undo('/widgets/widget:a/place', { x: 5, y: 5, width: 10, height: 10 })).toBe('ok')
  })
  test('a variable that reaches past the last address is refused, typed, by its type, in a file, and by an undo', () => {
    const at = (values: object) => code(fresh(), 'add variable', { id: 'variable:v', name: 'v', values })
    const text = { type: 'text', bytes: 8, encoding: 'latin-1' }
    expect([at({ address: 0xffff }), at({ address: 0xffff, holds: text }), at({ address: 0xfffc, holds: text })]).toEqual([
      'ok',
      'gate.past-memory',
      'ok',
    ])
    const last = must(fresh(), 'add variable', { id: 'variable:v', name: 'v', values: { address: 0xffff } })
    expect(code(last, 'set variable', { id: 'variable:v', values: { holds: text } })).toBe('gate.past-memory')
    const whole = {
      ...last,
      variables: { 'variable:v': { ...last.variables['variable:v']!, holds: text } },
    } as unknown as Project
    const read = validateProject(whole)
    expect(read.ok ? 'ok' : read.problem.code).toBe('gate.past-memory')
    // One that was kept before that was asked for is moved back so far.
    const back = validateProject(withinMemory(whole))
    expect(back.ok && back.value.variables['variable:v']!.address).toBe(0xfffc)
    expect(withinMemory(last)).toBe(last)
  })
  test('what is only unwise goes through: overlap, out of range, another variable’s address', () => {
    let project = must(fresh(), 'add variable', { id: 'variable:a', name: 'a' })
    project = must(project, 'add variable', { id: 'variable:b', name: 'b' })
    expect(
      code(project, 'set variable', { id: 'variable:b', values: { address: project.variables['variable:a']!.address } }),
    ).toBe('ok')
  })
  test('deleting a used variable unbinds its users in the same edit and says how many', () => {
    let project = must(fresh(), 'add variable', { id: 'variable:a', name: 'a' })
    project = must(project, 'add widgets', {
      page,
      after: '',
      widgets: [
        { id: 'widget:n', kind: 'number', place, settings: { variable: 'variable:a' } },
        { id: 'widget:l', kind: 'label', place, settings: { visible: { follows: 'variable:a' } } },
        {
          id: 'widget:b',
          kind: 'button',
          place,
          settings: {
            rules: [does('pressed', 'set', { variable: 'variable:a', to: { follows: 'variable:a' } })],
          },
        },
      ],
    })
    expect(usersOf(project, 'variable:a').length).toBe(4)
    const done = passGate(project, { changeId: 'change:t', edit: 'delete variable', args: { id: 'variable:a' } })
    if (!done.ok) throw new Error('refused')
    expect(done.value.note).toEqual({ unbound: 3 })
    expect(done.value.project.widgets['widget:n']!.settings['variable']).toBe('')
    expect(done.value.project.widgets['widget:l']!.settings['visible']).toBe(true)
    expect(usersOf(done.value.project, 'variable:a')).toEqual([])
  })
})

test('all retired addresses may be released at once, and may then be given again', () => {
  let project = fresh()
  for (const id of ['variable:a', 'variable:b', 'variable:c']) project = must(project, 'add variable', { id })
  for (const id of ['variable:a', 'variable:b']) project = must(project, 'delete variable', { id })
  expect(retiredAddresses(project)).toEqual([])
  for (const id of ['variable:a', 'variable:b']) project = must(project, 'add variable', { id })
  project = must(project, 'spend addresses', {})
  for (const id of ['variable:a', 'variable:b']) project = must(project, 'delete variable', { id })
  expect(retiredAddresses(project).length).toBe(2)
  const live = project.variables['variable:c' as never]['address']
  project = must(project, 'release all addresses', {})
  expect([retiredAddresses(project), project.variables['variable:c' as never]['address']]).toEqual([[], live])
  project = must(project, 'add variable', { id: 'variable:d' })
  expect(project.variables['variable:d' as never]['address']).toBe(16)
})

describe('the project file', () => {
  const filled = () => {
    const maker = new EditMaker(seededRandom(7))
    let project = fresh()
    for (let i = 0; i < 200; i++) {
      const request = maker.request(project)
      const done = request && passGate(project, request)
      if (done?.ok) project = done.value.project
    }
    return project
  }
  test('comes back as it was, and equal projects are equal bytes', () => {
    const project = filled()
    const bytes = packProject(project, testAssets)
    const back = unpackProject(bytes)
    if (!back.ok) throw new Error(JSON.stringify(back.problem))
    expect(sameJson(back.value.project, project)).toBe(true)
    expect([...back.value.assets.keys()].sort()).toEqual(assetsOf(project))
    expect(packProject(back.value.project, back.value.assets)).toEqual(bytes)
  })
  test('a file kept from format 1 opens as the current format', () => {
    const kept = new Uint8Array(readFileSync(new URL('../testing/fixtures/format-1.mothlamp', import.meta.url)))
    const read = unpackProject(kept)
    if (!read.ok) throw new Error(JSON.stringify(read.problem))
    const { project } = read.value
    expect([project.format, project.name, project.link.baud, project.link.tries, 'link' in project.panel]).toEqual([
      currentForm,
      'Kept from format 1',
      38400,
      5,
      false,
    ])
    expect(project.variables['variable:tide']!.stale).toEqual({ afterMs: 2500, shows: 'dim' })
    expect(project.variables['variable:pump']!.stale).toBeNull()
    expect(project.widgets['widget:tide']!.settings['digits']).toBe(5)
  })
  const zip = (document: unknown) =>
    zipSync({ 'project.json': strToU8(typeof document === 'string' ? document : JSON.stringify(document)) })
  const code = (bytes: Uint8Array) => {
    const result = unpackProject(bytes)
    return result.ok ? 'ok' : result.problem.code
  }
  test('one that was packed without an asset says so and opens without it; one that has lost it does not', () => {
    const project = filled()
    const [first] = assetsOf(project)
    const without = new Map([...testAssets].filter(([sha]) => sha !== first))
    const packed = packProject(project, without)
    const opened = unpackProject(packed)
    expect(opened.ok && [opened.value.project, opened.value.assets.has(first!)]).toEqual([project, false])
    expect(packProject(project, testAssets).length).toBeGreaterThan(packed.length)
  })
  test('anything else gets a clear answer', () => {
    const text = projectText(filled())
    expect(code(strToU8('hello'))).toBe('file.zip')
    expect(code(new Uint8Array(0))).toBe('file.zip')
    expect(code(zipSync({ 'other.txt': strToU8('x') }))).toBe('file.no-project')
    expect(code(zip('{"format": 2,'))).toBe('file.json')
    expect(code(zip({ format: 99 }))).toBe('file.form')
    expect(code(zip({ ...JSON.parse(text), name: 'a\0b' }))).toBe('gate.text')
    expect(code(zip(text.replace('"note": "', '"note": "\\ud800')))).toBe('gate.text')
    expect(code(zip('null'))).toBe('file.damaged')
    expect(code(zip({ format: 1 }))).toBe('file.damaged')
    expect(code(zip('[]'))).toBe('file.damaged')
    expect(code(zip({ ...JSON.parse(text), link: { baud: 'fast' } }))).toBe('gate.schema')
    expect(code(zip({ ...JSON.parse(text), extra: 1 }))).toBe('gate.schema')
    expect(code(zip({ ...JSON.parse(text), pageOrder: [] }))).toBe('gate.order')
    expect(code(zip({ ...JSON.parse(text), startPage: 'page:gone' }))).toBe('gate.dangling')
    expect(code(zip(text))).toBe('file.asset')
    expect(code(packProject(filled(), testAssets).slice(0, 900))).toBe('file.zip')
  })
  test('no way of damaging a file throws', () => {
    const bytes = packProject(fresh(), testAssets)
    const random = seededRandom(seed)
    for (let i = 0; i < 200; i++) {
      const hurt = bytes.slice(0, random.below(4) ? bytes.length : random.below(bytes.length))
      for (let k = 0; k < 3; k++) hurt[random.below(hurt.length)] = random.below(256)
      unpackProject(hurt)
    }
  })
})

test('a variable that came with a widget goes when it is bound to another, and comes back with one undo', () => {
  const bound = (id: string) => ({
    id: 'widget:a',
    kind: 'number',
    name: 'a',
    place: { x: 0, y: 0, width: 9, height: 9 },
    settings: { variable: id },
  })
  let project = fresh()
  for (const id of ['variable:own', 'variable:other']) project = must(project, 'add variable', { id })
  project = must(project, 'add widgets', { page: project.startPage, after: '', widgets: [bound('variable:own')] })
  const set = (p: Project, letGo: string[]) =>
    must(p, 'set widgets', { ids: ['widget:a'], values: { variable: 'variable:other' }, letGo })
  const rebound = set(project, ['variable:own'])
  expect(Object.keys(rebound.variables)).toEqual(['variable:other'])
  expect(rebound.variableOrder).toEqual(['variable:other'])
  // Somebody else uses it: it stays.
  const shared = must(project, 'add widgets', {
    page: project.startPage,
    after: '',
    widgets: [{ ...bound('variable:own'), id: 'widget:b', name: 'b' }],
  })
  expect(Object.keys(set(shared, ['variable:own']).variables)).toContain('variable:own')
})

test('whose word a variable is decides when it is stale, until somebody has decided otherwise', () => {
  const stale = (...values: Record<string, unknown>[]) => {
    const job = new Job().edit('add variable', { id: 'variable:v', name: 'v' })
    for (const one of values) job.edit('set variable', { id: 'variable:v', values: one })
    return job.project.variables['variable:v' as never]['stale']
  }
  const byHost = { afterMs: 0, shows: 'dashes' }
  const own = { afterMs: 700, shows: 'dashes' }
  expect(stale()).toEqual(byHost)
  expect(stale({ travels: 'panel to host' })).toBe(null)
  expect(stale({ travels: 'panel to host' }, { travels: 'host to panel' })).toEqual(byHost)
  expect(stale({ stale: own }, { travels: 'panel to host' })).toEqual(own)
})
