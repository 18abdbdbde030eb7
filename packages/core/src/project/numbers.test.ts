import { describe, expect, test } from 'vitest'
import { mustHold, type PageId } from '../base/index.ts'
import { lampLines } from '../protocols/index.ts'
import { Job } from '../testing/job.ts'
import { freshHolds } from '../variables/index.ts'
import { passGate, retiredNumbers, undoOf, unspentNumbers, validateProject, type Change } from './index.ts'

const two = () => new Job().page('a').page('b')
const pages = (job: Job) => Object.values(job.project.pages).map(({ name, number }) => `${name} ${number}`)
const number = (job: Job, page: string, value: number) => passGate(job.project, { changeId: 'change:n', edit: 'set page', args: { id: page, values: { number: value } } }) // prettier-ignore
const codeOf = (result: { ok: boolean; problem?: { code: string } }) => (result.ok ? 'good' : result.problem!.code)

describe('a number given by hand', () => {
  test('is from 0 to 65535, and of one page', () => {
    const job = two().edit('set page', { id: 'page:a', values: { number: 0 } })
    expect(pages(job)).toEqual(['Page 1 1', 'a 0', 'b 3'])
    expect(codeOf(number(job, 'page:a', 3))).toBe('edit.number-taken')
    expect(codeOf(number(job, 'page:a', 65_536))).toBe('gate.schema')
    expect(codeOf(number(job, 'page:a', -1))).toBe('gate.schema')
    expect(codeOf(number(job, 'page:a', 2))).toBe('good')
  })
  test('is left alone by those that the project gives', () => {
    const job = two()
      .edit('set page', { id: 'page:b', values: { number: 4 } })
      .page('c')
      .page('d')
    expect(pages(job)).toEqual(['Page 1 1', 'a 2', 'b 4', 'c 5', 'd 6'])
  })
  test('of a pop-up is not 0: the word that says which is open is 0 while none is', () => {
    const job = two().page('ask', {}, 'pop-up')
    expect(codeOf(number(job, 'page:ask', 0))).toBe('edit.number-zero')
    job.edit('set page', { id: 'page:a', values: { number: 0 } })
    const kind = { changeId: 'change:k' as const, edit: 'set page', args: { id: 'page:a', values: { kind: 'pop-up' } } }
    expect(codeOf(passGate(job.project, kind))).toBe('edit.number-zero')
  })
  test('page 0 is opened by the host, shown at power-on, and gone home to', () => {
    const job = two()
      .edit('set page', { id: 'page:a', values: { number: 0 } })
      .wait(300)
    job.host('own-page', 0).wait(300)
    expect(job.panel.pageNumber).toBe(0)
    const start = two()
      .edit('set page', { id: 'page:a', values: { number: 0 } })
      .edit('set start page', { id: 'page:a' })
    expect(start.wait(10).page_).toBe('a')
  })
  test('given back by undo is taken only while nobody else has it', () => {
    const job = two()
    const changed = mustHold(number(job, 'page:a', 9))
    const undo = undoOf(changed.change as Change, 'change:u')!
    const other = mustHold(passGate(changed.project, { changeId: 'change:o', edit: 'set page', args: { id: 'page:b', values: { number: 2 } } })) // prettier-ignore
    expect(codeOf(passGate(other.project, undo))).toBe('gate.numbers')
    expect(codeOf(passGate(changed.project, undo))).toBe('good')
  })
})

describe('a number that was handed off', () => {
  test('is nobody else’s, whatever becomes of its page, until it is released', () => {
    const job = two().edit('spend addresses', {})
    expect(unspentNumbers(job.project)).toEqual([])
    job.edit('delete page', { id: 'page:a' })
    expect(retiredNumbers(job.project)).toMatchObject([{ one: 'page', number: 2, name: 'a' }])
    expect(codeOf(number(job, 'page:b', 2))).toBe('edit.number-spent')
    job.edit('release all addresses', {})
    expect(codeOf(number(job, 'page:b', 2))).toBe('good')
  })
  test('is its own page’s again', () => {
    const job = two()
      .edit('spend addresses', {})
      .edit('set page', { id: 'page:a', values: { number: 8 } })
    expect(codeOf(number(job, 'page:a', 2))).toBe('good')
    expect(codeOf(number(job, 'page:b', 2))).toBe('edit.number-spent')
  })
})

test('two records of one number are no document; one without gets the next', () => {
  const job = two()
  const twice = {
    ...job.project,
    pages: { ...job.project.pages, 'page:b': { ...job.project.pages['page:b' as PageId]!, number: 2 } },
  }
  expect(codeOf(validateProject(twice))).toBe('gate.numbers')
  const bare = Object.fromEntries(Object.entries(job.project.styles).map(([id, { number: _, ...record }]) => [id, record]))
  const read = mustHold(validateProject({ ...job.project, styles: bare }))
  expect(Object.values(read.styles).map((t) => t.number)).toEqual([5, 6, 7, 8])
})

describe('a name on the wire', () => {
  const setName = (project: Job['project'], name: string) =>
    mustHold(
      passGate(project, { changeId: `change:${name}`, edit: 'set variable', args: { id: 'variable:v', values: { name } } }),
    )
  const lines = () => new Job().edit('set layout', { values: { toPanel: lampLines.toPanel } }).variable('v', freshHolds('u16'))
  test('follows the name until it is handed off, and stays then', () => {
    const job = lines()
    const free = setName(job.project, 'speed')
    expect([free.project.variables['variable:v']!.wireName ?? '', free.note]).toEqual(['', {}])
    job.edit('spend addresses', {})
    const was = job.project.variables['variable:v']!.name
    const kept = setName(job.project, 'speed')
    expect([kept.project.variables['variable:v']!.wireName, kept.note]).toEqual([was, { keptWire: was }])
    // One that it has by hand is nobody's business.
    const byHand = setName(kept.project, 'pace')
    expect([byHand.project.variables['variable:v']!.wireName, byHand.note]).toEqual([was, {}])
  })
  test('is left alone where no line has names', () => {
    const job = new Job().variable('v', freshHolds('u16')).edit('spend addresses', {})
    expect(setName(job.project, 'speed').project.variables['variable:v']!.wireName).toBeUndefined()
  })
})
