import { Button } from '@mantine/core'
import { useEffect, useId, useRef, type CSSProperties, type ReactNode } from 'react'
import { sightMatrices, type Sight } from '@moth-lamp/core/palette'
import type { PaintedRect } from '../worker/messages.ts'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import styles from './glass.module.css'

export function putPainted(canvas: HTMLCanvasElement, { rect, rgba }: PaintedRect): void {
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, rect.width, rect.height), rect.x, rect.y)
}

interface Props {
  /** Page the desk draws, or null for the live panel. */
  page: string | null
  /** Screen pixels for one of the glass. */
  scale: number
  live: boolean
  /** The panel's clock stands: its rim is dashed. */
  held?: boolean
  /** Said at the rim. */
  note?: string
  label: string
  /** Whose eyes, or which light, it is shown for. */
  sight?: Sight
  children?: ReactNode
}

/** The simulated panel's glass, pixel for pixel; what lies over it gets the pointer. */
export function Glass({ page, scale, live, held, note, label, sight = 'as it is', children }: Props) {
  const session = useSession()
  const canvas = useRef<HTMLCanvasElement>(null)
  const width = useStore(session.live, (l) => l.width)
  const height = useStore(session.live, (l) => l.height)
  const light = useStore(session.live, (l) => (page === null ? l.light : 100))
  const making = useStore(session.live, (l) => l.making)
  const filter = useId()
  useEffect(() => {
    const stop = session.onPaint((update) => {
      const target = canvas.current
      if (!target) return
      if (target.width !== update.width) target.width = update.width
      if (target.height !== update.height) target.height = update.height
      for (const painted of update.painted) putPainted(target, painted)
    })
    session.lookAt(page)
    return stop
  }, [session, page])
  return (
    <div
      className={`${styles.bezel} ${live ? (held ? styles.held : styles.rim) : ''}`}
      data-bezel={live ? 'live' : 'desk'}
      aria-busy={making}
    >
      <canvas
        ref={canvas}
        width={width}
        height={height}
        style={{
          width: width * scale,
          height: height * scale,
          imageRendering: scale < 1 ? 'auto' : 'pixelated',
          filter: sight === 'as it is' ? 'none' : `url(#${filter})`,
        }}
        role="img"
        aria-label={label}
      />
      {sight !== 'as it is' && <SightFilter id={filter} sight={sight} />}
      {light < 100 && (
        <div
          className={styles.dark}
          style={{ width: width * scale, height: height * scale, opacity: ((100 - light) / 100) * 0.92 }}
          title={`backlight ${light} %`}
        />
      )}
      {page !== null && <Rulers scale={scale} />}
      <div className={styles.over} style={{ width: width * scale, height: height * scale }}>
        {children}
      </div>
      {making && <span className={styles.making}>Rendering …</span>}
      {note && <span className={styles.note}>{note}</span>}
      <Stopped />
    </div>
  )
}

/** Colours as they are seen: computed in linear light, as its matrix is meant. */
function SightFilter({ id, sight }: { id: string; sight: Sight }) {
  const values = [...sightMatrices[sight].map(([r, g, b, always]) => `${r} ${g} ${b} 0 ${always}`), '0 0 0 1 0'].join(' ')
  return (
    <svg className={styles.filter} aria-hidden>
      <filter id={id} colorInterpolationFilters="linearRGB">
        <feColorMatrix values={values} />
      </filter>
    </svg>
  )
}

/** In the rim of the desk's glass: a stroke every 10 px, a longer one every 50. */
function Rulers({ scale }: { scale: number }) {
  const step = { '--step': `${10 * scale}px` } as CSSProperties
  return (
    <>
      <span className={styles.ruleX} style={step} />
      <span className={styles.ruleY} style={step} />
    </>
  )
}

/** Over the glass while the worker that runs the panel does not: what happened, and the way on. */
function Stopped() {
  const session = useSession()
  const worker = useStore(session.live, (l) => l.worker)
  if (worker.is === 'well') return null
  return (
    <div className={styles.stopped} role="alert">
      <strong>{worker.is === 'silent' ? 'Simulator not responding' : 'Simulator stopped'}</strong>
      <span>
        {worker.is === 'silent'
          ? 'It restarts automatically in a few seconds; your project is safe.'
          : `The simulator stopped three times (${worker.why.split('\n')[0]}). The project is safe. Undo the last change, or restart it.`}
      </span>
      <Button variant="filled" onClick={() => session.worker.startAgain()}>
        Restart
      </Button>
    </div>
  )
}
