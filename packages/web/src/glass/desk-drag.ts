import { useEffect, useState } from 'react'
import { around, holdsPoint, overlaps, type Rect, type WidgetId } from '@moth-lamp/core/base'
import { heldWith, withHeld, type Page, type Project, type Widget } from '@moth-lamp/core/project'
import type { Session } from '../session/session.ts'
import { sized, snap, snapSize, type Guides, type Sides } from './snap.ts'

export const handles = ['nw', 'n', 'ne', 'e', 'se', 's', 'sw', 'w'] as const
export type Handle = (typeof handles)[number]
const sidesOf = (handle: Handle): Sides => ({
  west: handle.includes('w'),
  east: handle.includes('e'),
  north: handle.includes('n'),
  south: handle.includes('s'),
})

interface From {
  fromX: number
  fromY: number
}
/** `again`: what was picked alone already when it began; `enters`: it was picked with all that it is held together with. */
type Moving = From & {
  kind: 'move'
  start: Record<string, Rect>
  moved: boolean
  again: WidgetId | null
  enters: WidgetId | null
}
type Sizing = From & { kind: 'size'; sides: Sides; start: Rect; id: WidgetId }
type Drawing = From & { kind: 'marquee' | 'add'; rect: Rect }
type Drag = Moving | Sizing | Drawing

/** Visible parts of a drag. */
export interface Shown {
  places: Record<string, Rect>
  guides: Guides
  marquee: Rect | null
}
const noGuides: Guides = { x: [], y: [] }
const nothingShown: Shown = { places: {}, guides: noGuides, marquee: null }

/**
 * With Shift one more or one less; otherwise what is picked stays picked, or the hit one with all that it is held together
 * with. Where one of those is picked alone, so is the next.
 */
function nextPicked(picked: readonly string[], hit: string, group: readonly string[], shift: boolean): string[] {
  if (shift) return picked.includes(hit) ? picked.filter((id) => !group.includes(id)) : [...new Set([...picked, ...group])]
  if (picked.includes(hit)) return [...picked]
  return picked.length === 1 && group.includes(picked[0]!) ? [hit] : [...group]
}

/** Widgets at a point of a page, the uppermost first. */
export const widgetsAt = (project: Project, page: Page, x: number, y: number): Widget[] =>
  page.widgets.flatMap((id) => (holdsPoint(project.widgets[id]!.place, x, y) ? [project.widgets[id]!] : [])).reverse()

export interface Pointer {
  x: number
  y: number
  shift: boolean
  /** Nothing snaps. */
  free: boolean
  handle: Handle | undefined
}

interface Of {
  session: Session
  project: Project
  page: Page
  /** Place of a widget to be added: a rectangle, or the point that was clicked. */
  onAdd(at: Rect | { x: number; y: number }): void
}

/** Moving, sizing, catching and drawing on the desk: a drag is a preview until it ends, then it is one change. */
export class DeskDrag {
  private drag: Drag | null = null
  private moved: Record<string, Rect> = {}

  constructor(
    private of: Of,
    private show: (shown: Shown) => void,
  ) {}

  /** The current project and page. */
  follow(of: Of): void {
    this.of = of
  }

  get isUnderWay(): boolean {
    return this.drag !== null
  }

  begin(at: Pointer): void {
    const { session, project, page } = this.of
    const { widgets: picked, adding } = session.view.value
    const from = { fromX: at.x, fromY: at.y }
    const rect = { x: at.x, y: at.y, width: 0, height: 0 }
    if (adding) return void (this.drag = { kind: 'add', ...from, rect })
    const sizing = at.handle && picked.length === 1 ? project.widgets[picked[0] as WidgetId] : undefined
    if (sizing && !sizing.locked)
      return void (this.drag = { kind: 'size', sides: sidesOf(at.handle!), ...from, start: sizing.place, id: sizing.id })
    const held = picked.find((id) => id in project.widgets && holdsPoint(project.widgets[id as WidgetId]!.place, at.x, at.y))
    // A locked widget acts like the background: it is reached by its name, by [ and ], or by a right click.
    const hit =
      at.shift || !held ? widgetsAt(project, page, at.x, at.y).find((w) => !w.locked) : project.widgets[held as WidgetId]!
    if (!hit) {
      if (!at.shift) session.view.set({ widgets: [] })
      this.drag = { kind: 'marquee', ...from, rect }
      return
    }
    const group = heldWith(project, hit.id)
    const next = nextPicked(picked, hit.id, group, at.shift)
    session.view.set({ widgets: next, variable: null })
    const start = Object.fromEntries(
      next.map((id) => project.widgets[id as WidgetId]!).flatMap((w) => (w.locked ? [] : [[w.id, w.place]])),
    ) as Record<string, Rect>
    const again = picked.length === 1 && picked[0] === hit.id ? hit.id : null
    const wasWhole = group.length > 1 && picked.length === group.length && group.every((id) => picked.includes(id))
    const under = wasWhole && !at.shift ? widgetsAt(project, page, at.x, at.y).find((w) => group.includes(w.id)) : undefined
    this.drag = { kind: 'move', ...from, moved: false, start, again, enters: under?.id ?? null }
  }

  move(at: Pointer): void {
    const now = this.drag
    if (!now) return
    if ('rect' in now) {
      now.rect = {
        x: Math.min(at.x, now.fromX),
        y: Math.min(at.y, now.fromY),
        width: Math.abs(at.x - now.fromX),
        height: Math.abs(at.y - now.fromY),
      }
      return this.show({ ...nothingShown, marquee: now.rect })
    }
    const [dx, dy] = [Math.round(at.x - now.fromX), Math.round(at.y - now.fromY)]
    if (now.kind === 'size') return this.size(now, dx, dy, at.free)
    if (!now.moved && Math.abs(dx) < 3 && Math.abs(dy) < 3) return
    if (!Object.keys(now.start).length) return
    now.moved = true
    this.shift(now.start, dx, dy, at)
  }

  private size(now: Sizing, dx: number, dy: number, free: boolean): void {
    const to = sized(now.start, now.sides, dx, dy)
    const found = free
      ? { rect: to, guides: noGuides }
      : snapSize(
          to,
          now.sides,
          this.neighbours((id) => id === now.id),
          this.glass,
        )
    this.preview({ [now.id]: found.rect }, found.guides)
  }

  /** Shift keeps the axis along which it was moved further. */
  private shift(start: Record<string, Rect>, dx: number, dy: number, at: Pointer): void {
    const whole = Object.values(start).reduce(around)
    const [ax, ay] = !at.shift ? [dx, dy] : Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy]
    const target = { ...whole, x: whole.x + ax, y: whole.y + ay }
    const found = at.free
      ? { rect: target, guides: noGuides }
      : snap(
          target,
          this.neighbours((id) => id in start),
          this.glass,
        )
    const byX = at.shift && !ax ? 0 : found.rect.x - whole.x
    const byY = at.shift && !ay ? 0 : found.rect.y - whole.y
    const places = Object.entries(start).map(([id, r]) => [id, { ...r, x: r.x + byX, y: r.y + byY }] as const)
    this.preview(Object.fromEntries(places), found.guides)
  }

  end(at: Pointer): void {
    const now = this.drag
    const places = this.moved
    if (!now) return
    const { session, project, page, onAdd } = this.of
    this.clear()
    if (now.kind === 'add') {
      const drawn = now.rect.width >= 6 && now.rect.height >= 6
      return onAdd(drawn ? now.rect : { x: now.fromX, y: now.fromY })
    }
    if (now.kind === 'marquee') return this.caught(now.rect, at.shift)
    if (Object.keys(places).length) {
      session.cancelPreview()
      session.edit('place widgets', { places })
    } else if (now.kind === 'move' && now.enters) session.view.set({ widgets: [now.enters] })
    else if (now.kind === 'move' && !at.shift && now.again) {
      // A click on what is picked already goes one down in what lies there.
      const all = widgetsAt(project, page, at.x, at.y).filter((w) => !w.locked)
      const next = all[(all.findIndex((w) => w.id === now.again) + 1) % all.length]
      if (next && next.id !== now.again) session.view.set({ widgets: [next.id] })
    }
  }

  /** A rectangle drawn on the ground: what it touches is picked; where it touches nothing, something may be added there. */
  private caught(rect: Rect, more: boolean): void {
    const { session, project, page } = this.of
    const { widgets: picked } = session.view.value
    const caught = page.widgets.filter((id) => {
      const { place, locked } = project.widgets[id]!
      return !locked && rect.width > 3 && overlaps(rect, place)
    })
    const whole = withHeld(project, caught)
    if (whole.length) session.view.set({ widgets: more ? [...new Set([...picked, ...whole])] : whole })
    else if (rect.width >= 12 && rect.height >= 12) session.view.set({ addAt: rect, column: 'add', columns: true })
  }

  /** Given up: no trace is left. False where nothing was under way. */
  giveUp(): boolean {
    if (!this.drag) return false
    this.clear()
    this.of.session.cancelPreview()
    return true
  }

  private clear(): void {
    this.drag = null
    this.moved = {}
    this.show(nothingShown)
  }

  private preview(places: Record<string, Rect>, guides: Guides): void {
    this.moved = places
    this.show({ places, guides, marquee: null })
    this.of.session.preview('place widgets', { places })
  }

  private neighbours(but: (id: string) => boolean): Rect[] {
    const { page, project } = this.of
    return page.widgets.filter((id) => !but(id)).map((id) => project.widgets[id]!.place)
  }

  private get glass(): Rect {
    const { width, height } = this.of.project.panel
    return { x: 0, y: 0, width, height }
  }
}

/** The drag of a desk, and what of it is to be seen. Escape gives it up. */
export function useDeskDrag(of: Of): { drag: DeskDrag; shown: Shown } {
  const [shown, setShown] = useState<Shown>(nothingShown)
  // One for as long as the desk is there: the next event of the pointer may come before the next rendering.
  const [drag] = useState(() => new DeskDrag(of, setShown))
  useEffect(() => drag.follow(of))
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key === 'Escape' && drag.giveUp()) e.stopImmediatePropagation()
    }
    window.addEventListener('keydown', onKey, { capture: true })
    return () => window.removeEventListener('keydown', onKey, { capture: true })
  }, [drag])
  return { drag, shown }
}
