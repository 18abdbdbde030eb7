import { useRef, useState } from 'react'
import type { PageId, WidgetId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../session/context.tsx'
import styles from './glass.module.css'

/** Touchable widgets of the shown page, in reading order. */
function touchable(project: Project, page: string | null): Widget[] {
  const { pages } = project
  const shown = page ? pages[page as PageId] : undefined
  const shared = shown?.layer ? pages[shown.layer as PageId]?.widgets : undefined
  return [...(shown?.widgets ?? []), ...(shared ?? [])]
    .map((id: WidgetId) => project.widgets[id]!)
    .filter((w) => widgetKind(w.kind)?.touchable)
    .sort((a, b) => Math.round(a.place.y / 24) - Math.round(b.place.y / 24) || a.place.x - b.place.x)
}

interface Spot {
  x: number
  y: number
}
const middle: Spot = { x: 3, y: 3 }
const arrows: Record<string, Spot> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
}

/**
 * Fingers on the live glass: one pointer at a time, captured until it is lifted. By keyboard Tab walks what can be touched,
 * Space presses for as long as it is held, arrows move the finger on what it is on.
 */
export function TouchLayer({ scale }: { scale: number }) {
  const session = useSession()
  const project = useProject()
  const page = useStore(session.live, (l) => l.page)
  const down = useRef<number | 'key' | null>(null)
  const [at, setAt] = useState<number | null>(null)
  const all = touchable(project, page)
  const here = at === null ? undefined : all[at]
  /** Where on it the finger is, in sixths of its width and height. */
  const [spot, setSpot] = useState(middle)
  const pointOf = ({ place }: Widget, { x, y }: Spot) =>
    [Math.floor(place.x + (place.width * x) / 6), Math.floor(place.y + (place.height * y) / 6)] as const
  const send = (phase: 'down' | 'move' | 'up', e: React.PointerEvent) => {
    const box = e.currentTarget.getBoundingClientRect()
    session.touch(phase, Math.floor((e.clientX - box.left) / scale), Math.floor((e.clientY - box.top) / scale))
  }
  const lift = (e: React.PointerEvent) => {
    if (down.current !== e.pointerId) return
    down.current = null
    send('up', e)
  }
  const byKey = (phase: 'down' | 'up') => {
    if (!here || (down.current === 'key') === (phase === 'down')) return
    down.current = phase === 'down' ? 'key' : null
    session.touch(phase, ...pointOf(here, spot))
  }
  const moveFinger = (by: Spot) => {
    const next = { x: Math.min(5.9, Math.max(0.1, spot.x + by.x)), y: Math.min(5.9, Math.max(0.1, spot.y + by.y)) }
    setSpot(next)
    if (here && down.current === 'key') session.touch('move', ...pointOf(here, next))
  }
  return (
    <div
      className={styles.live}
      data-glass="touch"
      data-station-home
      tabIndex={0}
      role="application"
      aria-label={
        here ? `${here.name}: Space presses it` : 'The running glass: Tab selects the next touchable widget, Space presses it'
      }
      onPointerDown={(e) => {
        if (down.current !== null && !e.isPrimary) session.say('Single-touch panel: the second finger is ignored.', 'info')
        if (down.current !== null || e.button !== 0) return
        down.current = e.pointerId
        setAt(null)
        e.currentTarget.setPointerCapture(e.pointerId)
        send('down', e)
      }}
      onPointerMove={(e) => down.current === e.pointerId && send('move', e)}
      onPointerUp={lift}
      onPointerCancel={lift}
      onKeyDown={(e) => {
        if (e.key === 'Tab' && !e.altKey && !e.ctrlKey) {
          const next = at === null ? (e.shiftKey ? all.length - 1 : 0) : at + (e.shiftKey ? -1 : 1)
          byKey('up')
          setAt(all[next] ? next : null)
          setSpot(middle)
          if (all[next]) e.preventDefault()
        } else if (e.key === ' ' && here) {
          e.preventDefault()
          e.stopPropagation()
          if (!e.repeat) byKey('down')
        } else if (here && Object.hasOwn(arrows, e.key)) {
          e.preventDefault()
          e.stopPropagation()
          moveFinger(arrows[e.key]!)
        } else if (e.key === 'Escape') setAt(null)
      }}
      onKeyUp={(e) => e.key === ' ' && byKey('up')}
      onBlur={() => (byKey('up'), setAt(null))}
    >
      {here && (
        <div
          className={styles.finger}
          style={{
            left: here.place.x * scale,
            top: here.place.y * scale,
            width: here.place.width * scale,
            height: here.place.height * scale,
          }}
        >
          <span style={{ left: `${(spot.x * 100) / 6}%`, top: `${(spot.y * 100) / 6}%` }} />
        </div>
      )}
    </div>
  )
}
