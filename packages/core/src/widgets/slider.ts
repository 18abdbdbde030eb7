import type { Rect } from '../base/index.ts'
import { oneOf } from '../describe/index.ts'
import { noFace, paintFace, type CompiledFace } from '../faces/index.ts'
import { fillRounded } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import type { Cell, Value } from '../variables/index.ts'
import { touchedVariable, numberTypes, growsTo, type Way } from './fields.ts'
import { along, endsFields, endsFindings, endsOf, stepOf, valueAlong, type Ends } from './ends.ts'
import { plainFigures, seenOf, writeNumber } from './figures.ts'
import { kindOf, type Live } from './kind.ts'
import { paintPast } from './marks.ts'
import { faceType } from './setting-types.ts'
import { commonFields, dimmed, touchFields } from './text-box.ts'

/** The value under the finger; null while no finger is on it. */
interface Held {
  value: number | null
}

const isLying = (way: Way): boolean => way === 'right' || way === 'left'

interface Looks extends Ends {
  variable: Cell | null
  way: Way
  knob: number
  track: CompiledFace
  trackWidth: number
  face: CompiledFace
  detents: number
  onlyDetents: boolean
  step: number
  beside: 'jumps' | 'is ignored'
}

/** Shown value: the value under the finger in its steps, or what is stored. */
function shownOf(s: Looks, live: Live, held: Held): { part: number; past: -1 | 0 | 1; unknown: boolean; stale: boolean } {
  const cell = s.variable
  if (!cell) return { part: 0, past: 0, unknown: false, stale: false }
  const seen = seenOf(cell, live)
  const value = held.value ?? Number(seen.value)
  return { ...along(endsOf(s, cell), value), unknown: seen.unknown && held.value === null, stale: seen.stale }
}

const lengthOf = (place: Rect, way: Way): number => (isLying(way) ? place.width : place.height)
const knobOf = (place: Rect, s: Looks): number => Math.min(s.knob, lengthOf(place, s.way))

/** The knob is as wide as the slider, less the marks of detents beside the track, and `knob` pixels long. */
function knobAt(place: Rect, s: Looks, part: number): Rect {
  const knob = knobOf(place, s)
  const at = Math.round((lengthOf(place, s.way) - knob) * (s.way === 'right' || s.way === 'down' ? part : 1 - part))
  const across = acrossOf(place, s)
  return isLying(s.way)
    ? { x: place.x + at, y: place.y, width: knob, height: across }
    : { x: place.x, y: place.y + at, width: across, height: knob }
}

/** Detents are marked on a strip of their own beside the track. */
const marksRoom = 12
const acrossOf = (place: Rect, s: Looks): number => {
  const all = isLying(s.way) ? place.height : place.width
  return s.detents > 1 && all > 2 * marksRoom ? all - marksRoom : all
}

/** (finger − half the knob) / (length − knob), from its first end: 0–1. */
function partAt(place: Rect, s: Looks, x: number, y: number): number {
  const knob = knobOf(place, s)
  const room = Math.max(1, lengthOf(place, s.way) - knob)
  const far = (isLying(s.way) ? x - place.x : y - place.y) - knob / 2
  return s.way === 'right' || s.way === 'down' ? far / room : 1 - far / room
}

/** The value at a point, in steps of what the variable can hold, or of the detents. */
function valueAt(place: Rect, s: Looks, x: number, y: number): number {
  const { holds } = s.variable!
  const ends = endsOf(s, s.variable!)
  const own = stepOf(holds)
  const step = s.onlyDetents && s.detents > 1 ? Math.abs(ends[1] - ends[0]) / (s.detents - 1) : Math.max(own, s.step)
  const value = valueAlong(ends, partAt(place, s, x, y), step, holds)
  // Between detents there may be none that the variable can hold: the nearest of its own.
  return own > 0 && step !== own
    ? valueAlong([ends[0], ends[1]], (value - ends[0]) / (ends[1] - ends[0] || 1), own, holds)
    : value
}

const holdsPart = (r: Rect, x: number, y: number, slack: number): boolean =>
  x >= r.x - slack && x < r.x + r.width + slack && y >= r.y - slack && y < r.y + r.height + slack

export const slider = kindOf({
  kind: 'slider',
  label: 'Slider',
  meaning: 'set a value by dragging',
  purpose: 'touch',
  size: { width: 220, height: 38 },
  touchable: true,
  settings: described({
    variable: touchedVariable(...numberTypes),
    way: growsTo,
    ...endsFields,
    step: {
      label: 'Step',
      type: t.number,
      default: 0,
      min: 0,
      group: 'When touched',
      zero: '1 raw',
      of: { variable: 'variable', as: 'step' },
    },
    detents: { label: 'Detents', type: t.whole, default: 0, min: 0, max: 41, group: 'When touched', zero: 'none' },
    onlyDetents: { label: 'Snap to detents', type: t.yesNo, default: false, group: 'When touched' },
    beside: {
      label: 'Touch on the track',
      type: oneOf({ jumps: 'jump', 'is ignored': 'ignore' }),
      default: 'jumps',
      group: 'When touched',
    },
    everyMs: {
      label: 'Report interval while dragging',
      type: t.whole,
      default: 100,
      min: 0,
      max: 10_000,
      unit: 'ms',
      zero: 'on release only',
      group: 'When touched',
    },
    knob: { label: 'Knob size', type: t.whole, default: 24, min: 8, max: 200, unit: 'px', group: 'Looks' },
    trackWidth: {
      label: 'Track width',
      type: t.whole,
      default: 0,
      min: 0,
      max: 200,
      unit: 'px',
      zero: 'as wide as the slider',
      group: 'Looks',
    },
    ...touchFields(false),
    track: { label: 'Track face', type: faceType, default: { ...noFace, fill: 'colour:off', radius: 5 }, group: 'Looks' },
    filled: { label: 'Fill face', type: faceType, default: { ...noFace, fill: 'colour:accent', radius: 5 }, group: 'Looks' },
    face: { label: 'Knob face', type: faceType, default: { ...noFace, fill: 'colour:ink', radius: 6 }, group: 'Looks' },
    slot: { label: 'Grip line', type: t.whole, default: 0, min: 0, max: 20, unit: 'px', zero: 'none', group: 'Looks' },
    markColour: { label: 'Detent and grip colour', type: t.colour, default: 'colour:ground', group: 'Looks' },
    pastColour: { label: 'Out-of-range marker', type: t.colour, default: 'colour:warning', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({
    settings: { trackWidth: 10, slot: 3 },
    variable: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '%', min: 0, max: 100 },
  }),
  state: (): Held => ({ value: null }),
  sizedFor(face, { width, height }, { way }) {
    const [along, across] = isLying(way) ? [width, height] : [height, width]
    if (face === 'face') return { knob: Math.min(200, Math.max(8, along)) }
    return face === 'track' ? { trackWidth: Math.min(200, across) } : {}
  },
  touch(gesture, place, s, held, live) {
    const cell = s.variable
    if (!cell) return []
    // Writes of the host are stored meanwhile and do not move it; the last value always counts.
    if (gesture.kind === 'up' || gesture.kind === 'cancelled') {
      const { value } = held
      held.value = null
      return value === null ? [] : [{ do: 'write', cell, value, last: true, everyMs: s.everyMs }]
    }
    if (
      gesture.kind === 'down' &&
      s.beside === 'is ignored' &&
      !holdsPart(knobAt(place, s, shownOf(s, live, held).part), gesture.x, gesture.y, 4)
    )
      return []
    if (gesture.kind !== 'down' && (gesture.kind !== 'move' || held.value === null)) return []
    const value = valueAt(place, s, gesture.x, gesture.y)
    if (value === held.value) return []
    held.value = value
    return [{ do: 'write', cell, value, last: false, everyMs: s.everyMs }]
  },
  paint(surface, place, s, live, held) {
    const { part, past, unknown, stale } = shownOf(s, live, held)
    const knob = knobAt(place, s, part)
    const lying = isLying(s.way)
    const across = acrossOf(place, s)
    const thin = s.trackWidth ? Math.min(s.trackWidth, across) : across
    const track = lying
      ? { x: place.x, y: place.y + Math.floor((across - thin) / 2), width: place.width, height: thin }
      : { x: place.x + Math.floor((across - thin) / 2), y: place.y, width: thin, height: place.height }
    const dim = stale || !live.enabled
    dimmed(surface, !live.enabled, () => paintFace(surface, track, s.track))
    if (s.detents > 1) {
      const room = lengthOf(place, s.way) - knobOf(place, s)
      for (let k = 0; k < s.detents; k++) {
        const at = Math.round(knobOf(place, s) / 2 + (room * k) / (s.detents - 1)) - 1
        const mark = lying
          ? { x: place.x + at, y: place.y + across + 4, width: 2, height: 7 }
          : { x: place.x + across + 4, y: place.y + at, width: 7, height: 2 }
        surface.fill(mark, s.filled.fill < 0 ? s.face.fill : s.filled.fill)
      }
    }
    if (unknown) return
    const filled =
      s.way === 'right'
        ? { ...track, width: knob.x + knob.width - track.x }
        : s.way === 'left'
          ? { ...track, x: knob.x, width: track.x + track.width - knob.x }
          : s.way === 'up'
            ? { ...track, y: knob.y, height: track.y + track.height - knob.y }
            : { ...track, height: knob.y + knob.height - track.y }
    dimmed(surface, dim, () => {
      surface.within(filled, () => paintFace(surface, track, s.filled))
      paintFace(surface, knob, s.face)
      if (s.slot > 0) {
        const [long, short] = [Math.round((lying ? knob.height : knob.width) * 0.55), s.slot]
        const slot = lying
          ? {
              x: knob.x + Math.floor((knob.width - short) / 2),
              y: knob.y + Math.floor((knob.height - long) / 2),
              width: short,
              height: long,
            }
          : {
              x: knob.x + Math.floor((knob.width - long) / 2),
              y: knob.y + Math.floor((knob.height - short) / 2),
              width: long,
              height: short,
            }
        fillRounded(surface, slot, short / 2, s.markColour)
      }
    })
    if (!past) return
    const far = s.way === 'right' || s.way === 'down'
    const end = past > 0 === far
    const mark = lying
      ? { x: end ? knob.x + knob.width - 8 : knob.x + 1, y: knob.y + Math.floor(knob.height / 2) - 5, width: 7, height: 10 }
      : { x: knob.x + Math.floor(knob.width / 2) - 5, y: end ? knob.y + knob.height - 8 : knob.y + 1, width: 10, height: 7 }
    paintPast(surface, mark, lying ? (end ? 'right' : 'left') : end ? 'down' : 'up', s.pastColour)
  },
  shows(s, live, held) {
    const cell = s.variable
    if (!cell) return '—'
    const seen = seenOf(cell, live)
    if (seen.unknown && held.value === null) return seen.instead
    const value: Value = held.value ?? seen.value
    return writeNumber(cell.holds, Number(value), plainFigures, live.formats)
  },
  findings: (raw) => endsFindings(raw),
})
