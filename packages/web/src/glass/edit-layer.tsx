import { useEffect, useRef, useState } from 'react'
import { around, holdsPoint, overlaps, type Rect, type WidgetId } from '@moth-lamp/core/base'
import type { Page, Project, Widget } from '@moth-lamp/core/project'
import { formatAddress, ownWordById } from '@moth-lamp/core/variables'
import { useStore } from '../session/store.ts'
import { useSession } from '../shell/context.tsx'
import { snap, type Guides } from './snap.ts'

type Corner = 'nw' | 'ne' | 'sw' | 'se'
type Drag =
  | { kind: 'move'; fromX: number; fromY: number; start: Record<string, Rect>; moved: boolean }
  | { kind: 'size'; corner: Corner; fromX: number; fromY: number; start: Rect; id: WidgetId }
  | { kind: 'marquee'; fromX: number; fromY: number; rect: Rect }

/** What of a drag is to be seen. */
interface Shown {
  places: Record<string, Rect>
  guides: Guides
  marquee: Rect | null
}
const noGuides: Guides = { x: [], y: [] }
const nothingShown: Shown = { places: {}, guides: noGuides, marquee: null }

/** With Shift one more or one less; otherwise what is picked stays picked, or the hit one alone. */
function nextPicked(picked: string[], hit: string, shift: boolean): string[] {
  if (shift) return picked.includes(hit) ? picked.filter((id) => id !== hit) : [...picked, hit]
  return picked.includes(hit) ? picked : [hit]
}

interface Props {
  project: Project
  page: Page
  scale: number
}

/** Selecting, moving and sizing on the desk. A drag is a preview until it ends: then it is one change. */
export function EditLayer({ project, page, scale }: Props) {
  const session = useSession()
  const picked = useStore(session.view, (v) => v.widgets)
  const [hover, setHover] = useState<string | null>(null)
  /** What the pointer is doing. A ref, since the next event may come before the next rendering. */
  const drag = useRef<Drag | null>(null)
  const moved = useRef<Record<string, Rect>>({})
  const [shown, setShown] = useState<Shown>(nothingShown)
  const layer = useRef<HTMLDivElement>(null)
  const glass = { x: 0, y: 0, width: project.panel.width, height: project.panel.height }
  const placeOf = (id: string): Rect => shown.places[id] ?? project.widgets[id as WidgetId]!.place

  const endDrag = () => {
    drag.current = null
    moved.current = {}
    setShown(nothingShown)
  }

  // A drag that is given up with Escape leaves no trace.
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key !== 'Escape' || !drag.current) return
      e.stopImmediatePropagation()
      drag.current = null
      moved.current = {}
      setShown(nothingShown)
      session.cancelPreview()
    }
    window.addEventListener('keydown', onKey, { capture: true })
    return () => window.removeEventListener('keydown', onKey, { capture: true })
  }, [session])

  const at = (e: React.PointerEvent) => {
    const box = layer.current!.getBoundingClientRect()
    return { x: (e.clientX - box.left) / scale, y: (e.clientY - box.top) / scale }
  }
  const top = (x: number, y: number): Widget | null => {
    for (let i = page.widgets.length - 1; i >= 0; i--) {
      const widget = project.widgets[page.widgets[i]!]!
      if (holdsPoint(widget.place, x, y)) return widget
    }
    return null
  }

  const begin = (e: React.PointerEvent) => {
    if (e.button !== 0) return
    const { x, y } = at(e)
    e.currentTarget.setPointerCapture(e.pointerId)
    const corner = (e.target as HTMLElement).dataset['corner'] as Corner | undefined
    if (corner && picked.length === 1) {
      const id = picked[0] as WidgetId
      drag.current = { kind: 'size', corner, fromX: x, fromY: y, start: project.widgets[id]!.place, id }
      return
    }
    const under = picked.find((id) => id in project.widgets && holdsPoint(placeOf(id), x, y))
    const hit = e.shiftKey || !under ? top(x, y) : project.widgets[under as WidgetId]!
    if (!hit) {
      if (!e.shiftKey) session.view.set({ widgets: [] })
      drag.current = { kind: 'marquee', fromX: x, fromY: y, rect: { x, y, width: 0, height: 0 } }
      return
    }
    const next = nextPicked(picked, hit.id, e.shiftKey)
    session.view.set({ widgets: next, variable: null })
    const start = Object.fromEntries(next.map((id) => [id, project.widgets[id as WidgetId]!.place]))
    drag.current = { kind: 'move', fromX: x, fromY: y, moved: false, start }
  }

  const show = (places: Record<string, Rect>, guides: Guides = noGuides) => {
    moved.current = places
    setShown({ places, guides, marquee: null })
    session.preview('place widgets', { places })
  }

  const move = (e: React.PointerEvent) => {
    const { x, y } = at(e)
    const now = drag.current
    if (!now) return setHover(top(x, y)?.id ?? null)
    if (now.kind === 'marquee') {
      now.rect = {
        x: Math.min(x, now.fromX),
        y: Math.min(y, now.fromY),
        width: Math.abs(x - now.fromX),
        height: Math.abs(y - now.fromY),
      }
      return setShown({ ...nothingShown, marquee: now.rect })
    }
    const [dx, dy] = [Math.round(x - now.fromX), Math.round(y - now.fromY)]
    if (now.kind === 'size') return show({ [now.id]: sized(now.start, now.corner, dx, dy) })
    if (!now.moved && Math.abs(dx) < 3 && Math.abs(dy) < 3) return
    now.moved = true
    const whole = Object.values(now.start).reduce(around)
    const others = page.widgets.filter((id) => !(id in now.start)).map((id) => project.widgets[id]!.place)
    const target = { ...whole, x: whole.x + dx, y: whole.y + dy }
    const snapped = e.ctrlKey ? { rect: target, guides: noGuides } : snap(target, others, glass)
    const [byX, byY] = [snapped.rect.x - whole.x, snapped.rect.y - whole.y]
    show(
      Object.fromEntries(Object.entries(now.start).map(([id, r]) => [id, { ...r, x: r.x + byX, y: r.y + byY }])),
      snapped.guides,
    )
  }

  const end = (e: React.PointerEvent) => {
    const now = drag.current
    const places = moved.current
    if (!now) return
    endDrag()
    if (now.kind === 'marquee') {
      const caught = page.widgets.filter((id) => overlaps(now.rect, project.widgets[id]!.place) && now.rect.width > 3)
      if (caught.length) session.view.set({ widgets: e.shiftKey ? [...new Set([...picked, ...caught])] : caught })
    } else if (Object.keys(places).length) {
      session.cancelPreview()
      session.edit('place widgets', { places })
    } else if (now.kind === 'move' && !e.shiftKey) {
      // A click on something that lies below what is picked picks it.
      const { x, y } = at(e)
      const hit = top(x, y)
      if (hit && picked.length === 1 && hit.id !== picked[0]) session.view.set({ widgets: [hit.id] })
    }
  }

  const css = (r: Rect) => ({ left: r.x * scale, top: r.y * scale, width: r.width * scale, height: r.height * scale })
  return (
    <div
      ref={layer}
      style={{ position: 'absolute', inset: 0, cursor: 'default' }}
      tabIndex={0}
      role="application"
      aria-label={`Page ${page.name}: Tab goes from widget to widget, arrows move`}
      data-glass="edit"
      onPointerDown={begin}
      onPointerMove={move}
      onPointerUp={end}
      onPointerLeave={() => setHover(null)}
    >
      {hover && !picked.includes(hover) && hover in project.widgets && <div className="box hover" style={css(placeOf(hover))} />}
      {picked
        .filter((id) => id in project.widgets && project.widgets[id as WidgetId]!.page === page.id)
        .map((id) => (
          <div key={id} className="box picked" style={css(placeOf(id))}>
            {picked.length === 1 && (
              <>
                <span className={`tag ${placeOf(id).y < 20 ? 'below' : ''}`}>
                  {tagOf(project, project.widgets[id as WidgetId]!)}
                </span>
                {(['nw', 'ne', 'sw', 'se'] as const).map((corner) => (
                  <span
                    key={corner}
                    className="handle"
                    data-corner={corner}
                    style={{
                      cursor: `${corner}-resize`,
                      [corner[0] === 'n' ? 'top' : 'bottom']: -6,
                      [corner[1] === 'w' ? 'left' : 'right']: -6,
                    }}
                  />
                ))}
              </>
            )}
          </div>
        ))}
      {shown.guides.x.map((x) => (
        <div key={`x${x}`} className="guide" style={{ left: x * scale, top: 0, bottom: 0, width: 1 }} />
      ))}
      {shown.guides.y.map((y) => (
        <div key={`y${y}`} className="guide" style={{ top: y * scale, left: 0, right: 0, height: 1 }} />
      ))}
      {shown.marquee && <div className="marquee" style={css(shown.marquee)} />}
    </div>
  )
}

function sized(start: Rect, corner: Corner, dx: number, dy: number): Rect {
  const west = corner[1] === 'w'
  const north = corner[0] === 'n'
  const width = Math.max(4, start.width + (west ? -dx : dx))
  const height = Math.max(4, start.height + (north ? -dy : dy))
  return {
    width,
    height,
    x: west ? start.x + start.width - width : start.x,
    y: north ? start.y + start.height - height : start.y,
  }
}

/** `Target · dome_target · 0x0012` */
function tagOf(project: Project, widget: Widget): string {
  const bound = String(widget.settings['variable'] ?? '')
  const variable = project.variables[bound as keyof typeof project.variables]
  const own = ownWordById.get(bound)
  if (variable) return `${widget.name} · ${variable.name} · ${formatAddress(variable.address)}`
  return own ? `${widget.name} · ${own.name}` : widget.name
}
