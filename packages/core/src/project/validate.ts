import { bad, good, type Problem, type Result } from '../base/index.ts'
import { clean } from './clean.ts'
import { allReferences, isThere, refsOfExchange, refsOfPage, refsOfStyle, refsOfWidget, type Reference } from './references.ts'
import { widgetKind } from '../widgets/index.ts'
import { recordSchemas, recordsBefore, singleSchemas } from './schema.ts'
import type { Exchange } from '../scripts/index.ts'
import { isRecord, pathOf } from './patches.ts'
import { formatAddress, wordsOf } from '../variables/index.ts'
import type { Project, Variable, Widget } from './types.ts'

type Maps = keyof typeof recordSchemas
const isMap = (key: string): key is Maps => Object.hasOwn(recordSchemas, key)

function cleanRecord(map: Maps, id: string, record: unknown, before?: unknown): Result<unknown> {
  const path = `${map}/${id}`
  const cleaned = clean(recordSchemas[map], record, path, before)
  if (!cleaned.ok) return cleaned
  if ((cleaned.value as { id: string }).id !== id)
    return bad('gate.schema', { path: `${path}/id`, message: 'a record stands under its own id' })
  if (map === 'widgets') return cleanWidget(cleaned.value as Widget, path, before as Widget | undefined)
  if (map === 'variables') return pastMemory(cleaned.value as Variable) ?? cleaned
  if (map === 'exchanges')
    return sameMembers((cleaned.value as Exchange).steps, (cleaned.value as Exchange).stepOrder, path) ?? cleaned
  return cleaned
}

/** Addresses have 16 bits: nothing stands beyond the last. */
const memoryEnd = 0x10000

/** A variable that reaches past the end of all addresses could be neither written nor shown. */
function pastMemory({ name, address, holds }: Variable): { ok: false; problem: Problem } | null {
  const words = wordsOf(holds)
  return address + words > memoryEnd ? bad('gate.past-memory', { name, address: formatAddress(address), words }) : null
}

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

function cleanWidget(widget: Widget, path: string, before?: Widget): Result<Widget> {
  const described = widgetKind(widget.kind)?.settings
  const schema = widget.like === '' ? described?.schema : described?.some
  if (!schema) return bad('gate.schema', { path: `${path}/kind`, message: `"${widget.kind}" is no kind of widget here` })
  const sameSchema = before?.kind === widget.kind && (before.like === '') === (widget.like === '')
  const settings = clean(schema, widget.settings, `${path}/settings`, sameSchema ? before.settings : undefined)
  return settings.ok ? good(settings.value === widget.settings ? widget : { ...widget, settings: settings.value }) : settings
}

const sameMembers = (map: object, order: readonly string[], where: string): { ok: false; problem: Problem } | null =>
  Object.keys(map).length === order.length && new Set(order).size === order.length && order.every((id) => Object.hasOwn(map, id))
    ? null
    : bad('gate.order', { where })

const dangling = (project: Project, refs: readonly Reference[]): { ok: false; problem: Problem } | null => {
  const lost = refs.find((ref) => !isThere(project, ref.to))
  return lost ? bad('gate.dangling', { from: lost.from, to: lost.to }) : null
}

/** What a record refers to by its settings, by the map it stands in. */
const refsOfRecord: Partial<Record<Maps, (record: never) => Reference[]>> = {
  pages: refsOfPage,
  widgets: refsOfWidget,
  styles: refsOfStyle,
  exchanges: refsOfExchange,
}

const recordIn = (project: Project, map: Maps, id: string): unknown =>
  Object.hasOwn(project[map], id) ? (project[map] as Record<string, unknown>)[id] : undefined

/** Validates the records at the paths an edit touched, and what hangs on them. */
export function validateTouched(before: Project, drafted: Project, paths: readonly string[]): Result<Project> {
  let project = drafted
  let removed = false
  const heads = new Set<string>()
  for (const path of paths) {
    const [head, id] = pathOf(path) as [string, string]
    heads.add(head)
    if (!isMap(head)) continue
    const record = recordIn(project, head, id)
    if (record === undefined) {
      removed = true
      continue
    }
    const cleaned = cleanRecord(head, id, record, recordIn(before, head, id))
    if (!cleaned.ok) return cleaned
    if (cleaned.value !== record) project = { ...project, [head]: { ...project[head], [id]: cleaned.value } }
    const lost = dangling(project, refsOfRecord[head]?.(cleaned.value as never) ?? [])
    if (lost) return lost
    const torn =
      head === 'pages' || head === 'widgets' ? tornPage(project, head === 'pages' ? id : (cleaned.value as Widget).page) : null
    if (torn) return torn
    const parent =
      head === 'widgets' ? (tornParent(project, cleaned.value as Widget) ?? tornLike(project, cleaned.value as Widget)) : null
    if (parent) return parent
  }
  for (const head of heads) {
    if (isMap(head)) continue
    const schema = Object.hasOwn(singleSchemas, head) ? singleSchemas[head] : undefined
    if (!schema) return bad('gate.schema', { path: head, message: 'there is no such part of a project' })
    const cleaned = clean(schema, project[head as keyof Project], head, before[head as keyof Project])
    if (!cleaned.ok) return cleaned
    if (cleaned.value !== project[head as keyof Project]) project = { ...project, [head]: cleaned.value }
  }
  const lost = removed ? Object.values(project.widgets).find((w) => tornLike(project, w)) : undefined
  if (lost) return tornLike(project, lost)!
  const lists = tooMany(project as unknown as Record<string, unknown>, (key) => heads.has(key)) ?? listsAgree(project, before)
  if (lists) return lists
  const host = heads.has('host') || heads.has('conduct') || removed ? dangling(project, allReferences(project)) : null
  return host ?? good(project)
}

/** Page and widgets must name each other. */
function tornPage(project: Project, id: string): { ok: false; problem: Problem } | null {
  const page = project.pages[id as keyof typeof project.pages]
  if (!page) return bad('gate.dangling', { from: 'a widget', to: id })
  return page.widgets.every((w) => project.widgets[w]?.page === page.id) ? null : bad('gate.order', { where: page.name })
}

/** What a widget belongs to is on the same page, and going up never comes round. */
function tornParent(project: Project, widget: Widget): { ok: false; problem: Problem } | null {
  const passed = new Set<string>()
  for (let at: Widget | undefined = widget; at && at.parent !== ''; at = project.widgets[at.parent]) {
    passed.add(at.id)
    const parent: Widget | undefined = project.widgets[at.parent]
    if (parent?.page !== widget.page || passed.has(at.parent)) return bad('gate.dangling', { from: at.id, to: at.parent })
  }
  return null
}

/** A linked copy has its original, of the same kind, which is no copy itself. */
function tornLike(project: Project, widget: Widget): { ok: false; problem: Problem } | null {
  if (widget.like === '') return null
  const original = project.widgets[widget.like]
  return original?.kind === widget.kind && original.like === ''
    ? null
    : bad('gate.dangling', { from: widget.id, to: widget.like })
}

function listsAgree(project: Project, before: Project | null): { ok: false; problem: Problem } | null {
  const changed = (key: keyof Project) => !before || before[key] !== project[key]
  const pairs: [keyof Project, keyof Project][] = [
    ['pages', 'pageOrder'],
    ['variables', 'variableOrder'],
    ['typefaces', 'typefaceOrder'],
    ['pictures', 'pictureOrder'],
    ['faces', 'faceOrder'],
    ['colours', 'colourOrder'],
    ['styles', 'styleOrder'],
    ['exchanges', 'exchangeOrder'],
  ]
  for (const [map, order] of pairs) {
    if (!changed(map) && !changed(order)) continue
    const wrong = sameMembers(project[map] as object, project[order] as readonly string[], map)
    if (wrong) return wrong
  }
  if (changed('widgets') || changed('pages')) {
    let listed = 0
    for (const page of Object.values(project.pages)) listed += page.widgets.length
    if (listed !== Object.keys(project.widgets).length) return bad('gate.order', { where: 'widgets' })
  }
  if (project.startPage !== '' && !Object.hasOwn(project.pages, project.startPage))
    return bad('gate.dangling', { from: 'the start page', to: project.startPage })
  if (changed('host')) {
    const { host } = project
    const wrong =
      sameMembers(host.quantities, host.quantityOrder, 'quantities') ??
      sameMembers(host.reactions, host.reactionOrder, 'reactions') ??
      sameMembers(host.outputs, host.outputOrder, 'outputs')
    if (wrong) return wrong
  }
  return null
}

/** Records of each kind in a project, at most. */
const mostRecords: Record<Maps, number> = {
  pages: 1000,
  widgets: 10_000,
  variables: 10_000,
  typefaces: 100,
  pictures: 2000,
  faces: 500,
  colours: 200,
  styles: 100,
  exchanges: 1000,
}
/** Parts of a stand-in of one sort, and steps of an exchange, at most. */
const mostParts = 2000

const many = (what: string, most: number) => bad('gate.many', { what, most })

/** Whether a project has more of something than any has: looked at before records are read one by one. */
function tooMany(
  project: Record<string, unknown>,
  counts: (key: string) => boolean = () => true,
): { ok: false; problem: Problem } | null {
  const size = (value: unknown) => (isRecord(value) ? Object.keys(value).length : 0)
  for (const map of Object.keys(mostRecords) as Maps[])
    if (counts(map) && size(project[map]) > mostRecords[map]) return many(map, mostRecords[map])
  const { host, exchanges } = project
  if (isRecord(host) && counts('host'))
    for (const part of ['quantities', 'reactions', 'outputs']) if (size(host[part]) > mostParts) return many(part, mostParts)
  if (isRecord(exchanges) && counts('exchanges'))
    for (const one of Object.values(exchanges))
      if (isRecord(one) && size(one['steps']) > mostParts) return many('steps', mostParts)
  return null
}

/** Numbers by which a host knows pages and widgets are given once, and what is given is spent. */
function numbersTwice({ pages, widgets, spent }: Project): { ok: false; problem: Problem } | null {
  for (const [what, records, last] of [
    ['page', Object.values(pages), spent.pageNumber],
    ['widget', Object.values(widgets), spent.widgetNumber],
  ] as const) {
    const numbers = new Set(records.map((r) => r.number))
    if (numbers.size < records.length) return bad('gate.numbers', { what })
    for (const number of numbers) if (number > last) return bad('gate.numbers', { what })
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
  for (const [key, schema] of Object.entries(singleSchemas)) {
    const cleaned = clean(schema, source[key], key)
    if (!cleaned.ok) return cleaned
    project[key] = cleaned.value
  }
  for (const map of Object.keys(recordSchemas) as Maps[]) {
    const records = source[map] ?? recordsBefore[map] ?? {}
    if (typeof records !== 'object' || records === null || Array.isArray(records))
      return bad('gate.schema', { path: map, message: 'records by id are wanted' })
    const out: Record<string, unknown> = {}
    for (const [id, record] of Object.entries(records)) {
      const cleaned = cleanRecord(map, id, record)
      if (!cleaned.ok) return cleaned
      out[id] = cleaned.value
    }
    project[map] = out
  }
  const extra = Object.keys(source).find((key) => !Object.hasOwn(project, key))
  if (extra) return bad('gate.schema', { path: extra, message: 'there is no such part of a project' })
  const whole = project as unknown as Project
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
