import type Joi from 'joi'
import { bad, good, type Result } from '../base/index.ts'
import { wordsOf } from '../variables/index.ts'
import { clean } from './clean.ts'
import { collectionAt, collections, mostParts, recordsOf, type Collection } from './collections.ts'
import { numberAll, numberedCollections } from './numbers.ts'
import { isRecord, pathOf } from './patches.ts'
import { memoryEnd, sameMembers, type Bad } from './record-checks.ts'
import type { Reference } from './record-refs.ts'
import { allReferences, isThere } from './references.ts'
import { order, singleSchemas } from './schema.ts'
import type { Project, Variable, Widget } from './types.ts'

function cleanRecord(collection: Collection, id: string, record: unknown, before?: unknown): Result<unknown> {
  const path = `${collection.path[0]}/${id}`
  const cleaned = clean(collection.schema!, record, path, before)
  if (!cleaned.ok) return cleaned
  if ((cleaned.value as { id: string }).id !== id)
    return bad('gate.schema', { path: `${path}/id`, message: 'a record stands under its own id' })
  return collection.check?.(cleaned.value, path, before) ?? cleaned
}

/** The collections whose records stand at the top of the document, and are read one by one. */
const topmost = (): Collection[] => collections().filter(({ path }) => path.length === 1)

/**
 * A document with its variables moved back to where all of them has an address: as it was kept before that was asked for. A
 * value that is no document stays as it is.
 */
export function withinMemory(stored: unknown): unknown {
  const { variables } = (stored ?? {}) as { variables?: Record<string, Partial<Variable>> }
  if (typeof variables !== 'object' || variables === null) return stored
  const moved = Object.entries(variables).map(([id, v]) => {
    const reaches = typeof v?.address === 'number' && v.holds ? v.address + wordsOf(v.holds) - memoryEnd : 0
    return [id, reaches > 0 ? { ...v, address: v.address! - reaches } : v] as const
  })
  return moved.some(([id, v]) => v !== variables[id]) ? { ...(stored as object), variables: Object.fromEntries(moved) } : stored
}

const dangling = (project: Project, refs: readonly Reference[]): Bad | null => {
  const lost = refs.find((ref) => !isThere(project, ref.to))
  return lost ? bad('gate.dangling', { from: lost.from, to: lost.to }) : null
}

const recordIn = (project: Project, collection: Collection, id: string): unknown => {
  const records = recordsOf(project, collection)
  return Object.hasOwn(records, id) ? records[id] : undefined
}

/** The schemas of the lists beside collections, by the collection: there is one more when one is registered. */
const orderSchemas = new WeakMap<Collection, Joi.Schema>()
function orderSchema(collection: Collection): Joi.Schema {
  let schema = orderSchemas.get(collection)
  if (!schema) {
    schema = order(collection.kind).default((collection.before ?? []).map(({ id }) => id))
    orderSchemas.set(collection, schema)
  }
  return schema
}

/** Every part of the document that is no collection, with its schema. */
const partSchemas = (): [string, Joi.Schema][] => [
  ...Object.entries(singleSchemas),
  ...topmost().flatMap((collection): [string, Joi.Schema][] =>
    collection.order === null ? [] : [[collection.order, orderSchema(collection)]],
  ),
]

function partSchema(key: string): Joi.Schema | undefined {
  if (Object.hasOwn(singleSchemas, key)) return singleSchemas[key]
  const collection = topmost().find((one) => one.order === key)
  return collection && orderSchema(collection)
}

/** Validates the records at the paths an edit touched, and what hangs on them. */
export function validateTouched(before: Project, drafted: Project, paths: readonly string[]): Result<Project> {
  let project = drafted
  let removed = false
  const heads = new Set<string>()
  for (const path of paths) {
    const [head, id] = pathOf(path) as [string, string]
    heads.add(head)
    const collection = collectionAt(head)
    if (!collection) continue
    const record = recordIn(project, collection, id)
    if (record === undefined) {
      removed = true
      continue
    }
    const cleaned = cleanRecord(collection, id, record, recordIn(before, collection, id))
    if (!cleaned.ok) return cleaned
    if (cleaned.value !== record) project = { ...project, [head]: { ...recordsOf(project, collection), [id]: cleaned.value } }
    const lost = dangling(project, collection.refs(cleaned.value))
    if (lost) return lost
    const torn =
      head === 'pages' || head === 'widgets' ? tornPage(project, head === 'pages' ? id : (cleaned.value as Widget).page) : null
    if (torn) return torn
    const parent =
      head === 'widgets' ? (tornParent(project, cleaned.value as Widget) ?? tornLike(project, cleaned.value as Widget)) : null
    if (parent) return parent
  }
  for (const head of heads) {
    if (collectionAt(head)) continue
    const schema = partSchema(head)
    if (!schema) return bad('gate.schema', { path: head, message: 'there is no such part of a project' })
    const cleaned = clean(schema, project[head as keyof Project], head, before[head as keyof Project])
    if (!cleaned.ok) return cleaned
    if (cleaned.value !== project[head as keyof Project]) project = { ...project, [head]: cleaned.value }
  }
  const lost = removed ? Object.values(project.widgets).find((w) => tornLike(project, w)) : undefined
  if (lost) return tornLike(project, lost)!
  const lists =
    tooMany(project as unknown as Record<string, unknown>, (key) => heads.has(key)) ??
    listsAgree(project, before) ??
    byHand(project, heads)
  if (lists) return lists
  const host = heads.has('host') || heads.has('conduct') || removed ? dangling(project, allReferences(project)) : null
  return host ?? good(project)
}

/** Numbers that may be given by hand, of what was touched. */
const byHand = (project: Project, heads: ReadonlySet<string>): Bad | null =>
  numbersTwice(project, ({ numbers, path }) => numbers === 'by hand too' && heads.has(path[0]))

/** Page and widgets must name each other. */
function tornPage(project: Project, id: string): Bad | null {
  const page = project.pages[id as keyof typeof project.pages]
  if (!page) return bad('gate.dangling', { from: 'a widget', to: id })
  return page.widgets.every((w) => project.widgets[w]?.page === page.id) ? null : bad('gate.order', { where: page.name })
}

/** The parent of a widget is on the same page, and going up never comes round. */
function tornParent(project: Project, widget: Widget): Bad | null {
  const passed = new Set<string>()
  for (let at: Widget | undefined = widget; at && at.parent !== ''; at = project.widgets[at.parent]) {
    passed.add(at.id)
    const parent: Widget | undefined = project.widgets[at.parent]
    if (parent?.page !== widget.page || passed.has(at.parent)) return bad('gate.dangling', { from: at.id, to: at.parent })
  }
  return null
}

/** A linked copy has its original, of the same kind, which is no copy itself. */
function tornLike(project: Project, widget: Widget): Bad | null {
  if (widget.like === '') return null
  const original = project.widgets[widget.like]
  return original?.kind === widget.kind && original.like === ''
    ? null
    : bad('gate.dangling', { from: widget.id, to: widget.like })
}

function listsAgree(project: Project, before: Project | null): Bad | null {
  const changed = (key: keyof Project) => !before || before[key] !== project[key]
  for (const collection of collections()) {
    const [head, within] = collection.path as readonly string[] as [keyof Project, string?]
    if (collection.order === null || !(changed(head) || changed(collection.order as keyof Project))) continue
    const beside = (within === undefined ? project : project[head]) as unknown as Record<string, readonly string[]>
    const wrong = sameMembers(recordsOf(project, collection), beside[collection.order]!, within ?? head)
    if (wrong) return wrong
  }
  if (changed('widgets') || changed('pages')) {
    let listed = 0
    for (const page of Object.values(project.pages)) listed += page.widgets.length
    if (listed !== Object.keys(project.widgets).length) return bad('gate.order', { where: 'widgets' })
  }
  if (project.startPage !== '' && !Object.hasOwn(project.pages, project.startPage))
    return bad('gate.dangling', { from: 'the start page', to: project.startPage })
  return null
}

const many = (what: string, most: number) => bad('gate.many', { what, most })

/** Whether a project has more of something than any has: looked at before records are read one by one. */
function tooMany(project: Record<string, unknown>, counts: (key: string) => boolean = () => true): Bad | null {
  const size = (value: unknown) => (isRecord(value) ? Object.keys(value).length : 0)
  for (const { path, most } of collections()) {
    const [head, within] = path
    const part = project[head]
    const records = within === undefined ? part : isRecord(part) ? part[within] : undefined
    if (counts(head) && size(records) > most) return many(within ?? head, most)
  }
  const { exchanges } = project
  if (isRecord(exchanges) && counts('exchanges'))
    for (const one of Object.values(exchanges))
      if (isRecord(one) && size(one['steps']) > mostParts) return many('steps', mostParts)
  return null
}

/** A number by which a host knows a record is that of one record. */
function numbersTwice(project: Project, looksAt: (collection: Collection) => boolean = () => true): Bad | null {
  for (const collection of numberedCollections().filter(looksAt)) {
    const records = Object.values(recordsOf(project, collection)) as { number?: number }[]
    if (new Set(records.map((r) => r.number)).size < records.length) return bad('gate.numbers', { what: collection.one })
  }
  return null
}

/** Validates a whole document, as after reading a file. */
export function validateProject(value: unknown): Result<Project> {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return bad('gate.schema', { path: '', message: 'a project is an object' })
  const source = value as Record<string, unknown>
  const crowd = tooMany(source)
  if (crowd) return crowd
  const project: Record<string, unknown> = {}
  for (const [key, schema] of partSchemas()) {
    const cleaned = clean(schema, source[key], key)
    if (!cleaned.ok) return cleaned
    project[key] = cleaned.value
  }
  for (const collection of topmost()) {
    const [map] = collection.path
    const records = source[map] ?? Object.fromEntries((collection.before ?? []).map((record) => [record.id, record]))
    if (typeof records !== 'object' || records === null || Array.isArray(records))
      return bad('gate.schema', { path: map, message: 'records by id are wanted' })
    const out: Record<string, unknown> = {}
    for (const [id, record] of Object.entries(records)) {
      const cleaned = cleanRecord(collection, id, record)
      if (!cleaned.ok) return cleaned
      out[id] = cleaned.value
    }
    project[map] = out
  }
  const extra = Object.keys(source).find((key) => !Object.hasOwn(project, key))
  if (extra) return bad('gate.schema', { path: extra, message: 'there is no such part of a project' })
  const whole = project as unknown as Project
  whole.spent = { ...whole.spent, lastNumbers: { ...whole.spent.lastNumbers } }
  numberAll(whole)
  const numbers = numbersTwice(whole)
  if (numbers) return numbers
  for (const page of Object.keys(whole.pages)) {
    const torn = tornPage(whole, page)
    if (torn) return torn
  }
  for (const widget of Object.values(whole.widgets)) {
    const torn = tornParent(whole, widget) ?? tornLike(whole, widget)
    if (torn) return torn
  }
  return listsAgree(whole, null) ?? dangling(whole, allReferences(whole)) ?? good(whole)
}
