import { scaleLinear } from 'd3-scale'
import { curveStepAfter, line } from 'd3-shape'
import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import type { Variable } from '@moth-lamp/core/project'
import { formatValue, isNumber } from '@moth-lamp/core/variables'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import styles from './bench.module.css'

const size = { width: 60, height: 22 }
const spanUs = 30_000_000

interface Props {
  variable: Variable
  value: unknown
  /** The host keeps it: a hand may take it. */
  owned: boolean
}

/** A value over the last thirty seconds. The dot at its end is taken and drawn up and down: the host then writes that. */
export function Sparkline({ variable, value, owned }: Props) {
  const session = useSession()
  const nowUs = useStore(session.live, (l) => Math.floor(l.nowUs / 250_000) * 250_000)
  const taken = useRef<number | null>(null)
  const keyed = useRef({ value: 0, untilMs: 0 })
  const samples = useStore(session.live, () => session.history.of(variable.id)).filter((s) => typeof s.value === 'number')
  const { holds } = variable
  const now = typeof value === 'number' ? value : null
  if (now === null) return <span />
  const seen = samples.map((s) => s.value as number)
  // The values moved fill the height; a settable value can be drawn over its whole range.
  const [low, high] = [Math.min(now, ...seen), Math.max(now, ...seen)]
  const x = scaleLinear([nowUs - spanUs, nowUs], [2, size.width - 6])
  const y = scaleLinear(low === high ? [low - 1, high + 1] : [low, high], [size.height - 4, 4])
  const points = [...samples.map((s) => [Math.max(s.atUs, nowUs - spanUs), s.value as number] as const), [nowUs, now] as const]
  const path = line<readonly [number, number]>(
    (p) => x(p[0]),
    (p) => y(p[1]),
  ).curve(curveStepAfter)(points)
  const mayTake = owned && isNumber(holds)
  const write = (next: number, last: number | null): number => {
    if (!isNumber(holds)) return next
    const step = holds.factor
    const to = Math.min(Math.max(Math.round(next / step) * step, holds.min), holds.max)
    if (to !== last) session.hostWrites(variable.id, to)
    return to
  }
  const drag = (e: PointerEvent) => {
    if (taken.current === null || !isNumber(holds)) return
    const box = e.currentTarget.getBoundingClientRect()
    // Three times the height of the row is the whole range.
    const share = 0.5 - (e.clientY - box.top - box.height / 2) / (box.height * 6)
    taken.current = write(holds.min + (holds.max - holds.min) * Math.min(1, Math.max(0, share)), taken.current)
  }
  const onKey = (e: KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[e.key]
    if (!by || !isNumber(holds)) return
    e.preventDefault()
    e.stopPropagation()
    // Keys may come faster than what they wrote is shown: each goes on from the one before.
    const from = keyed.current.untilMs > e.timeStamp ? keyed.current.value : now
    keyed.current = { value: write(from + by * holds.factor, null), untilMs: e.timeStamp + 700 }
  }
  const picture = (
    <>
      <path d={path ?? ''} fill="none" stroke={owned ? 'var(--host)' : 'var(--panel)'} strokeWidth="1.5" />
      <circle cx={x(nowUs)} cy={y(now)} r={mayTake ? 4 : 2.5} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
    </>
  )
  if (!mayTake)
    return (
      <svg className={styles.spark} width={size.width} height={size.height} aria-hidden>
        {picture}
      </svg>
    )
  return (
    <svg
      className={`${styles.spark} ${styles.taken}`}
      width={size.width}
      height={size.height}
      role="slider"
      tabIndex={0}
      aria-label={`${variable.name} by hand`}
      aria-valuemin={isNumber(holds) ? holds.min : 0}
      aria-valuemax={isNumber(holds) ? holds.max : 0}
      aria-valuenow={now}
      aria-valuetext={formatValue(holds, now)}
      onPointerDown={(e) => {
        if (e.button !== 0) return
        taken.current = now
        e.currentTarget.setPointerCapture(e.pointerId)
      }}
      onPointerMove={drag}
      onPointerUp={() => (taken.current = null)}
      onPointerCancel={() => (taken.current = null)}
      onKeyDown={onKey}
    >
      <title>Drag to set the value</title>
      {picture}
    </svg>
  )
}
