import { scaleLinear } from 'd3-scale'
import { useState, type PointerEvent } from 'react'
import type { PanelEvent } from '@moth-lamp/core/rig'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import type { WireEntry } from '../../worker/messages.ts'
import type { LogRow } from './log.tsx'
import styles from './bench.module.css'

const width = 398
const lanes = { from: 48, to: 390, host: 14, panel: 32, events: 50 }
/** Spans one may choose by the wheel, s. */
const spans = [1, 2, 5, 10, 20, 30]
const silenceUs = 1_000_000

interface Props {
  entries: readonly WireEntry[]
  events: readonly PanelEvent[]
  picked: LogRow | null
  onPick(key: string): void
}

/** Host, panel and what happens beside them on one axis that runs to now; silence is a gap; a click picks what is nearest. */
export function TimeStrip({ entries, events, picked, onPick }: Props) {
  const session = useSession()
  // Ten times a second is enough for the eye.
  const nowUs = useStore(session.live, (l) => Math.floor(l.nowUs / 100_000) * 100_000)
  const [span, setSpan] = useState(10)
  const beginUs = nowUs - span * 1e6
  const x = scaleLinear([beginUs, nowUs], [lanes.from, lanes.to])
  const frames = entries.filter((e) => e.toUs >= beginUs && e.kind !== 'power')
  const others = events.filter((b) => b.atUs >= beginUs)
  const silences = gapsOf(entries, Math.max(0, beginUs), nowUs)
  const pickAt = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const us = x.invert(((e.clientX - box.left) * width) / box.width)
    const low = ((e.clientY - box.top) * 76) / box.height > 46
    const near = low
      ? nearest(others, us, (b) => b.atUs)
      : nearest(
          frames.filter((f) => f.answers === null),
          us,
          (f) => f.toUs,
        )
    if (near) onPick(low ? `b${near.id}` : `f${near.id}`)
  }
  return (
    <svg
      className={styles.strip}
      viewBox={`0 0 ${width} 76`}
      role="img"
      aria-label={`The last ${span} seconds: frames of host and panel, and events`}
      onPointerDown={pickAt}
      onWheel={(e) => {
        const at = spans.indexOf(span) + (e.deltaY > 0 ? 1 : -1)
        if (spans[at]) setSpan(spans[at])
      }}
    >
      <title>Click to select, wheel to zoom</title>
      <text x="4" y={lanes.host + 4} className={styles.host}>
        host
      </text>
      <text x="4" y={lanes.panel + 4} className={styles.panel}>
        panel
      </text>
      <text x="4" y={lanes.events + 4} className={styles.dim}>
        events
      </text>
      {silences.map(({ from, to }) => {
        const [left, right] = [x(from), x(to)]
        return (
          <g key={from}>
            <rect x={left} y={lanes.host - 8} width={Math.max(0, right - left)} height="35" fill="url(#silence)" />
            {right - left > 62 && (
              <text x={(left + right) / 2} y={lanes.host + 13} className={styles.dim} textAnchor="middle">
                {((to - from) / 1e6).toFixed(1)} s silent
              </text>
            )}
          </g>
        )
      })}
      <defs>
        <pattern id="silence" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="7" height="7" fill="#f6f3ec" />
          <rect width="1.6" height="7" fill="#ddd6c7" />
        </pattern>
      </defs>
      {frames.map((e) => (
        <rect
          key={e.id}
          x={x(e.fromUs)}
          y={(e.direction === 'to panel' ? lanes.host : lanes.panel) - 5}
          width={Math.max(1.6, x(e.toUs) - x(e.fromUs))}
          height="11"
          fill={e.kind !== 'frame' ? 'var(--bad)' : e.direction === 'to panel' ? 'var(--host)' : 'var(--panel)'}
          fillOpacity={e.answers === null ? 1 : 0.4}
        />
      ))}
      {others.map((b) => (
        <Mark key={b.id} what={b.what} x={x(b.atUs)} />
      ))}
      <line x1={lanes.from} x2={lanes.to} y1="60.5" y2="60.5" stroke="var(--rule)" />
      {x.ticks(5).map((us) =>
        us < 0 ? null : (
          <g key={us}>
            <line x1={x(us)} x2={x(us)} y1="58" y2="62" stroke="var(--muted)" />
            <text x={x(us)} y="73" className={styles.tick} textAnchor="middle">
              {us / 1e6}
            </text>
          </g>
        ),
      )}
      {picked && picked.atUs >= beginUs && (
        <line x1={x(picked.atUs)} x2={x(picked.atUs)} y1="2" y2="60" stroke="var(--amber)" strokeWidth="1.6" />
      )}
      <line x1={lanes.to} x2={lanes.to} y1="4" y2="61" stroke="var(--ink)" strokeWidth="1.5" />
    </svg>
  )
}

/** Each kind has a shape of its own: a ring for a finger, a square for a page, a step for a pin, a bar for light and sound. */
function Mark({ what, x }: { what: PanelEvent['what']; x: number }) {
  const y = lanes.events
  switch (what) {
    case 'touched':
      return <circle cx={x} cy={y} r="3.5" fill="var(--ink)" />
    case 'not counted':
      return <path d={`M${x - 3} ${y - 3}L${x + 3} ${y + 3}M${x - 3} ${y + 3}L${x + 3} ${y - 3}`} stroke="var(--ink)" />
    case 'lifted':
      return <circle cx={x} cy={y} r="2.5" fill="none" stroke="var(--ink)" />
    case 'page':
    case 'pop-up':
      return <rect x={x - 3} y={y - 4} width="6" height="8" fill="none" stroke="var(--ink)" strokeWidth="1.3" />
    case 'pin':
      return <path d={`M${x - 4} ${y - 3}H${x}V${y + 3}H${x + 4}`} fill="none" stroke="var(--ink)" strokeWidth="1.4" />
    default:
      return <path d={`M${x - 3} ${y + 3}L${x} ${y - 4}L${x + 3} ${y + 3}Z`} fill="none" stroke="var(--ink)" strokeWidth="1.2" />
  }
}

function nearest<T>(list: readonly T[], us: number, at: (item: T) => number): T | null {
  let best: T | null = null
  for (const item of list) if (!best || Math.abs(at(item) - us) < Math.abs(at(best) - us)) best = item
  return best
}

/** Stretches in which nothing was on the line for longer than a second. */
function gapsOf(entries: readonly WireEntry[], fromUs: number, toUs: number): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = []
  // Dropped entries were not silence.
  const [first] = entries
  let last = first && first.id > 1 ? Math.max(fromUs, first.fromUs) : fromUs
  const note = (until: number, next: number) => {
    if (until - last > silenceUs) out.push({ from: last, to: until })
    last = Math.max(last, next)
  }
  for (const e of entries) if (e.toUs >= fromUs) note(e.fromUs, e.toUs)
  note(toUs, toUs)
  return out
}
