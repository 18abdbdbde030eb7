import { clamp, type Rect } from '../base/index.ts'
import { listOf } from '../describe/index.ts'
import { noFace, paintFace } from '../faces/index.ts'
import type { Rgb565, Surface } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatValue, type Cell } from '../variables/index.ts'
import { kindOf } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonFields } from './text-box.ts'

const trace = described({
  variable: {
    label: 'Variable',
    type: t.variable,
    default: '',
    group: 'Trace',
    accepts: ['u16', 'i16', 'u32', 'i32', 'f32'],
  },
  colour: { label: 'Colour', type: t.colour, default: 'colour:accent', group: 'Trace' },
})

/** Samples of every trace in turn, a ring of `room`; NaN: nothing was known then. */
interface Samples {
  values: Float64Array
  room: number
  /** How many were taken in all. */
  taken: number
}

const start = (traces: number, room: number): Samples => ({ values: new Float64Array(traces * room).fill(NaN), room, taken: 0 })

export const trend = kindOf({
  kind: 'trend',
  label: 'Trend',
  meaning: 'values over time, sampled also while another page shows',
  size: { width: 300, height: 140 },
  touchable: false,
  settings: described({
    traces: {
      label: 'Traces',
      type: listOf('traces', 'trace', trace, 6),
      default: [],
      group: 'Shows',
      essential: true,
    },
    everyMs: {
      label: 'Sampled every',
      type: t.whole,
      default: 500,
      min: 20,
      max: 3_600_000,
      unit: 'ms',
      group: 'Shows',
      essential: true,
    },
    samples: { label: 'Samples kept', type: t.whole, default: 120, min: 2, max: 2000, group: 'Shows' },
    low: { label: 'Lowest', type: t.number, default: 0, group: 'Shows', essential: true },
    high: { label: 'Highest', type: t.number, default: 100, group: 'Shows', essential: true },
    lineWidth: { label: 'Width of the lines', type: t.whole, default: 2, min: 1, max: 8, unit: 'px', group: 'Looks' },
    grid: { label: 'Lines across', type: t.whole, default: 4, min: 0, max: 20, group: 'Looks' },
    gridColour: { label: 'Their colour', type: t.colour, default: 'colour:off', group: 'Looks' },
    face: {
      label: 'Face',
      type: faceType,
      default: { ...noFace, fill: 'colour:ground', border: 'colour:line', borderWidth: 1, radius: 4 },
      group: 'Looks',
    },
    ...commonFields,
  }),
  fresh: () => ({}),
  state: (s) => start(s.traces.length, s.samples),
  /** Another number of traces or samples begins anew: old ones would stand under other names. */
  keeps: (samples, s) =>
    samples.room === s.samples && samples.values.length === s.traces.length * s.samples
      ? samples
      : start(s.traces.length, s.samples),
  samplesEveryMs: (s) => s.everyMs,
  sample(s, samples, live) {
    const at = samples.taken % samples.room
    s.traces.forEach(({ variable: cell }, k) => {
      const now = cell ? live.read(cell) : null
      samples.values[k * samples.room + at] = now && !now.stale ? Number(now.value) : NaN
    })
    samples.taken++
  },
  paint(surface, place, s, _live, samples) {
    paintFace(surface, place, s.face)
    const inner = innerOf(place, s.face.borderWidth)
    if (inner.width < 2 || inner.height < 2) return
    for (let k = 1; k <= s.grid; k++)
      surface.fill({ ...inner, y: inner.y + Math.round((inner.height * k) / (s.grid + 1)), height: 1 }, s.gridColour)
    s.traces.forEach(({ colour }, k) => paintTrace(surface, inner, samples, k, { ...s, colour }))
  },
  shows(s, live) {
    const values = s.traces.map(({ variable: cell }: { variable: Cell | null }) =>
      cell ? formatValue(cell.holds, live.read(cell).value) : '—',
    )
    return values.join(', ')
  },
  moving: (place, s) => innerOf(place, s.face.borderWidth),
  findings: (raw) =>
    raw.traces.length && raw.low >= raw.high
      ? [{ code: 'trend-range', facts: {}, says: 'its lowest value is not below its highest' }]
      : [],
})

const innerOf = (place: Rect, border: number): Rect => ({
  x: place.x + border,
  y: place.y + border,
  width: Math.max(0, place.width - 2 * border),
  height: Math.max(0, place.height - 2 * border),
})

/** One trace, the newest sample at the right: from each column to the next a stroke that joins the two heights. */
function paintTrace(
  surface: Surface,
  inner: Rect,
  { values, room, taken }: Samples,
  trace: number,
  s: { low: number; high: number; lineWidth: number; colour: Rgb565 },
): void {
  const sample = (back: number): number =>
    back >= Math.min(taken, room) ? NaN : values[trace * room + ((taken - 1 - back) % room)]!
  const height = (value: number): number =>
    inner.y + Math.round((inner.height - s.lineWidth) * (1 - clamp((value - s.low) / Math.max(1e-12, s.high - s.low), 0, 1)))
  let before: number | null = null
  for (let x = 0; x < inner.width; x++) {
    const back = ((inner.width - 1 - x) * (room - 1)) / Math.max(1, inner.width - 1)
    const [newer, older] = [sample(Math.floor(back)), sample(Math.ceil(back))]
    const value = newer + (older - newer) * (back - Math.floor(back))
    if (Number.isNaN(value)) {
      before = null
      continue
    }
    const y = height(value)
    const top = before === null ? y : Math.min(y, before)
    const bottom = before === null ? y : Math.max(y, before)
    surface.fill({ x: inner.x + x, y: top, width: 1, height: bottom - top + s.lineWidth }, s.colour)
    before = y
  }
}
