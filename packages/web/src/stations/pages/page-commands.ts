import { around, type Rect, type WidgetId } from '@moth-lamp/core/base'
import { heldWith, parentsOfCopies, type Page, type Project, type Widget } from '@moth-lamp/core/project'
import { freshId } from '../../session/chance.ts'
import type { Session } from '../../session/session.ts'
import { dropDrafts } from './drafts.ts'

const pickedWidgets = (session: Session): Widget[] =>
  session.view.value.widgets.map((id) => session.project.widgets[id as WidgetId]).filter((w): w is Widget => w !== undefined)

/** Locks what is picked; unlocks it where all of it is locked. */
export function lockWidgets(session: Session): void {
  const picked = pickedWidgets(session)
  const locked = !picked.every((w) => w.locked)
  const ids = picked.filter((w) => w.locked !== locked).map((w) => w.id)
  if (!ids.length || !session.edit('lock widgets', { ids, locked })) return
  const words = ids.length === 1 ? 'One widget is' : `${ids.length} widgets are`
  session.say(`${words} ${locked ? 'locked (select with [ ] or right click)' : 'unlocked'}.`, 'info', true)
}

/** Holds what is picked together as one thing; where it is one already, each of it stands by itself again. */
export function holdWidgets(session: Session): void {
  const ids = pickedWidgets(session).map((w) => w.id)
  if (ids.length < 2) return session.say('Select two or more widgets to group them.')
  const together = !areHeld(session.project, ids)
  if (!session.edit('hold together', { ids, together })) return
  session.say(`${ids.length} widgets are ${together ? 'grouped' : 'ungrouped'}.`, 'info', true)
}

/** Whether some widgets are all that one thing is made of. */
export function areHeld(project: Project, ids: readonly string[]): boolean {
  const whole = ids.length > 1 ? heldWith(project, ids[0] as WidgetId) : []
  return whole.length === ids.length && whole.every((id) => ids.includes(id))
}

/** Of what is picked, what a hand may move; where all of it is locked, that is said. */
function movable(session: Session): Widget[] {
  const picked = pickedWidgets(session)
  const free = picked.filter((w) => !w.locked)
  if (picked.length && !free.length) session.say('Locked. Press K to unlock.')
  return free
}

export function deleteWidgets(session: Session): void {
  const ids = movable(session).map((w) => w.id)
  if (ids.length && session.edit('delete widgets', { ids }))
    session.say(ids.length === 1 ? 'One widget was deleted.' : `${ids.length} widgets were deleted.`, 'info', true)
}

/** By how much the last copies were moved from what they were copied of: the next ones are moved as far. */
const offsets = new WeakMap<Session, { of: string[]; made: string[] }>()

/** Copies of what is picked; once they were moved, the next copies stand as far from them. */
export function duplicateWidgets(session: Session, page: Page): void {
  const widgets = page.widgets.map((id) => session.project.widgets[id]!).filter((w) => session.view.value.widgets.includes(w.id))
  if (!widgets.length) return
  const [dx, dy] = lastOffset(session, widgets)
  const copyIds = new Map(widgets.map((w) => [w.id, freshId('widget')]))
  const parents = parentsOfCopies(widgets, (id) => copyIds.get(id)!)
  const copies = widgets.map((w, k) => ({
    id: copyIds.get(w.id)!,
    parent: parents[k],
    kind: w.kind,
    name: w.name,
    place: { ...w.place, x: w.place.x + dx, y: w.place.y + dy },
    settings: w.settings,
  }))
  if (!session.edit('add widgets', { page: page.id, after: '', widgets: copies })) return
  const ids = copies.map((c) => c.id)
  offsets.set(session, { of: widgets.map((w) => w.id), made: ids })
  session.view.set({ widgets: ids })
}

function lastOffset(session: Session, widgets: readonly Widget[]): [number, number] {
  const last = offsets.get(session)
  const of = last && session.project.widgets[last.of[0] as WidgetId]
  if (!last || !of || last.made.join() !== widgets.map((w) => w.id).join()) return [16, 16]
  const [dx, dy] = [widgets[0]!.place.x - of.place.x, widgets[0]!.place.y - of.place.y]
  return dx || dy ? [dx, dy] : [16, 16]
}

export function sizeWidgets(session: Session, dw: number, dh: number): void {
  const places = Object.fromEntries(
    movable(session).map((w) => [
      w.id,
      { ...w.place, width: Math.max(1, w.place.width + dw), height: Math.max(1, w.place.height + dh) },
    ]),
  )
  if (Object.keys(places).length) session.edit('place widgets', { places })
}

export function nudgeWidgets(session: Session, dx: number, dy: number): void {
  const places = Object.fromEntries(movable(session).map((w) => [w.id, { ...w.place, x: w.place.x + dx, y: w.place.y + dy }]))
  if (Object.keys(places).length) session.edit('place widgets', { places })
}

/** One layer up or down among the widgets of the page. */
export function layerWidgets(session: Session, page: Page, by: 1 | -1): void {
  const ids = page.widgets.filter((id) => session.view.value.widgets.includes(id))
  if (!ids.length) return
  const rest = page.widgets.filter((id) => !ids.includes(id))
  const first = page.widgets.indexOf(ids[0]!)
  const below = page.widgets.slice(0, first).filter((id) => rest.includes(id)).length
  const target = Math.max(0, Math.min(rest.length, below + by))
  session.edit('order widgets', { page: page.id, ids, after: target === 0 ? null : rest[target - 1] })
}

/** From one widget to the next, and round. */
export function walkWidgets(session: Session, page: Page, by: 1 | -1): void {
  const at = page.widgets.indexOf(session.view.value.widgets[0] as WidgetId)
  const count = page.widgets.length
  const id = page.widgets[at < 0 ? (by > 0 ? 0 : count - 1) : (at + by + count) % count]
  if (id) session.view.set({ widgets: [id], variable: null })
}

export interface Alignment {
  label: string
  least: number
  place(rect: Rect, whole: Rect, index: number, all: Rect[]): Rect
}

const spread =
  (axis: 'x' | 'y', size: 'width' | 'height'): Alignment['place'] =>
  (rect, whole, _index, all) => {
    const sorted = [...all].sort((a, b) => a[axis] - b[axis])
    const at = sorted.indexOf(rect)
    const gap = (whole[size] - all.reduce((sum, r) => sum + r[size], 0)) / (all.length - 1)
    const before = sorted.slice(0, at).reduce((sum, r) => sum + r[size] + gap, 0)
    return { ...rect, [axis]: Math.round(whole[axis] + before) }
  }

/** With one selected, the whole is the glass. */
export const alignments: Alignment[] = [
  { label: 'Left edges', least: 1, place: (r, w) => ({ ...r, x: w.x }) },
  { label: 'Centre horizontally', least: 1, place: (r, w) => ({ ...r, x: Math.round(w.x + (w.width - r.width) / 2) }) },
  { label: 'Right edges', least: 1, place: (r, w) => ({ ...r, x: w.x + w.width - r.width }) },
  { label: 'Top edges', least: 1, place: (r, w) => ({ ...r, y: w.y }) },
  { label: 'Centre vertically', least: 1, place: (r, w) => ({ ...r, y: Math.round(w.y + (w.height - r.height) / 2) }) },
  { label: 'Bottom edges', least: 1, place: (r, w) => ({ ...r, y: w.y + w.height - r.height }) },
  { label: 'Distribute horizontally', least: 3, place: spread('x', 'width') },
  { label: 'Distribute vertically', least: 3, place: spread('y', 'height') },
  { label: 'Same width', least: 2, place: (r, _w, _i, all) => ({ ...r, width: all[0]!.width }) },
  { label: 'Same height', least: 2, place: (r, _w, _i, all) => ({ ...r, height: all[0]!.height }) },
]

export function alignWidgets(session: Session, { place }: Alignment): void {
  const widgets = pickedWidgets(session)
  const all = widgets.map((w) => w.place)
  const { width, height } = session.project.panel
  const whole = all.length === 1 ? { x: 0, y: 0, width, height } : all.reduce(around)
  session.edit('place widgets', { places: Object.fromEntries(widgets.map((w, i) => [w.id, place(w.place, whole, i, all)])) })
}

/** Closes a form in the place of the signal path, with what was typed into it; the glass has the focus again. */
export function leaveForm(session: Session): void {
  dropDrafts(session)
  session.view.set({ column: 'path', adding: null, addingFor: '', addAt: null })
  document.querySelector<HTMLElement>('[data-glass="edit"]')?.focus({ preventScroll: true })
}
