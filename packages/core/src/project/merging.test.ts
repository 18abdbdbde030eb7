import { describe, expect, test } from 'vitest'
import { mustHold, newId, seededRandom } from '../base/index.ts'
import { demo, widgetNamed } from '../testing/demo.ts'
import { EditMaker } from '../testing/edits.ts'
import { narrowed, passGate, patchesBetween, applyPatches, type Project, type Request } from './index.ts'

const { project } = demo
const request = (edit: string, args: unknown): Request => ({ changeId: 'change:m', edit, args })
const done = (at: Project, what: Request) => mustHold(passGate(at, what)).project
const codeOf = (at: Project, edit: string, args: unknown) => {
  const result = passGate(at, request(edit, args))
  return result.ok ? 'good' : result.problem.code
}
/** Two who had the same document, one after the other at the server. */
const both = (a: [string, unknown], b: [string, unknown]): Project =>
  done(done(project, narrowed(project, request(...a))!), narrowed(project, request(...b))!)

const widget = widgetNamed(project, 'Target')
const variable = Object.values(project.variables).find((v) => v.name === 'dome_target')!

describe('an edit carries what it changes and nothing else', () => {
  test('moved right here and down there: both', () => {
    const { x, y } = widget.place
    const after = both(
      ['place widgets', { places: { [widget.id]: { ...widget.place, x: x + 10 } } }],
      ['place widgets', { places: { [widget.id]: { ...widget.place, y: y + 10 } } }],
    )
    expect(after.widgets[widget.id]!.place).toEqual({ ...widget.place, x: x + 10, y: y + 10 })
  })
  test('the range here and the unit there; the fill here and the radius there', () => {
    const after = both(
      ['set variable', { id: variable.id, values: { holds: { ...variable.holds, max: 200 } } }],
      ['set variable', { id: variable.id, values: { holds: { ...variable.holds, unit: 'deg' } } }],
    )
    expect(after.variables[variable.id]!.holds).toEqual({ ...variable.holds, max: 200, unit: 'deg' })
    const face = widget.settings['face'] as object
    const faced = both(
      ['set widgets', { ids: [widget.id], values: { face: { ...face, fill: '#112233' } } }],
      ['set widgets', { ids: [widget.id], values: { face: { ...face, radius: 3 } } }],
    )
    expect(faced.widgets[widget.id]!.settings['face']).toEqual({ ...face, fill: '#112233', radius: 3 })
  })
  test('what is so already is no edit', () => {
    expect(narrowed(project, request('place widgets', { places: { [widget.id]: widget.place } }))).toBeNull()
    expect(narrowed(project, request('set variable', { id: variable.id, values: { holds: variable.holds } }))).toBeNull()
    expect(
      narrowed(project, request('set widgets', { ids: [widget.id], values: { face: widget.settings['face'], nonsense: 1 } })),
    ).toBeNull()
    expect(narrowed(project, request('set link', { values: { baud: project.link.baud } }))).toBeNull()
  })
  test('where someone has made another kind of it meanwhile, it is refused and not forced', () => {
    const other = done(
      project,
      request('set variable', { id: variable.id, values: { holds: { type: 'text', bytes: 8, encoding: 'ascii' } } }),
    )
    expect(codeOf(other, 'set variable', { id: variable.id, values: { 'holds/max': 5 } })).toBe('edit.shape')
    expect(codeOf(project, 'set variable', { id: variable.id, values: { 'name/length': 5 } })).toBe('edit.shape')
    expect(codeOf(project, 'set variable', { id: variable.id, values: { 'holds/constructor/prototype': 5 } })).toBe('edit.shape')
    expect(codeOf(project, 'set variable', { id: variable.id, values: { address2: 5 } })).toBe('gate.args')
  })
})

describe('patches between two states', () => {
  test('lead there and back, whatever lies between', () => {
    const random = seededRandom(7)
    const maker = new EditMaker(random)
    let at = project
    const states = [at]
    for (let i = 0; i < 200; i++) {
      const made = maker.request(at)
      const result = made && passGate(at, made)
      if (result?.ok) states.push((at = result.value.project))
    }
    for (let i = 0; i < 60; i++) {
      const [a, b] = [states[random.below(states.length)]!, states[random.below(states.length)]!]
      const { patches, inverse } = patchesBetween(a, b)
      expect(applyPatches(a, patches)).toEqual(b)
      expect(applyPatches(b, inverse)).toEqual(a)
      for (const { path } of patches) expect(path).not.toMatch(/\/\d+(\/|$)/)
    }
  })
  test('leave alone what they do not touch, copy each container once, and never write through a prototype', () => {
    const ids = Object.keys(project.widgets).slice(0, 3)
    const moved = applyPatches(
      project,
      ids.map((id) => ({ op: 'replace' as const, path: `/widgets/${id}/place/x`, value: 1 })),
    )!
    expect(moved.widgets[ids[0] as never]).not.toBe(project.widgets[ids[0] as never])
    expect(moved.variables).toBe(project.variables)
    expect(Object.values(moved.widgets).filter((w) => w !== project.widgets[w.id]).length).toBe(3)
    expect(Object.isFrozen(moved.widgets)).toBe(true)
    for (const path of [
      '/__proto__/polluted',
      '/widgets/__proto__/polluted',
      '/widgets/constructor/polluted',
      '/nowhere/at',
      '/name/0',
      '',
    ])
      expect([path, applyPatches(project, [{ op: 'add', path, value: 1 }])]).toEqual([path, null])
    expect(({} as { polluted?: number }).polluted).toBeUndefined()
  })
})

describe('what could not be kept is refused by the gate', () => {
  const nested = (depth: number): unknown => (depth ? { a: nested(depth - 1) } : 1)
  test.each([
    ['NUL', { values: { note: 'a\0b' } }, 'gate.text'],
    ['half an emoji', { values: { note: 'a\ud83d' } }, 'gate.text'],
    ['half an emoji in a key', { values: { ['note\udc00']: 'a' } }, 'gate.text'],
    ['no number', { values: { note: NaN } }, 'gate.number'],
    ['a key to a prototype', JSON.parse('{"values":{"note":{"__proto__":1}}}'), 'gate.key'],
    ['8 000 deep', { values: { note: nested(8000) } }, 'gate.deep'],
    ['3 MB', { values: { note: 'x'.repeat(3_000_000) } }, 'gate.large'],
    ['a number as text', { values: { note: 5 } }, 'gate.schema'],
    ['a whole emoji', { values: { note: 'fine 🌙' } }, 'good'],
  ])('%s', (_, args, code) => expect(codeOf(project, 'set project', args)).toBe(code))
  test('nothing is converted on the way', () => {
    expect(codeOf(project, 'set link', { values: { baud: '9600' } })).toBe('gate.schema')
    expect(codeOf(project, 'set link', { values: { confirm: 'true' } })).toBe('gate.schema')
    expect(codeOf(project, 'name widget', { id: widget.id, name: ' blanks ' })).toBe('gate.schema')
    expect(newId('page', seededRandom(1)).length).toBe(25)
  })
})
