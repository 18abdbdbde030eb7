import { Box, Slider } from '@mantine/core'
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { holdsPoint, type PageId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import { boundTo, widgetKind } from '@moth-lamp/core/widgets'
import { putPainted } from '../../glass/glass.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import type { ExchangeRun, RunGlass } from '../../worker/messages.ts'
import { settleUs } from './runs.ts'
import styles from './exchanges.module.css'
import glass from '../../glass/glass.module.css'

interface Props {
  project: Project
  exchange: string | null
  run: ExchangeRun | null
  /** The moment that is shown, µs; null: as soon as something can be touched. */
  atUs: number | null
  onAt(us: number): void
  /** Something on the glass was touched as it is at a moment. */
  onTouch(widget: Widget, atUs: number): void
  /** A value was clicked that shows these words at a moment. */
  onValue(widget: Widget, shows: string, atUs: number): void
}

/** So far beyond its end the moment may be set, µs. */
const afterEndUs = 5_000_000

/** The glass of the run at a moment; a touch on it becomes a step, and so does a click on a value. */
export function RunGlassCard({ project, exchange, run, atUs, onAt, onTouch, onValue }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const session = useSession()
  const [seen, setSeen] = useState<RunGlass | null>(null)
  const [over, setOver] = useState<Widget | null>(null)
  const making = useStore(session.live, (l) => l.making)
  useEffect(() => {
    let gone = false
    const show = (glass: RunGlass | null) => {
      if (gone || !glass || !canvas.current) return
      canvas.current.width = glass.painted.rect.width
      canvas.current.height = glass.painted.rect.height
      putPainted(canvas.current, glass.painted)
      setSeen(glass)
    }
    const timer = setTimeout(() => void session.worker.glassOfExchange(exchange, atUs).then(show), 40)
    return () => {
      gone = true
      clearTimeout(timer)
    }
    // Letters and pictures that were still being made are there when none is.
  }, [session, project, exchange, run, atUs, making])
  const widgetAt = (e: PointerEvent): Widget | null => {
    const box = e.currentTarget.getBoundingClientRect()
    const [x, y] = [
      ((e.clientX - box.left) * project.panel.width) / box.width,
      ((e.clientY - box.top) * project.panel.height) / box.height,
    ]
    const ids = project.pages[seen?.page as PageId]?.widgets ?? []
    return (
      ids.map((id) => project.widgets[id]!).findLast((w) => holdsPoint(w.place, x, y) && (isTouched(w) || showsValue(w, seen))) ??
      null
    )
  }
  const take = (w: Widget, shift: boolean) => {
    if (!seen) return
    if (isTouched(w) && !(shift && showsValue(w, seen))) onTouch(w, seen.atUs)
    else onValue(w, seen.shows[w.id] ?? '', seen.atUs)
  }
  /** The widgets that a step can be made of, in the order in which they lie. */
  const usable = (project.pages[seen?.page as PageId]?.widgets ?? [])
    .map((id) => project.widgets[id]!)
    .filter((w) => isTouched(w) || showsValue(w, seen))
  const onKeyDown = (e: KeyboardEvent) => {
    const by = { ']': 1, '[': -1, ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[e.key]
    if (e.ctrlKey || e.metaKey || e.altKey) return
    if (by && usable.length) {
      const from = over ? usable.indexOf(over) : by > 0 ? -1 : 0
      setOver(usable[(from + by + usable.length) % usable.length]!)
    } else if ((e.key === 'Enter' || e.key === ' ') && over) take(over, e.shiftKey)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const shownUs = atUs ?? seen?.atUs ?? settleUs
  // After its end, what is shown goes on.
  const end = Math.max(shownUs, (run?.endUs ?? settleUs) + afterEndUs)
  return (
    <>
      <Box className={glass.bezel} p={8} aria-busy={making}>
        <div
          className={styles.glass}
          tabIndex={0}
          role="application"
          data-glass="run"
          aria-label={
            over
              ? `${over.name}: Enter adds a ${isTouched(over) ? 'tap' : 'check'}`
              : 'Glass of the run: [ and ] select a widget, Enter adds a tap or a check'
          }
          onKeyDown={onKeyDown}
        >
          <canvas
            ref={canvas}
            width={project.panel.width}
            height={project.panel.height}
            role="img"
            aria-label={`The glass of the run at ${(shownUs / 1e6).toFixed(3)} s`}
            onPointerMove={(e) => setOver(widgetAt(e))}
            onPointerLeave={() => setOver(null)}
            onPointerDown={(e) => {
              const w = e.button === 0 ? widgetAt(e) : null
              if (w) take(w, e.shiftKey)
            }}
          />
          {over && (
            <div
              className={styles.over}
              style={{
                left: `${(100 * over.place.x) / project.panel.width}%`,
                top: `${(100 * over.place.y) / project.panel.height}%`,
                width: `${(100 * over.place.width) / project.panel.width}%`,
                height: `${(100 * over.place.height) / project.panel.height}%`,
              }}
            />
          )}
        </div>
      </Box>
      <Slider
        size="sm"
        label={null}
        min={settleUs}
        max={end}
        step={1000}
        value={shownUs}
        thumbLabel="Moment of the run"
        onChange={onAt}
      />
      <div className={styles.glassWords}>
        <span className="small">
          {over
            ? isTouched(over)
              ? `Add step: tap “${over.name}”`
              : `Add check: “${over.name}” shows “${seen?.shows[over.id] ?? ''}”`
            : 'Click a button to add a tap, a value to add a check.'}
        </span>
        <span className="mono small muted">{(shownUs / 1e6).toFixed(3)} s</span>
      </div>
    </>
  )
}

const isTouched = (w: Widget): boolean => widgetKind(w.kind)?.touchable === true
const showsValue = (w: Widget, seen: RunGlass | null): boolean => Boolean(seen?.shows[w.id]) && boundTo(w) !== ''
