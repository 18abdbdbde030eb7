import { clamp, roundHalfAway } from '../base/index.ts'
import { listOf, oneOf, type Follows } from '../describe/index.ts'
import type { Rgb565 } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { isNumber, type Cell, type Holds } from '../variables/index.ts'

/** Which part of what a variable can be is shown or set: all of it, or between two values of one's own. */
export const endsFields = {
  ends: {
    label: 'Scale',
    type: oneOf({ 'of its variable': 'range of the variable', 'its own': 'custom' }),
    default: 'of its variable',
    group: 'Shows',
  },
  from: {
    label: 'Scale minimum',
    type: t.number,
    default: 0,
    group: 'Shows',
    follows: true,
    hint: 'custom scale only',
    brings: { ends: 'its own' },
  },
  to: {
    label: 'Scale maximum',
    type: t.number,
    default: 100,
    group: 'Shows',
    follows: true,
    hint: 'custom scale only',
    brings: { ends: 'its own' },
  },
} as const

export interface Ends {
  ends: 'of its variable' | 'its own'
  from: number
  to: number
}

/** The range of what holds a value, in shown units. */
export const rangeOf = (holds: Holds): [number, number] =>
  isNumber(holds)
    ? [holds.min, holds.max]
    : holds.type === 'choice' && holds.choices.length
      ? [Math.min(...holds.choices.map((c) => c.value)), Math.max(...holds.choices.map((c) => c.value))]
      : holds.type === 'time'
        ? [0, 86_399]
        : [0, 65_535]

/** Both ends of what is shown, in shown units; the second may be the smaller one. */
export const endsOf = (s: Ends, cell: Cell): [number, number] => (s.ends === 'its own' ? [s.from, s.to] : rangeOf(cell.holds))

/** How far along a value is from one end to the other, 0–1; `past`: it lies before the first (−1) or beyond the last (1). */
export function along([from, to]: readonly [number, number], value: number): { part: number; past: -1 | 0 | 1 } {
  if (from === to || Number.isNaN(value)) return { part: 0, past: 0 }
  const share = (value - from) / (to - from)
  return { part: clamp(share, 0, 1), past: share < -1e-9 ? -1 : share > 1 + 1e-9 ? 1 : 0 }
}

/** The smallest step a variable can make, in shown units; 0 where it can be anything. */
export const stepOf = (holds: Holds): number => (isNumber(holds) ? (holds.type === 'f32' ? 0 : Math.abs(holds.factor)) : 1)

/**
 * A value at a share of the way between two ends, rounded half away to a step counted from the first, and never outside the
 * range of its variable. Both ends are reached exactly.
 */
export function valueAlong([from, to]: readonly [number, number], part: number, step: number, holds: Holds): number {
  const whole = Math.abs(to - from)
  const far = whole * clamp(part, 0, 1)
  const rounded = step > 0 ? Math.min(whole, roundHalfAway(far / step) * step) : far
  const value = part >= 1 ? to : from < to ? from + rounded : from - rounded
  const [min, max] = rangeOf(holds)
  // Steps of a tenth add up to hairs that no variable holds.
  return clamp(roundHalfAway(value * 1e9) / 1e9, min, max)
}

const zone = described({
  from: { label: 'Scale minimum', type: t.number, default: 0, group: 'Zone' },
  to: { label: 'Scale maximum', type: t.number, default: 10, group: 'Zone' },
  colour: { label: 'Colour', type: t.colour, default: 'colour:warning', group: 'Zone' },
})

/** Parts of a range with a colour each; both ends belong to them. */
export const zonesField = {
  label: 'Zones',
  type: listOf('zones', 'zone', zone, 12),
  default: [],
  group: 'Looks',
} as const

export interface Zone {
  from: number
  to: number
  colour: Rgb565
}

/** The first zone that a value lies in. */
export const zoneOf = <Z extends { from: number; to: number }>(zones: readonly Z[], value: number): Z | null =>
  zones.find((z) => value >= Math.min(z.from, z.to) && value <= Math.max(z.from, z.to)) ?? null

/** Fault of custom scale ends, said after the name of the widget. */
export const endsFindings = (raw: { ends: Ends['ends']; from: number | Follows; to: number | Follows }) =>
  raw.ends === 'its own' && typeof raw.from === 'number' && raw.from === raw.to
    ? [{ code: 'ends', facts: { from: raw.from }, says: `scale minimum equals maximum (${raw.from})` }]
    : []
