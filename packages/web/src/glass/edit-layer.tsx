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
  const [drag, setDrag] = useState<Drag | null>(null)
  const [places, setPlaces] = useState<Record<string, Rect>>({})
  const [guides, setGuides] = useState<Guides>({ x: [], y: [] })
  const layer = useRef<HTMLDivElement>(null)
  const glass = { x: 0, y: 0, width: project.panel.width, height: project.panel.height }
  const placeOf = (id: string): Rect => places[id] ?? project.widgets[id as WidgetId]!.place

  // A drag that is given up with Escape leaves no trace.
  useEffect(() => {
    if (!drag) return
    const onKey = (e: KeyboardEvent) => {
      if (e.key !== 'Escape') return
      setDrag(null)
      setPlaces({})
      session.cancelPreview()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [drag, session])

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
      return setDrag({ kind: 'size', corner, fromX: x, fromY: y, start: project.widgets[id]!.place, id })
    }
    const under = picked.find((id) => holdsPoint(placeOf(id), x, y))
    const hit = e.shiftKey ? top(x, y) : under ? project.widgets[under as WidgetId]! : top(x, y)
    if (!hit) {
      if (!e.shiftKey) session.view.set({ widgets: [] })
      return setDrag({ kind: 'marquee', fromX: x, fromY: y, rect: { x, y, width: 0, height: 0 } })
    }
    const next = e.shiftKey
      ? picked.includes(hit.id)
        ? picked.filter((id) => id !== hit.id)
        : [...picked, hit.id]
      : picked.includes(hit.id)
        ? picked
        : [hit.id]
    session.view.set({ widgets: next, variable: null })
    setDrag({
      kind: 'move',
      fromX: x,
      fromY: y,
      moved: false,
      start: Object.fromEntries(next.map((id) => [id, project.widgets[id as WidgetId]!.place])),
    })
  }

  const show = (next: Record<string, Rect>) => {
    setPlaces(next)
    if (Object.keys(next).length) session.preview('place widgets', { places: next })
  }

  const move = (e: React.PointerEvent) => {
    const { x, y } = at(e)
    if (!drag) return setHover(top(x, y)?.id ?? null)
    if (drag.kind === 'marquee') {
      const rect = {
        x: Math.min(x, drag.fromX),
        y: Math.min(y, drag.fromY),
        width: Math.abs(x - drag.fromX),
        height: Math.abs(y - drag.fromY),
      }
      return setDrag({ ...drag, rect })
    }
    const [dx, dy] = [Math.round(x - drag.fromX), Math.round(y - drag.fromY)]
    if (drag.kind === 'size') return show({ [drag.id]: sized(drag.start, drag.corner, dx, dy) })
    if (!drag.moved && Math.abs(dx) < 3 && Math.abs(dy) < 3) return
    setDrag({ ...drag, moved: true })
    const rects = Object.values(drag.start)
    const whole = rects.reduce(around)
    const others = page.widgets.filter((id) => !(id in drag.start)).map((id) => project.widgets[id]!.place)
    const target = { ...whole, x: whole.x + dx, y: whole.y + dy }
    const snapped = e.ctrlKey ? { rect: target, guides: { x: [], y: [] } } : snap(target, others, glass)
    setGuides(snapped.guides)
    const [byX, byY] = [snapped.rect.x - whole.x, snapped.rect.y - whole.y]
    show(Object.fromEntries(Object.entries(drag.start).map(([id, r]) => [id, { ...r, x: r.x + byX, y: r.y + byY }])))
  }

  const end = (e: React.PointerEvent) => {
    if (!drag) return
    if (drag.kind === 'marquee') {
      const caught = page.widgets.filter((id) => overlaps(drag.rect, project.widgets[id]!.place) && drag.rect.width > 3)
      if (caught.length) session.view.set({ widgets: e.shiftKey ? [...new Set([...picked, ...caught])] : caught })
    } else if (Object.keys(places).length) {
      session.cancelPreview()
      session.edit('place widgets', { places })
    } else if (drag.kind === 'move' && !e.shiftKey) {
      // A click on something that lies below what is picked picks it.
      const { x, y } = at(e)
      const hit = top(x, y)
      if (hit && picked.length === 1 && hit.id !== picked[0]) session.view.set({ widgets: [hit.id] })
    }
    setDrag(null)
    setPlaces({})
    setGuides({ x: [], y: [] })
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
      {guides.x.map((x) => (
        <div key={`x${x}`} className="guide" style={{ left: x * scale, top: 0, bottom: 0, width: 1 }} />
      ))}
      {guides.y.map((y) => (
        <div key={`y${y}`} className="guide" style={{ top: y * scale, left: 0, right: 0, height: 1 }} />
      ))}
      {drag?.kind === 'marquee' && <div className="marquee" style={css(drag.rect)} />}
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
