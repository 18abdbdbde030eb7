import { afterEach, describe, expect, test } from 'vitest'
import Joi from 'joi'
import { seededRandom, type IdKind } from '../base/index.ts'
import { noFace } from '../faces/index.ts'
import { EditMaker } from '../testing/edits.ts'
import { demo, edited } from '../testing/demo.ts'
import { testTypefaces } from '../testing/fonts.ts'
import { Job } from '../testing/job.ts'
import { mustFind, takeOut } from './edits/edit.ts'
import {
  allReferences,
  applyPatches,
  collections,
  freshProject,
  passGate,
  plainPanel,
  recordsOf,
  registerCollection,
  usersOf,
  validateProject,
  type Collection,
  type CollectionOf,
  type Project,
  type Request,
} from './index.ts'
import { isInRecord, recordDepth } from './record-paths.ts'
import { validateTouched } from './validate.ts'

// The law of collections: what refers to nothing is refused, and whatever is deleted leaves a document that can be read.

interface Shelf {
  id: string
  name: string
  picture: string
}
/** A collection that nothing else knows of. */
const shelves: CollectionOf<Shelf> = {
  path: ['shelves'],
  kind: 'shelf' as IdKind,
  one: 'shelf',
  schema: Joi.object({
    id: Joi.string().required(),
    name: Joi.string().required(),
    picture: Joi.string().allow('').required(),
  }),
  order: 'shelfOrder',
  most: 3,
  refs: ({ id, picture }) => (picture ? [{ to: picture, from: id, label: 'Picture', use: 'names' }] : []),
  without: (shelf) => void (shelf.picture = ''),
}
let out: () => void = () => undefined
afterEach(() => out())

/** A document that edits have gone through. */
function lived(seed: number, edits = 120): Project {
  const maker = new EditMaker(seededRandom(seed))
  let project = freshProject('Test', plainPanel, testTypefaces)
  for (let k = 0; k < edits; k++) {
    const request = maker.request(project)
    const done = request && passGate(project, request)
    if (done?.ok) project = done.value.project
  }
  return project
}

/** The record at an owner with what it refers to replaced by what is not there, in a copy of the document. */
function withLost(project: Project, collection: Collection, id: string, to: string): Project {
  const copy = structuredClone(project)
  const text = JSON.stringify(recordsOf(copy, collection)[id])
  recordsOf(copy, collection)[id] = JSON.parse(text.replaceAll(`"${to}"`, `"${to.slice(0, to.indexOf(':'))}:gone"`))
  return copy
}

describe('whatever refers', () => {
  const [first, second] = demo.project.typefaceOrder
  const fallsBack = edited(demo.project, 'set typeface', { id: first, values: { fallback: second } })
  const project = [3, 5].map((seed) => lived(seed)).concat(fallsBack)
  test('to what is not there is refused, by an edit and in a file, in every collection that refers', () => {
    const tried = new Set<string>()
    for (const one of project)
      for (const collection of collections())
        for (const [id, record] of Object.entries(recordsOf(one, collection)).slice(0, 3))
          for (const { to } of collection.refs(record).slice(0, 3)) {
            if (!to || to === id || to.startsWith('variable:own-')) continue
            const lost = withLost(one, collection, id, to)
            const path = `/${[...collection.path, id].join('/')}`
            const touched = validateTouched(one, lost, [collection.path[0] === 'host' ? '/host' : path])
            const why = (result: { ok: boolean; problem?: { code: string } }) => (result.ok ? 'taken' : result.problem!.code)
            expect([path, to, why(touched as never), why(validateProject(lost) as never)]).toEqual([
              path,
              to,
              'gate.dangling',
              'gate.dangling',
            ])
            tried.add(collection.kind)
          }
    expect([...tried]).toEqual(expect.arrayContaining(['page', 'widget', 'typeface', 'picture', 'face', 'style']))
  })
  test('is known by what it refers to, and taken out of it', () => {
    for (const one of project)
      for (const ref of allReferences(one)) expect(ref.to === '' || usersOf(one, ref.to).includes(ref)).toBe(true)
  })
})

describe('whatever is deleted in one window', () => {
  const deletes = ['delete page', 'delete widgets', 'delete variable', 'delete typeface', 'delete picture', 'delete face', 'delete colour', 'delete style', 'delete exchange', 'delete from host', 'draw picture'] // prettier-ignore

  test.each([21, 34])('any edit of another that waits leaves a document that can be read, seed %i', (seed) => {
    const random = seededRandom(seed)
    const base = lived(seed + 1000)
    const maker = new EditMaker(random)
    let both = 0
    for (let round = 0; round < 80; round++) {
      const gone = maker.request(base, deletes[random.below(deletes.length)]!)
      const waiting = maker.request(base)
      const after = gone && passGate(base, gone)
      if (!gone || !waiting || !after?.ok) continue
      const then = passGate(after.value.project, waiting)
      if (!then.ok) continue
      both++
      const read = validateProject(JSON.parse(JSON.stringify(then.value.project)))
      expect([gone.edit, waiting.edit, read.ok ? 'read' : read.problem]).toEqual([gone.edit, waiting.edit, 'read'])
    }
    expect(both).toBeGreaterThan(15)
  })
  test('a picture goes while another window gives it to a face with a name: that edit is refused, the others go on', () => {
    const job = new Job()
    const picture = { ...Object.values(demo.project.pictures)[0]!, id: 'picture:moon' }
    job.edit('add pictures', { pictures: [picture], after: '' }).edit('add face', { id: 'face:go', name: 'go', face: noFace })
    const waiting: Request = {
      changeId: 'change:waits',
      edit: 'set face',
      args: { id: 'face:go', values: { face: { ...noFace, picture: 'picture:moon' } } },
    }
    expect(passGate(job.project, waiting).ok).toBe(true)
    job.edit('delete picture', { id: 'picture:moon' })
    const refused = passGate(job.project, waiting)
    expect(refused.ok ? 'taken' : refused.problem.code).toBe('gate.dangling')
    expect(edited(job.project, 'set project', { values: { note: 'goes on' } }).note).toBe('goes on')
  })
})

describe('a collection of one file and one line', () => {
  const picture = Object.values(demo.project.pictures)[0]!
  const withShelf = (picture: string): Project =>
    applyPatches(demo.project, [
      { op: 'add', path: '/shelves', value: { 'shelf:a': { id: 'shelf:a', name: 'A', picture } } },
      { op: 'add', path: '/shelfOrder', value: ['shelf:a'] },
    ])!

  test('is in a fresh project, and in one that was made before there was any', () => {
    out = registerCollection(shelves)
    expect(freshProject('New', plainPanel, testTypefaces)).toMatchObject({ shelves: {}, shelfOrder: [] })
    const read = validateProject(demo.project)
    expect(read.ok && read.value).toMatchObject({ shelves: {}, shelfOrder: [] })
  })
  test('obeys the law: order, limit, own ids, references, deleting', () => {
    out = registerCollection(shelves)
    const code = (project: unknown) => {
      const read = validateProject(project)
      return read.ok ? 'read' : read.problem.code
    }
    const good = withShelf(picture.id)
    expect(code(good)).toBe('read')
    expect(code(withShelf('picture:gone'))).toBe('gate.dangling')
    expect(code({ ...good, shelfOrder: [] })).toBe('gate.order')
    expect(code({ ...good, shelves: { 'shelf:b': { id: 'shelf:a', name: 'A', picture: '' } } })).toBe('gate.schema')
    const four = Object.fromEntries(['a', 'b', 'c', 'd'].map((n) => [`shelf:${n}`, { id: `shelf:${n}`, name: n, picture: '' }]))
    expect(code({ ...good, shelves: four, shelfOrder: Object.keys(four) })).toBe('gate.many')
    expect(usersOf(good, picture.id).map(({ from }) => from)).toContain('shelf:a')
    const { project: after } = (() => {
      const done = passGate(good, { changeId: 'change:x', edit: 'delete picture', args: { id: picture.id } })
      if (!done.ok) throw new Error(done.problem.code)
      return done.value
    })()
    expect((after as unknown as { shelves: Record<string, Shelf> }).shelves['shelf:a']!.picture).toBe('')
    expect([
      isInRecord('/shelves/shelf:a/name'),
      isInRecord('/shelves/page:a'),
      recordDepth(['shelves', 'shelf:a', 'name']),
    ]).toEqual([true, false, 2])
    const copy = structuredClone(good)
    takeOut(copy, good, recordsOf(copy, shelves), 'shelf:a')
    expect(() => mustFind(recordsOf(copy, shelves), 'shelf:a')).toThrow()
  })
})
