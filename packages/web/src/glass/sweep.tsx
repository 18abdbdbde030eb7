import { Slider } from '@mantine/core'
import { useEffect } from 'react'
import type { VariableId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import { formatValue, isNumber, usedBits, type Holds, type Value } from '@moth-lamp/core/variables'
import { boundTo } from '@moth-lamp/core/widgets'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import styles from './glass.module.css'

/** The values a thumb stands at from one end to the other; null where a value is no point of a line. */
function valuesOf(
  holds: Holds,
): { from: number; to: number; step: number; at(n: number): Value; of(value: Value): number } | null {
  if (isNumber(holds)) {
    const step = Math.max(Math.abs(holds.factor), (holds.max - holds.min) / 4000)
    return { from: holds.min, to: holds.max, step, at: (n) => n, of: Number }
  }
  const list =
    holds.type === 'choice'
      ? holds.choices.map((c) => c.value)
      : holds.type === 'flags'
        ? [0, ...Array.from({ length: 16 }, (_, bit) => 1 << bit).filter((mask) => mask & usedBits(holds)), usedBits(holds)]
        : []
  if (list.length < 2) return null
  return {
    from: 0,
    to: list.length - 1,
    step: 1,
    at: (n) => list[n] ?? 0,
    of: (value) => Math.max(0, list.indexOf(Number(value))),
  }
}

/** In the rim under the selected widget: a thumb that sweeps its variable, on the desk only; gone with the selection. */
export function Sweep({ project, widget, scale }: { project: Project; widget: Widget; scale: number }) {
  const session = useSession()
  const id = boundTo(widget)
  const variable = project.variables[id as VariableId]
  const swept = useStore(session.view, (v) => v.swept)
  const value = useStore(session.live, (l) => l.values[id]?.value) ?? variable?.initial
  useEffect(() => () => session.view.set({ swept: null }), [session, widget.id, id])
  const line = variable && valuesOf(variable.holds)
  if (!line || value === undefined) return null
  const now = swept?.variable === id ? swept.value : value
  const width = Math.max(120, widget.place.width * scale)
  const left = Math.max(0, Math.min(widget.place.x * scale, project.panel.width * scale - width - 8))
  return (
    <div
      className={styles.sweep}
      style={{ left, width }}
      onPointerDown={(e) => e.stopPropagation()}
      onPointerMove={(e) => e.stopPropagation()}
      title="preview a value (not sent)"
    >
      <Slider
        classNames={{ bar: styles.sweepBar!, track: styles.sweepTrack!, thumb: styles.sweepThumb! }}
        size={4}
        thumbSize={13}
        thumbLabel={`Sweep ${variable.name}, on the desk only`}
        label={formatValue(variable.holds, now)}
        min={line.from}
        max={line.to}
        step={line.step}
        value={line.of(now)}
        onChange={(n) => session.view.set({ swept: { variable: id, value: line.at(n) } })}
      />
    </div>
  )
}
