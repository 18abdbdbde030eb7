import { describe, expect, test } from 'vitest'
import { freshProject, passGate, plainPanel, retiredAddresses, unspentAddresses, type Project } from '../project/index.ts'
import { edited } from '../testing/demo.ts'
import { testTypefaces } from '../testing/fonts.ts'
import { Replica } from './index.ts'

const fresh = () => freshProject('Test', plainPanel, testTypefaces)
const must = (project: Project, edit: string, args: unknown): Project => edited(project, edit, args)

describe('addresses that have left the house are never handed out again', () => {
  const adding = (replica: Replica) => (id: string) =>
    replica.edit({ changeId: `change:${id}`, edit: 'add variable', args: { id: `variable:${id}`, name: id } })
  test('those that nobody has seen are: an undo or a slip retires nothing', () => {
    const replica = new Replica(fresh(), 0)
    const add = adding(replica)
    add('a')
    add('b')
    replica.undo('change:u')
    replica.edit({ changeId: 'change:m', edit: 'set variable', args: { id: 'variable:a', values: { address: 0x40 } } })
    replica.edit({ changeId: 'change:n', edit: 'set variable', args: { id: 'variable:a', values: { address: 0x10 } } })
    add('c')
    expect(replica.project.variables['variable:c']!.address).toBe(17)
    expect(retiredAddresses(replica.project)).toEqual([])
  })
  test('not after delete, not after undo; only release frees one, and its undo retires it again', () => {
    const replica = new Replica(fresh(), 0)
    const add = adding(replica)
    add('a')
    add('b')
    expect([16, 17]).toEqual(Object.values(replica.project.variables).map((v) => v.address))
    expect(unspentAddresses(replica.project).map((v) => v.name)).toEqual(['a', 'b'])
    replica.edit({ changeId: 'change:s', edit: 'spend addresses', args: {} })
    expect(unspentAddresses(replica.project)).toEqual([])
    // Spending cannot be taken back, so the undo is that of the variable.
    replica.undo('change:u')
    expect(Object.keys(replica.project.variables)).toEqual(['variable:a'])
    add('c')
    expect(replica.project.variables['variable:c']!.address).toBe(18)
    replica.edit({ changeId: 'change:d', edit: 'delete variable', args: { id: 'variable:a' } })
    expect(retiredAddresses(replica.project).map((r) => [r.address, r.name])).toEqual([
      [16, 'a'],
      [17, 'b'],
    ])
    replica.edit({ changeId: 'change:r', edit: 'release address', args: { key: 'variable:b@17' } })
    expect(replica.undo('change:v')?.ok).toBe(true)
    expect(retiredAddresses(replica.project).length).toBe(2)
    replica.edit({ changeId: 'change:q', edit: 'release address', args: { key: 'variable:b@17' } })
    add('e')
    expect(replica.project.variables['variable:e']!.address).toBe(17)
  })
  test('redo brings a variable back to its own address', () => {
    const replica = new Replica(fresh(), 0)
    replica.edit({ changeId: 'change:1', edit: 'add variable', args: { id: 'variable:a', name: 'a' } })
    replica.undo('change:2')
    replica.redo('change:3')
    expect(replica.project.variables['variable:a']!.address).toBe(16)
    expect(retiredAddresses(replica.project)).toEqual([])
  })
  test('a variable that outgrows its place does not move by itself', () => {
    let project = must(fresh(), 'add variable', { id: 'variable:a', name: 'a' })
    project = must(project, 'add variable', { id: 'variable:b', name: 'b' })
    project = must(project, 'set variable', {
      id: 'variable:a',
      values: { holds: { type: 'text', bytes: 20, encoding: 'latin-1' } },
    })
    expect(project.variables['variable:a']!.address).toBe(16)
    project = must(project, 'give new address', { id: 'variable:a' })
    expect(project.variables['variable:a']!.address).toBe(26)
  })
  test('the words it grew over stay spent once they were, since a host may write them', () => {
    let project = must(fresh(), 'add variable', { id: 'variable:a', name: 'a' })
    const text = { type: 'text', bytes: 20, encoding: 'latin-1' }
    project = must(project, 'set variable', { id: 'variable:a', values: { holds: text } })
    expect(unspentAddresses(project).length).toBe(1)
    project = must(project, 'spend addresses', {})
    project = must(project, 'give new address', { id: 'variable:a' })
    expect(project.variables['variable:a']!.address).toBe(26)
    expect(retiredAddresses(project).map((r) => [r.address, r.words])).toEqual([[16, 10]])
  })
})

test('undo is refused with a reason when someone has changed the same place since', () => {
  const replica = new Replica(must(fresh(), 'add variable', { id: 'variable:a', name: 'a' }), 1)
  replica.edit({ changeId: 'change:1', edit: 'set variable', args: { id: 'variable:a', values: { meaning: 'mine' } } })
  replica.confirm(['change:1'], 2)
  const theirs = passGate(replica.project, {
    changeId: 'change:2',
    edit: 'set variable',
    args: { id: 'variable:a', values: { meaning: 'theirs' } },
  })
  if (!theirs.ok) throw new Error('refused')
  replica.takeTheirs([{ ...theirs.value.change, revision: 3 }])
  expect(replica.undo('change:3')).toMatchObject({ ok: false, problem: { code: 'edit.changed-since' } })
  expect(replica.project.variables['variable:a']!.meaning).toBe('theirs')
})

test('one’s own unsaved changes run again on top of theirs, or are set aside by name', () => {
  const base = must(fresh(), 'add variable', { id: 'variable:a', name: 'a' })
  const replica = new Replica(base, 5)
  replica.edit({ changeId: 'change:mine', edit: 'set variable', args: { id: 'variable:a', values: { meaning: 'kept?' } } })
  replica.edit({ changeId: 'change:new', edit: 'add variable', args: { id: 'variable:b', name: 'b' } })
  const theirs = [
    { changeId: 'change:t1', edit: 'delete variable', args: { id: 'variable:a' } },
    { changeId: 'change:t2', edit: 'add variable', args: { id: 'variable:c', name: 'b' } },
  ] as const
  let on = base
  const done = theirs.map((request) => {
    const passed = passGate(on, request)
    if (!passed.ok) throw new Error('refused')
    on = passed.value.project
    return passed.value.change
  })
  const { aside } = replica.takeTheirs(done.map((change, i) => ({ ...change, revision: 6 + i })))!
  expect(aside.map((s) => [s.request.edit, s.problem.code])).toEqual([['set variable', 'edit.gone']])
  expect(replica.project.variables['variable:b']).toMatchObject({ name: 'b_2', address: 17 })
  expect(replica.project.variables['variable:c']).toMatchObject({ name: 'b', address: 16 })
})

describe('changes of others', () => {
  const own = (id: string, meaning: string) => ({
    changeId: `change:${id}` as const,
    edit: 'set variable',
    args: { id: 'variable:a', values: { meaning } },
  })
  const base = must(fresh(), 'add variable', { id: 'variable:a', name: 'a' })
  const saved = (revision: number, text: string) => ({
    revision,
    changeId: `change:r${revision}` as const,
    edit: 'set project',
    patches: [{ op: 'replace' as const, path: '/note', value: text }],
  })
  test('that overlap what is there already are passed over; a gap or a misfit changes nothing', () => {
    const replica = new Replica(base, 5)
    replica.edit(own('1', 'mine'))
    const before = replica.project
    expect(replica.takeTheirs([saved(7, 'gap')])).toBeNull()
    expect(
      replica.takeTheirs([saved(6, 'x'), { ...saved(7, 'y'), patches: [{ op: 'remove', path: '/pages/page:no' }] }]),
    ).toBeNull()
    expect([replica.project, replica.revision]).toEqual([before, 5])
    expect(replica.takeTheirs([saved(6, 'six'), saved(7, 'seven')])).toEqual({ gone: [], aside: [] })
    expect(replica.takeTheirs([saved(5, 'five'), saved(6, 'six'), saved(7, 'seven')])).toEqual({ gone: [], aside: [] })
    expect(replica.takeTheirs([saved(6, 'six'), saved(7, 'seven'), saved(8, 'eight')])).toEqual({ gone: [], aside: [] })
    expect([replica.revision, replica.project.note, replica.project.variables['variable:a']!.meaning]).toEqual([
      8,
      'eight',
      'mine',
    ])
  })
  test('one’s own among them is pending no more; a change that was confirmed must have been the next', () => {
    const replica = new Replica(base, 5)
    replica.edit(own('1', 'mine'))
    const [first] = replica.pending
    replica.edit(own('2', 'mine too'))
    expect(() => replica.confirm(['change:2'], 6)).toThrow('was not pending')
    expect(replica.takeTheirs([{ ...first!, revision: 6 }])).toEqual({ gone: ['change:1'], aside: [] })
    expect(replica.pending.map((c) => c.changeId)).toEqual(['change:2'])
    replica.confirm(['change:2'], 7)
    expect([replica.revision, replica.pending, replica.canUndo]).toEqual([7, [], true])
  })
})
