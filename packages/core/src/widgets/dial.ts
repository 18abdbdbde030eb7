import { cosine, roundHalfAway, sine, wrapInto, type Rect } from '../base/index.ts'
import { noFace, paintFace } from '../faces/index.ts'
import { atBearing, fillArc, fillStroke } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import type { Cell } from '../variables/index.ts'
import { touchedVariable, numberTypes } from './fields.ts'
import { along, endsFields, endsFindings, endsOf, rangeOf, stepOf, valueAlong, type Ends } from './ends.ts'
import { numberLetters, plainFigures, seenOf, writeNumber } from './figures.ts'
import { kindOf, type Live } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonFields, dimmed, paintWords, sheetOf, textFields, touchFields } from './text-box.ts'

interface Held {
  value: number | null
  /** Where the finger was last, from the middle. */
  x: number
  y: number
  /** The value before it was rounded: small turns add up. */
  fine: number
}

interface Looks extends Ends {
  variable: Cell | null
  endless: boolean
  sweep: number
  writes: boolean
}

const valueOf = (s: Looks, live: Live, held: Held): number => held.value ?? (s.variable ? Number(live.read(s.variable).value) : 0)

/** The round part of its place: above the number, where it writes one. */
function roundOf(place: Rect, s: { writes: boolean }, below: number): { cx: number; cy: number; radius: number } {
  const height = place.height - (s.writes ? Math.min(below, place.height / 3) : 0)
  return { cx: place.x + place.width / 2, cy: place.y + height / 2, radius: Math.max(4, Math.min(place.width, height) / 2 - 1) }
}

const sweepOf = (s: Looks): number => (s.endless ? 360 : s.sweep)
const startOf = (s: Looks): number => (s.endless ? 0 : 360 - s.sweep / 2)

/**
 * How far a finger has turned from one place to another around the middle, degrees clockwise, of less than a quarter turn: by the
 * sine and cosine between both, with the arc sine as its series; no other angle is ever needed.
 */
function turned(x0: number, y0: number, x1: number, y1: number): number {
  const lengths = Math.sqrt((x0 * x0 + y0 * y0) * (x1 * x1 + y1 * y1))
  if (lengths < 1) return 0
  const cross = (x0 * y1 - y0 * x1) / lengths
  const dot = (x0 * x1 + y0 * y1) / lengths
  // Halved until it is small: tan(a/2) = sin a / (1 + cos a).
  const tangent = cross / Math.max(1e-9, 1 + dot)
  const small = tangent / (1 + Math.sqrt(1 + tangent * tangent))
  const xx = small * small
  let term = small
  let sum = small
  for (let k = 1; k < 14; k++) {
    term *= -xx
    sum += term / (2 * k + 1)
  }
  return (sum * 4 * 180) / 3.141592653589793
}

export const dial = kindOf({
  kind: 'dial',
  label: 'Dial',
  meaning: 'set a value by rotating',
  purpose: 'touch',
  size: { width: 110, height: 140 },
  touchable: true,
  settings: described({
    variable: touchedVariable(...numberTypes),
    ...endsFields,
    endless: { label: 'Endless', type: t.yesNo, default: false, group: 'When touched', essential: true },
    sweep: { label: 'Sweep angle', type: t.whole, default: 270, min: 30, max: 350, unit: '°', group: 'Looks' },
    turns: {
      label: 'Turns over full range',
      type: t.number,
      default: 1,
      min: 0.1,
      max: 100,
      group: 'When touched',
      hint: 'more turns: finer',
    },
    everyMs: {
      label: 'Report interval while turning',
      type: t.whole,
      default: 100,
      min: 0,
      max: 10_000,
      unit: 'ms',
      zero: 'on release only',
      group: 'When touched',
    },
    ticks: { label: 'Ticks', type: t.whole, default: 11, min: 0, max: 72, group: 'Looks', zero: 'none' },
    writes: { label: 'Show value', type: t.yesNo, default: true, group: 'Shows' },
    ...touchFields(false),
    ...textFields('value', 'centre'),
    face: {
      label: 'Face',
      type: faceType,
      default: { ...noFace, shape: 'ellipse', fill: 'colour:surface', border: 'colour:line', borderWidth: 1 },
      group: 'Looks',
    },
    ringColour: { label: 'Ring colour', type: t.colour, default: 'colour:off', group: 'Looks' },
    filledColour: { label: 'Fill', type: t.colour, default: 'colour:accent', group: 'Looks' },
    ring: { label: 'Ring width', type: t.whole, default: 6, min: 1, max: 60, unit: 'px', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ variable: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 100 } }),
  state: (): Held => ({ value: null, x: 0, y: 0, fine: 0 }),
  hits(place, s, x, y) {
    const { cx, cy, radius } = roundOf(place, s, 34)
    return (x - cx) * (x - cx) + (y - cy) * (y - cy) <= radius * radius
  },
  touch(gesture, place, s, held, live) {
    const cell = s.variable
    if (!cell) return []
    if (gesture.kind === 'up' || gesture.kind === 'cancelled') {
      const { value } = held
      held.value = null
      return value === null ? [] : [{ do: 'write', cell, value, last: true, everyMs: s.everyMs }]
    }
    const { cx, cy } = roundOf(place, s, 34)
    const [x, y] = [gesture.x + 0.5 - cx, gesture.y + 0.5 - cy]
    if (gesture.kind === 'down') {
      const now = Number(live.read(cell).value)
      const [min, max] = rangeOf(cell.holds)
      Object.assign(held, { x, y, fine: now, value: Math.min(max, Math.max(min, Number.isNaN(now) ? min : now)) })
      return []
    }
    if (gesture.kind !== 'move' || held.value === null) return []
    const [from, to] = endsOf(s, cell)
    const step = stepOf(cell.holds)
    // A circle has one step between its last value and its first.
    const span = to - from + (s.endless ? (to < from ? -step : step) : 0)
    held.fine += (turned(held.x, held.y, x, y) / (sweepOf(s) * s.turns)) * span
    held.x = x
    held.y = y
    const [low, high] = from < to ? [from, to] : [to, from]
    held.fine = s.endless ? wrapInto(held.fine, low, high - low + step || 1) : Math.min(high, Math.max(low, held.fine))
    const part = (held.fine - low) / (high - low || 1)
    const value = valueAlong([low, high], part, step, cell.holds)
    if (value === held.value) return []
    held.value = value
    return [{ do: 'write', cell, value, last: false, everyMs: s.everyMs }]
  },
  paint(surface, place, s, live, held) {
    const sheet = sheetOf(s, live)
    const below = s.writes && sheet ? sheet.ascent + sheet.descent : 0
    const { cx, cy, radius } = roundOf(place, s, 34)
    const seen = s.variable && seenOf(s.variable, live)
    const unknown = seen?.unknown === true && held.value === null
    const { part } = s.variable ? along(endsOf(s, s.variable), valueOf(s, live, held)) : { part: 0 }
    const dim = (seen?.stale ?? false) || !live.enabled
    const [start, sweep] = [startOf(s), sweepOf(s)]
    const outside = s.ticks ? radius - 9 : radius
    const band = { cx, cy, inner: outside - s.ring, outer: outside, from: start }
    for (let k = 0; k < s.ticks; k++) {
      const bearing = start + (s.ticks > 1 ? (sweep * k) / (s.endless ? s.ticks : s.ticks - 1) : 0)
      fillStroke(surface, atBearing(cx, cy, radius - 5, bearing), atBearing(cx, cy, radius - 1, bearing), 1.5, s.ringColour)
    }
    fillArc(surface, { ...band, sweep }, s.ringColour)
    dimmed(surface, dim, () => {
      if (!unknown && !s.endless) fillArc(surface, { ...band, sweep: sweep * part }, s.filledColour)
      const inner = Math.max(2, Math.floor(outside - s.ring - 5))
      const middle = { x: Math.round(cx - inner), y: Math.round(cy - inner), width: 2 * inner, height: 2 * inner }
      paintFace(surface, middle, s.face)
      if (unknown) return
      const bearing = start + sweep * part
      const [far, near] = [
        { x: cx + (outside - 1) * sine(bearing), y: cy - (outside - 1) * cosine(bearing) },
        atBearing(cx, cy, inner * 0.45, bearing),
      ]
      fillStroke(surface, near, far, 3.5, s.colour)
    })
    if (!s.writes) return
    const text = unknown
      ? (seen?.instead ?? '---')
      : s.variable
        ? writeNumber(s.variable.holds, roundHalfAway(valueOf(s, live, held) * 1e9) / 1e9, plainFigures, live.formats)
        : '—'
    const room = { x: place.x, y: place.y + place.height - Math.max(below, 20), width: place.width, height: Math.max(below, 20) }
    paintWords(surface, room, s, live, text, dim)
  },
  shows(s, live, held) {
    if (!s.variable) return '—'
    const { unknown, instead } = seenOf(s.variable, live)
    if (unknown && held.value === null) return instead
    return writeNumber(s.variable.holds, valueOf(s, live, held), plainFigures, live.formats)
  },
  letters: (_s, holdsOf) => {
    const holds = holdsOf(_s.variable)
    return numberLetters(holds)
  },
  findings: (raw) => endsFindings(raw),
})
