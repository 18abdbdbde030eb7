import { clamp, type Rect } from '../base/index.ts'
import { listOf, oneOf } from '../describe/index.ts'
import { noFace, paintFace, solidOf } from '../faces/index.ts'
import { drawText, textWidth, type GlyphSheet, type Rgb565, type Surface } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatDecimals, formatValue, isNone, isNumber, shownIn, type Cell, type Holds } from '../variables/index.ts'
import { rangeOf, zonesField, type Zone } from './ends.ts'
import { seenOf } from './figures.ts'
import { kindOf, type Formats, type Found, type Live } from './kind.ts'
import { paintPast } from './marks.ts'
import { faceType } from './setting-types.ts'
import { commonFields } from './text-box.ts'

const lineTexts = { solid: 'solid', dashes: 'dashed', dots: 'dotted' } as const

const trace = described({
  variable: {
    label: 'Variable',
    type: t.variable,
    default: '',
    group: 'Trace',
    accepts: ['u8', 'i8', 'u16', 'i16', 'u32', 'i32', 'f32'],
  },
  colour: { label: 'Colour', type: t.colour, default: 'colour:accent', group: 'Trace' },
  line: { label: 'Line', type: oneOf(lineTexts), default: 'solid', group: 'Trace' },
  ends: {
    label: 'Trace scale',
    type: oneOf({ 'as the trend': 'shared', 'of its variable': 'range of the variable', 'its own': 'custom' }),
    default: 'as the trend',
    group: 'Trace',
  },
  low: { label: 'Trace minimum', type: t.number, default: 0, group: 'Trace', hint: 'custom scale only' },
  high: { label: 'Trace maximum', type: t.number, default: 100, group: 'Trace', hint: 'custom scale only' },
})

interface Trace {
  variable: Cell | null
  colour: Rgb565
  line: keyof typeof lineTexts
  ends: 'as the trend' | 'of its variable' | 'its own'
  low: number
  high: number
}

/** Samples of every trace in turn, a ring of `room`; NaN: nothing was known then. */
interface Samples {
  values: Float64Array
  room: number
  /** How many were taken in all. */
  taken: number
}

const start = (traces: number, room: number): Samples => ({ values: new Float64Array(traces * room).fill(NaN), room, taken: 0 })

interface Looks {
  traces: readonly Trace[]
  ends: 'of its variable' | 'its own'
  low: number
  high: number
  samples: number
  everyMs: number
  sampled: 'by time' | 'at each write of the host'
  newest: 'at the right' | 'sweeps'
  scale: boolean
  times: boolean
  labelFont: string | null
  face: { borderWidth: number }
}

/** Both ends of the whole trend: its own, or the range of its first variable. */
const endsOf = (s: Looks): [number, number] => {
  const cell = s.traces[0]?.variable
  return s.ends === 'of its variable' && cell ? rangeOf(cell.holds) : [s.low, s.high]
}
const endsOfTrace = (s: Looks, one: Trace): [number, number] =>
  one.ends === 'its own'
    ? [one.low, one.high]
    : one.ends === 'of its variable' && one.variable
      ? rangeOf(one.variable.holds)
      : endsOf(s)

function take(s: Looks & { pausedBy: Cell | null }, samples: Samples, live: Live): void {
  if (s.pausedBy && Number(live.read(s.pausedBy).value) !== 0) return
  const at = samples.taken % samples.room
  s.traces.forEach(({ variable: cell }, k) => {
    const now = cell ? live.read(cell) : null
    const known = now && !now.stale && (now.written || cell!.stale?.afterMs !== 0) && !isNone(cell!.holds, now.value)
    samples.values[k * samples.room + at] = known ? Number(now.value) : NaN
  })
  samples.taken++
}

export const trend = kindOf({
  kind: 'trend',
  label: 'Trend',
  meaning: 'values over time, sampled also while another page shows',
  purpose: 'show',
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
    sampled: {
      label: 'Sample',
      type: oneOf({ 'by time': 'periodically', 'at each write of the host': 'on each write' }),
      default: 'by time',
      group: 'Shows',
    },
    everyMs: {
      label: 'Sample interval',
      type: t.whole,
      default: 500,
      min: 10,
      max: 3_600_000,
      unit: 'ms',
      group: 'Shows',
      essential: true,
    },
    samples: { label: 'Buffer length', type: t.whole, default: 120, min: 2, max: 4000, group: 'Shows' },
    ends: {
      label: 'Scale',
      type: oneOf({ 'of its variable': 'range of the variable', 'its own': 'custom' }),
      default: 'its own',
      group: 'Shows',
    },
    low: { label: 'Minimum', type: t.number, default: 0, group: 'Shows', essential: true },
    high: { label: 'Maximum', type: t.number, default: 100, group: 'Shows', essential: true },
    newest: {
      label: 'Direction',
      type: oneOf({ 'at the right': 'newest right', sweeps: 'sweep' }),
      default: 'at the right',
      group: 'Shows',
    },
    pausedBy: {
      label: 'Pause variable',
      type: t.variable,
      default: '',
      group: 'Shows',
      accepts: ['u16', 'choice', 'flags'],
      hint: 'pauses while ≠ 0',
    },
    zones: { ...zonesField, label: 'Zone bands' },
    lineWidth: { label: 'Line width', type: t.whole, default: 2, min: 1, max: 8, unit: 'px', group: 'Looks' },
    grid: { label: 'Horizontal grid', type: t.whole, default: 4, min: 0, max: 20, group: 'Looks' },
    gridUpright: { label: 'Vertical grid', type: t.whole, default: 0, min: 0, max: 20, group: 'Looks' },
    gridColour: { label: 'Grid colour', type: t.colour, default: 'colour:off', group: 'Looks' },
    scale: { label: 'Y scale', type: t.yesNo, default: false, group: 'Looks' },
    times: { label: 'Time axis', type: t.yesNo, default: false, group: 'Looks' },
    labelFont: { label: 'Label font', type: t.font, default: 'style:caption', group: 'Looks' },
    labelColour: { label: 'Label colour', type: t.colour, default: 'colour:muted', group: 'Looks' },
    clipColour: { label: 'Clipping marker', type: t.colour, default: 'colour:warning', group: 'Looks' },
    face: {
      label: 'Face',
      type: faceType,
      default: { ...noFace, fill: 'colour:ground', border: 'colour:line', borderWidth: 1, radius: 4 },
      group: 'Looks',
    },
    ...commonFields,
  }),
  fresh: () => ({ settings: { ends: 'of its variable', scale: true, times: true, grid: 1, gridUpright: 5 } }),
  picture: (variable) => ({
    settings: {
      traces: [{ variable, colour: 'colour:accent', line: 'solid', ends: 'as the trend', low: 0, high: 20 }],
      everyMs: 100,
      samples: 40,
    },
    holds: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 20 },
    value: 9,
  }),
  state: (s) => start(s.traces.length, s.samples),
  /** Another number of traces or samples begins anew: old ones would stand under other names. */
  keeps: (samples, s) =>
    samples.room === s.samples && samples.values.length === s.traces.length * s.samples
      ? samples
      : start(s.traces.length, s.samples),
  samplesEveryMs: (s) => (s.sampled === 'by time' ? s.everyMs : null),
  sample: take,
  wrote(s, samples, live) {
    if (s.sampled === 'at each write of the host') take(s, samples, live)
  },
  clear(s, samples) {
    Object.assign(samples, start(s.traces.length, s.samples))
  },
  solid: (place, s, live) => solidOf(s.face, plotOf(place, s, live.sheet(s.labelFont ?? ''), live.formats)),
  paint(surface, place, s, live, samples) {
    const sheet = live.sheet(s.labelFont ?? '')
    const plot = plotOf(place, s, sheet, live.formats)
    paintFace(surface, plot, s.face)
    const inner = insideOf(plot, s.face.borderWidth)
    if (inner.width < 2 || inner.height < 2) return
    paintZones(surface, inner, s)
    for (let k = 1; k <= s.grid; k++)
      surface.fill({ ...inner, y: inner.y + Math.round((inner.height * k) / (s.grid + 1)), height: 1 }, s.gridColour)
    for (let k = 1; k <= s.gridUpright; k++)
      surface.fill({ ...inner, x: inner.x + Math.round((inner.width * k) / (s.gridUpright + 1)), width: 1 }, s.gridColour)
    s.traces.forEach((one, k) => paintTrace(surface, inner, samples, k, one, s))
    if (sheet) paintLabels(surface, place, plot, s, sheet, live)
  },
  shows(s, live) {
    const values = s.traces.map(({ variable: cell }: { variable: Cell | null }) => {
      if (!cell) return '—'
      const seen = seenOf(cell, live)
      return seen.unknown ? seen.instead : formatValue(cell.holds, seen.value)
    })
    return values.join(', ')
  },
  letters: () => '0123456789.,- minsowh',
  findings(raw, holdsOf) {
    const found: Found[] = []
    if (raw.traces.length && raw.ends === 'its own' && raw.low >= raw.high)
      found.push({ code: 'trend-range', facts: {}, says: 'minimum is not below maximum' })
    if (!raw.traces.length) found.push({ code: 'no-traces', facts: {}, says: 'no trace' })
    for (const one of raw.traces) {
      const holds = holdsOf(one.variable)
      if (one.variable === '') found.push({ code: 'trace-nothing', facts: {}, says: 'a trace has no variable' })
      const [low, high] =
        one.ends === 'its own'
          ? [one.low, one.high]
          : raw.ends === 'its own' && one.ends === 'as the trend'
            ? [raw.low, raw.high]
            : [0, 0]
      if (holds && isNumber(holds) && low < high && (high < holds.min || low > holds.max))
        found.push({
          code: 'trace-misses',
          facts: { low, high },
          says: `scale ${low} to ${high} never shows a traced variable (${holds.min} to ${holds.max})`,
          mends: { label: 'Show the range of the variable', values: { ends: 'of its variable' as const } },
        })
    }
    return found
  },
})

const insideOf = (place: Rect, border: number): Rect => ({
  x: place.x + border,
  y: place.y + border,
  width: Math.max(0, place.width - 2 * border),
  height: Math.max(0, place.height - 2 * border),
})

/** Without decimals where they say nothing. */
const scaleText = (value: number, holds: Holds | undefined, { pairs }: Formats): string => {
  const as = holds && shownIn(holds, pairs)
  const text = formatDecimals(as ? as.shown(value) : value, as && isNumber(as.holds) ? as.holds.decimals : 1)
  return text.includes('.') ? text.replace(/\.?0+$/, '') : text
}

/** Labels at the left: at both ends, and at each line across. */
function scaleValues(s: Looks & { grid: number }): number[] {
  const [low, high] = endsOf(s)
  return Array.from({ length: s.grid + 2 }, (_, k) => high - ((high - low) * k) / (s.grid + 1))
}

/** The field of the traces: less the scale at its left and the times below. */
function plotOf(place: Rect, s: Looks & { grid: number }, sheet: GlyphSheet | null, formats: Formats): Rect {
  const holds = s.traces[0]?.variable?.holds
  const left = s.scale && sheet ? Math.max(...scaleValues(s).map((v) => textWidth(sheet, scaleText(v, holds, formats)))) + 8 : 0
  const below = s.times && sheet ? sheet.ascent + 2 : 0
  const fits = place.width > left + 20 && place.height > below + 16
  return fits ? { x: place.x + left, y: place.y, width: place.width - left, height: place.height - below } : place
}

function paintLabels(
  surface: Surface,
  place: Rect,
  plot: Rect,
  s: Looks & { labelColour: Rgb565; grid: number; gridUpright: number },
  sheet: GlyphSheet,
  live: Live,
): void {
  const values = scaleValues(s)
  const holds = s.traces[0]?.variable?.holds
  const comma = (text: string) => (live.formats.comma ? text.replace('.', ',') : text)
  if (plot.x > place.x)
    for (let k = 0; k <= s.grid + 1; k++) {
      // With many lines across only the ends are written.
      if (k > 0 && k <= s.grid && plot.height / (s.grid + 1) < sheet.capHeight + 8) continue
      const text = comma(scaleText(values[k]!, holds, live.formats))
      const y = clamp(
        plot.y + (plot.height * k) / (s.grid + 1) + sheet.capHeight / 2,
        plot.y + sheet.capHeight,
        plot.y + plot.height,
      )
      drawText(surface, sheet, plot.x - 6 - textWidth(sheet, text), Math.round(y), text, s.labelColour)
    }
  if (plot.height >= place.height || s.sampled !== 'by time' || s.newest === 'sweeps') return
  const whole = ((s.samples - 1) * s.everyMs) / 1000
  const [unit, seconds] = whole >= 7200 ? ['h', 3600] : whole >= 180 ? ['min', 60] : ['s', 1]
  const y = plot.y + plot.height + sheet.capHeight + 5
  const first = `-${formatDecimals(whole / seconds, whole / seconds < 10 && whole % seconds ? 1 : 0)} ${unit}`
  drawText(surface, sheet, plot.x, y, comma(first), s.labelColour)
  drawText(surface, sheet, plot.x + plot.width - textWidth(sheet, 'now'), y, 'now', s.labelColour)
  const half = `-${formatDecimals(whole / seconds / 2, whole / seconds < 20 ? 1 : 0).replace(/\.0$/, '')}`
  if (plot.width > 140)
    drawText(surface, sheet, Math.round(plot.x + plot.width / 2 - textWidth(sheet, half) / 2), y, comma(half), s.labelColour)
}

function paintZones(surface: Surface, inner: Rect, s: Looks & { zones: readonly Zone[] }): void {
  const [low, high] = endsOf(s)
  if (high <= low) return
  for (const zone of s.zones) {
    const at = (value: number) => inner.y + Math.round(inner.height * (1 - clamp((value - low) / (high - low), 0, 1)))
    const [top, bottom] = [at(Math.max(zone.from, zone.to)), at(Math.min(zone.from, zone.to))]
    surface.faintly(0.22, () => surface.fill({ ...inner, y: top, height: bottom - top }, zone.colour))
  }
}

/** How far back a column shows, in samples from the newest; null: it shows none. */
function backOf(x: number, width: number, { room, taken }: Samples, newest: Looks['newest']): number | null {
  if (newest === 'at the right') return ((width - 1 - x) * (room - 1)) / Math.max(1, width - 1)
  // Sweeping: each sample has its own place in the field; right of the newest stand the oldest, behind a gap.
  const at = (x * (room - 1)) / Math.max(1, width - 1)
  const head = (taken - 1) % room
  const back = head - at
  if (back >= 0) return back
  return -back < room * 0.04 ? null : back + room
}

/** One trace: from each column to the next a stroke that joins the two heights. */
function paintTrace(
  surface: Surface,
  inner: Rect,
  samples: Samples,
  trace: number,
  one: Trace,
  s: Looks & { lineWidth: number; clipColour: Rgb565; labelColour: Rgb565 },
): void {
  const { values, room, taken } = samples
  const [low, high] = endsOfTrace(s, one)
  const kept = Math.min(taken, room)
  const sample = (back: number): number => (back < 0 || back >= kept ? NaN : values[trace * room + ((taken - 1 - back) % room)]!)
  const height = (value: number): number =>
    inner.y + Math.round((inner.height - s.lineWidth) * (1 - clamp((value - low) / Math.max(1e-12, high - low), 0, 1)))
  const drawn = (x: number) => one.line === 'solid' || (one.line === 'dashes' ? x % 10 < 6 : x % 5 < 2)
  let before: number | null = null
  let marked = -Infinity
  for (let x = 0; x < inner.width; x++) {
    const back = backOf(x, inner.width, samples, s.newest)
    const value = back === null ? NaN : between(sample(Math.floor(back)), sample(Math.ceil(back)), back - Math.floor(back))
    if (Number.isNaN(value)) {
      before = null
      // A gap among what was sampled is dotted at the foot.
      if (back !== null && back < kept && x % 4 === 0)
        surface.fill({ x: inner.x + x, y: inner.y + inner.height - 2, width: 2, height: 2 }, s.labelColour)
      continue
    }
    const y = height(value)
    const top = before === null ? y : Math.min(y, before)
    const bottom = before === null ? y : Math.max(y, before)
    if (drawn(x)) surface.fill({ x: inner.x + x, y: top, width: 1, height: bottom - top + s.lineWidth }, one.colour)
    before = y
    if ((value > high || value < low) && x - marked >= 12) {
      marked = x
      const box = { x: inner.x + x - 4, y: value > high ? inner.y + 1 : inner.y + inner.height - 9, width: 9, height: 8 }
      surface.within(inner, () => paintPast(surface, box, value > high ? 'up' : 'down', s.clipColour))
    }
  }
}

const between = (newer: number, older: number, share: number): number => newer + (older - newer) * share
