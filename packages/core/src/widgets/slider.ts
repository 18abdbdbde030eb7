import { clamp, type Rect } from '../base/index.ts'
import { oneOf } from '../describe/index.ts'
import { noFace, paintFace } from '../faces/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatValue, isNumber, type Cell, type Value } from '../variables/index.ts'
import { kindOf, type Live } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonFields, faded, touchFields } from './text-box.ts'

/** The value under the finger; null while no finger is on it. */
interface Held {
  value: number | null
}

const [wide, tall] = ['right', 'up'] as const

interface Looks {
  variable: Cell | null
  way: typeof wide | typeof tall
  knob: number
}

/** The ends of what it shows, in shown units. */
const endsOf = ({ holds }: Cell): [number, number] => (isNumber(holds) ? [holds.min, holds.max] : [0, 65_535])

/** How far along the value is, 0–1. */
function along(s: Looks, live: Live, held: Held): number {
  const cell = s.variable
  if (!cell) return 0
  const [low, high] = endsOf(cell)
  const value = held.value ?? Number(live.read(cell).value)
  return high > low && !Number.isNaN(value) ? clamp((value - low) / (high - low), 0, 1) : 0
}

/** The knob fills the width of the slider and is `knob` pixels long. */
function knobAt(place: Rect, s: Looks, part: number): Rect {
  const knob = Math.min(s.knob, s.way === wide ? place.width : place.height)
  return s.way === wide
    ? { ...place, x: place.x + Math.round((place.width - knob) * part), width: knob }
    : { ...place, y: place.y + Math.round((place.height - knob) * (1 - part)), height: knob }
}

/** The value at a point, in steps of what the variable can hold. */
function valueAt(place: Rect, s: Looks, x: number, y: number): number {
  const knob = Math.min(s.knob, s.way === wide ? place.width : place.height)
  const room = Math.max(1, (s.way === wide ? place.width : place.height) - knob)
  const at = s.way === wide ? x - place.x - knob / 2 : place.y + place.height - knob / 2 - y
  const [low, high] = endsOf(s.variable!)
  const value = low + (high - low) * clamp(at / room, 0, 1)
  const { holds } = s.variable!
  if (!isNumber(holds) || holds.type === 'f32') return value
  const step = Math.abs(holds.factor)
  return clamp(low + Math.round((value - low) / step) * step, low, high)
}

export const slider = kindOf({
  kind: 'slider',
  label: 'Slider',
  meaning: 'a value that a finger pulls',
  size: { width: 260, height: 44 },
  touchable: true,
  settings: described({
    variable: {
      label: 'Variable',
      type: t.touched,
      default: '',
      group: 'Shows',
      essential: true,
      accepts: ['u16', 'i16', 'u32', 'i32', 'f32'],
    },
    way: {
      label: 'Grows to the',
      type: { ...oneOf(wide, tall), labels: { right: 'right', up: 'top' } },
      default: wide,
      group: 'Shows',
      essential: true,
    },
    knob: { label: 'Knob', type: t.whole, default: 36, min: 8, max: 200, unit: 'px', group: 'Looks' },
    ...touchFields(false),
    track: {
      label: 'Track',
      type: faceType,
      default: { ...noFace, fill: 'colour:off', radius: 5 },
      group: 'Looks',
    },
    filled: { label: 'Filled part', type: faceType, default: { ...noFace, fill: 'colour:accent', radius: 5 }, group: 'Looks' },
    face: { label: 'Face of the knob', type: faceType, default: { ...noFace, fill: 'colour:ink', radius: 6 }, group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({
    variable: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '%', min: 0, max: 100 },
  }),
  state: (): Held => ({ value: null }),
  touch(gesture, place, s, held) {
    const cell = s.variable
    if (!cell) return []
    // Whatever the host writes meanwhile is stored, and does not move it; the last value always counts.
    if (gesture.kind === 'up' || gesture.kind === 'cancelled') {
      const { value } = held
      held.value = null
      return value === null ? [] : [{ do: 'write', cell, value, last: true }]
    }
    if (gesture.kind !== 'down' && gesture.kind !== 'move') return []
    const value = valueAt(place, s, gesture.x, gesture.y)
    if (value === held.value) return []
    held.value = value
    return [{ do: 'write', cell, value, last: false }]
  },
  paint(surface, place, s, live, held) {
    const knob = knobAt(place, s, along(s, live, held))
    const stale = s.variable !== null && live.read(s.variable).stale
    paintFace(surface, place, s.track)
    const filled =
      s.way === wide
        ? { ...place, width: knob.x + knob.width - place.x }
        : { ...place, y: knob.y, height: place.y + place.height - knob.y }
    surface.within(filled, () => paintFace(surface, place, s.filled))
    const dim = stale || !live.enabled
    paintFace(surface, knob, dim && s.face.fill >= 0 ? { ...s.face, fill: faded(s.face.fill), gradient: null } : s.face)
  },
  shows(s, live, held) {
    const cell = s.variable
    if (!cell) return '—'
    const value: Value = held.value ?? live.read(cell).value
    return formatValue(cell.holds, value)
  },
})
