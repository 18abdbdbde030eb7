import { Menu, UnstyledButton } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import { around, holdsPoint, overlaps, type Rect, type WidgetId } from '@moth-lamp/core/base'
import type { Page, Project, Widget } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { useStore } from '../session/store.ts'
import { useSession } from '../shell/context.tsx'
import { addWidget } from '../stations/page-commands.ts'
import styles from './glass.module.css'
import { WordsOnGlass } from './words-on-glass.tsx'
import { sized, snap, snapSize, type Guides, type Sides } from './snap.ts'

const handles = ['nw', 'n', 'ne', 'e', 'se', 's', 'sw', 'w'] as const
type Handle = (typeof handles)[number]
const sidesOf = (handle: Handle): Sides => ({
  west: handle.includes('w'),
  east: handle.includes('e'),
  north: handle.includes('n'),
  south: handle.includes('s'),
})

type Drag =
  /** `again`: what was picked alone already when it began. */
  | { kind: 'move'; fromX: number; fromY: number; start: Record<string, Rect>; moved: boolean; again: string | null }
  | { kind: 'size'; sides: Sides; fromX: number; fromY: number; start: Rect; id: WidgetId }
  | { kind: 'marquee'; fromX: number; fromY: number; rect: Rect }
  | { kind: 'add'; fromX: number; fromY: number; rect: Rect }

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

/** Selecting, adding, moving and sizing on the desk. A drag is a preview until it ends: then it is one change. */
export function EditLayer({ project, page, scale }: Props) {
  const session = useSession()
  const picked = useStore(session.view, (v) => v.widgets)
  const adding = useStore(session.view, (v) => v.adding)
  const areas = useStore(session.view, (v) => v.areas)
  const [hover, setHover] = useState<string | null>(null)
  const [stack, setStack] = useState<{ x: number; y: number; ids: WidgetId[] } | null>(null)
  const [wording, setWording] = useState<WidgetId | null>(null)
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

  const at = (e: React.MouseEvent) => {
    const box = layer.current!.getBoundingClientRect()
    return { x: (e.clientX - box.left) / scale, y: (e.clientY - box.top) / scale }
  }
  /** What lies at a point, the uppermost first. */
  const under = (x: number, y: number): Widget[] =>
    page.widgets.flatMap((id) => (holdsPoint(project.widgets[id]!.place, x, y) ? [project.widgets[id]!] : [])).reverse()

  const begin = (e: React.PointerEvent) => {
    if (e.button !== 0) return
    const { x, y } = at(e)
    e.currentTarget.setPointerCapture(e.pointerId)
    const rect = { x, y, width: 0, height: 0 }
    if (adding) return void (drag.current = { kind: 'add', fromX: x, fromY: y, rect })
    const handle = (e.target as HTMLElement).dataset['handle'] as Handle | undefined
    if (handle && picked.length === 1) {
      const id = picked[0] as WidgetId
      drag.current = { kind: 'size', sides: sidesOf(handle), fromX: x, fromY: y, start: project.widgets[id]!.place, id }
      return
    }
    const held = picked.find((id) => id in project.widgets && holdsPoint(placeOf(id), x, y))
    const hit = e.shiftKey || !held ? under(x, y)[0] : project.widgets[held as WidgetId]!
    if (!hit) {
      if (!e.shiftKey) session.view.set({ widgets: [] })
      drag.current = { kind: 'marquee', fromX: x, fromY: y, rect }
      return
    }
    const next = nextPicked(picked, hit.id, e.shiftKey)
    session.view.set({ widgets: next, variable: null })
    const start = Object.fromEntries(next.map((id) => [id, project.widgets[id as WidgetId]!.place]))
    const again = picked.length === 1 && picked[0] === hit.id ? hit.id : null
    drag.current = { kind: 'move', fromX: x, fromY: y, moved: false, start, again }
  }

  const show = (places: Record<string, Rect>, guides: Guides = noGuides) => {
    moved.current = places
    setShown({ places, guides, marquee: null })
    session.preview('place widgets', { places })
  }

  const move = (e: React.PointerEvent) => {
    const { x, y } = at(e)
    const now = drag.current
    if (!now) return setHover(under(x, y)[0]?.id ?? null)
    if (now.kind === 'marquee' || now.kind === 'add') {
      now.rect = {
        x: Math.min(x, now.fromX),
        y: Math.min(y, now.fromY),
        width: Math.abs(x - now.fromX),
        height: Math.abs(y - now.fromY),
      }
      return setShown({ ...nothingShown, marquee: now.rect })
    }
    const [dx, dy] = [Math.round(x - now.fromX), Math.round(y - now.fromY)]
    const neighbours = (but: (id: string) => boolean) =>
      page.widgets.filter((id) => !but(id)).map((id) => project.widgets[id]!.place)
    if (now.kind === 'size') {
      const to = sized(now.start, now.sides, dx, dy)
      const found = e.ctrlKey
        ? { rect: to, guides: noGuides }
        : snapSize(
            to,
            now.sides,
            neighbours((id) => id === now.id),
            glass,
          )
      return show({ [now.id]: found.rect }, found.guides)
    }
    if (!now.moved && Math.abs(dx) < 3 && Math.abs(dy) < 3) return
    now.moved = true
    const whole = Object.values(now.start).reduce(around)
    // Shift keeps the axis along which it was moved further.
    const [ax, ay] = !e.shiftKey ? [dx, dy] : Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy]
    const target = { ...whole, x: whole.x + ax, y: whole.y + ay }
    const found = e.ctrlKey
      ? { rect: target, guides: noGuides }
      : snap(
          target,
          neighbours((id) => id in now.start),
          glass,
        )
    const byX = e.shiftKey && !ax ? 0 : found.rect.x - whole.x
    const byY = e.shiftKey && !ay ? 0 : found.rect.y - whole.y
    show(Object.fromEntries(Object.entries(now.start).map(([id, r]) => [id, { ...r, x: r.x + byX, y: r.y + byY }])), found.guides)
  }

  const end = (e: React.PointerEvent) => {
    const now = drag.current
    const places = moved.current
    if (!now) return
    endDrag()
    if (now.kind === 'add') {
      const { x, y, width, height } = now.rect
      const drawn = width >= 6 && height >= 6
      addWidget(session, page, widgetKind(adding!)!, drawn ? { x, y, width, height } : { x: now.fromX, y: now.fromY })
      return
    }
    if (now.kind === 'marquee') {
      const { rect } = now
      const caught = page.widgets.filter((id) => overlaps(rect, project.widgets[id]!.place) && rect.width > 3)
      if (caught.length) session.view.set({ widgets: e.shiftKey ? [...new Set([...picked, ...caught])] : caught })
      else if (rect.width >= 12 && rect.height >= 12) session.view.set({ addAt: rect })
    } else if (Object.keys(places).length) {
      session.cancelPreview()
      session.edit('place widgets', { places })
    } else if (now.kind === 'move' && !e.shiftKey && now.again) {
      // A click on what is picked already goes one down in what lies there.
      const { x, y } = at(e)
      const all = under(x, y).map((w) => w.id)
      const next = all[(all.indexOf(now.again as WidgetId) + 1) % all.length]
      if (next && next !== now.again) session.view.set({ widgets: [next] })
    }
  }

  const css = (r: Rect) => ({ left: r.x * scale, top: r.y * scale, width: r.width * scale, height: r.height * scale })
  const chosen = picked.filter((id) => id in project.widgets && project.widgets[id as WidgetId]!.page === page.id)
  return (
    <div
      ref={layer}
      className={`${styles.edit} ${adding ? styles.adding : ''}`}
      tabIndex={0}
      role="application"
      aria-label={`Page ${page.name}: [ and ] walk the widgets, arrows move, Enter goes to the settings`}
      data-glass="edit"
      data-station-home
      onPointerDown={begin}
      onPointerMove={move}
      onPointerUp={end}
      onPointerLeave={() => setHover(null)}
      onDoubleClick={(e) => {
        const { x, y } = at(e)
        const hit = under(x, y).find((w) => typeof w.settings['text'] === 'string')
        if (hit) setWording(hit.id)
      }}
      onContextMenu={(e) => {
        e.preventDefault()
        const { x, y } = at(e)
        const ids = under(x, y).map((w) => w.id)
        if (ids.length) setStack({ x: x * scale, y: y * scale, ids })
      }}
    >
      {areas &&
        page.widgets
          .filter((id) => widgetKind(project.widgets[id]!.kind)?.touchable)
          .map((id) => <div key={id} className={styles.area} style={css(placeOf(id))} />)}
      {hover && !picked.includes(hover) && hover in project.widgets && (
        <div className={styles.hover} style={css(placeOf(hover))} />
      )}
      {chosen.map((id) => (
        <div key={id} className={styles.picked} style={css(placeOf(id))}>
          {picked.length === 1 &&
            handles.map((handle) => (
              <span key={handle} className={styles.handle} data-handle={handle} style={handlePlace(handle)} />
            ))}
        </div>
      ))}
      {chosen.length > 0 && <Rim rect={chosen.map(placeOf).reduce(around)} scale={scale} project={project} ids={chosen} />}
      {shown.guides.x.map((x) => (
        <div key={`x${x}`} className={styles.guide} style={{ left: x * scale, top: 0, bottom: 0, width: 1 }} />
      ))}
      {shown.guides.y.map((y) => (
        <div key={`y${y}`} className={styles.guide} style={{ top: y * scale, left: 0, right: 0, height: 1 }} />
      ))}
      {shown.marquee && <div className={styles.marquee} style={css(shown.marquee)} />}
      {!page.widgets.length && !adding && <p className={styles.hint}>A adds, or drag a rectangle</p>}
      {wording && wording in project.widgets && (
        <WordsOnGlass widget={project.widgets[wording]!} box={css(placeOf(wording))} onDone={() => setWording(null)} />
      )}
      {stack && (
        <Menu opened onChange={(open) => !open && setStack(null)} position="bottom-start" withinPortal>
          <Menu.Target>
            <UnstyledButton
              className={styles.anchor}
              aria-label="What lies here"
              tabIndex={-1}
              style={{ left: stack.x, top: stack.y }}
            />
          </Menu.Target>
          <Menu.Dropdown onPointerDown={(e) => e.stopPropagation()}>
            <Menu.Label>What lies here, the uppermost first</Menu.Label>
            {stack.ids
              .filter((id) => id in project.widgets)
              .map((id) => (
                <Menu.Item key={id} onClick={() => session.view.set({ widgets: [id], variable: null })}>
                  {project.widgets[id]!.name} <span className="muted small">{project.widgets[id]!.kind}</span>
                </Menu.Item>
              ))}
          </Menu.Dropdown>
        </Menu>
      )}
    </div>
  )
}

/** In the rim of the glass: where what is selected lies across and down, its name and its size, so that no tag covers a neighbour. */
function Rim({ rect, scale, project, ids }: { rect: Rect; scale: number; project: Project; ids: string[] }) {
  const name = ids.length === 1 ? project.widgets[ids[0] as WidgetId]!.name : `${ids.length} selected`
  const [width, height] = [rect.width * scale, rect.height * scale]
  return (
    <>
      <span className={styles.across} style={{ left: rect.x * scale, width: Math.max(24, width) }}>
        <span className={styles.named}>{name}</span>
        {width > 130 && <span className="mono">{Math.round(rect.width)}</span>}
      </span>
      <span className={styles.down} style={{ top: rect.y * scale, height: Math.max(18, height) }}>
        {height > 30 && <span className="mono">{Math.round(rect.height)}</span>}
      </span>
    </>
  )
}

function handlePlace(handle: Handle): React.CSSProperties {
  const { west, east, north, south } = sidesOf(handle)
  const centre = 'calc(50% - 4.5px)'
  return {
    cursor: `${handle}-resize`,
    left: west ? -6 : east ? undefined : centre,
    right: east ? -6 : undefined,
    top: north ? -6 : south ? undefined : centre,
    bottom: south ? -6 : undefined,
  }
}
