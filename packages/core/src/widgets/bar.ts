import { noRect, type Rect } from '../base/index.ts'
import { oneOf } from '../describe/index.ts'
import { noFace, paintFace, solidOf } from '../faces/index.ts'
import { fillRounded, type Surface } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { isNumber, type Cell } from '../variables/index.ts'
import { shownVariable, numberTypes, growsTo, type Way } from './fields.ts'
import { along, endsFields, endsFindings, endsOf, zoneOf, zonesField, type Ends, type Zone } from './ends.ts'
import { plainFigures, seenOf, writeNumber } from './figures.ts'
import { kindOf, type Live } from './kind.ts'
import { paintPast } from './marks.ts'
import { faceType } from './setting-types.ts'
import { commonFields, dimmed } from './text-box.ts'

const isLying = (way: Way): boolean => way === 'right' || way === 'left'

interface Looks extends Ends {
  variable: Cell | null
  way: Way
  zones: readonly Zone[]
  zonesShow: 'beside' | 'in the bar' | 'both'
}

/** Zones are a stripe so far from the bar, and so wide; a chevron past its end is so long, px. */
const stripeGap = 3
const stripeWidth = 5
const chevron = 9

/** The bar itself: less the stripe of zones below it, and the room for a chevron at its far end. */
function barOf(place: Rect, s: Looks): { bar: Rect; stripe: Rect | null } {
  const besides = s.zones.length > 0 && s.zonesShow !== 'in the bar'
  const lying = isLying(s.way)
  const stripe = besides && (lying ? place.height : place.width) > 2 * (stripeGap + stripeWidth) ? stripeGap + stripeWidth : 0
  const end = (lying ? place.width : place.height) > 4 * chevron ? chevron + 2 : 0
  const far = s.way === 'left' || s.way === 'up'
  const bar = lying
    ? { x: place.x + (far ? end : 0), y: place.y, width: place.width - end, height: place.height - stripe }
    : { x: place.x, y: place.y + (far ? end : 0), width: place.width - stripe, height: place.height - end }
  const below = lying
    ? { ...bar, y: bar.y + bar.height + stripeGap, height: stripeWidth }
    : { ...bar, x: bar.x + bar.width + stripeGap, width: stripeWidth }
  return { bar, stripe: stripe ? below : null }
}

/** A part of a bar from one share of its length to another, along its way. */
function partOf(bar: Rect, way: Way, from: number, to: number): Rect {
  const length = isLying(way) ? bar.width : bar.height
  const [a, b] = [Math.round(length * from), Math.round(length * to)]
  if (way === 'right') return { ...bar, x: bar.x + a, width: b - a }
  if (way === 'left') return { ...bar, x: bar.x + length - b, width: b - a }
  return way === 'down' ? { ...bar, y: bar.y + a, height: b - a } : { ...bar, y: bar.y + length - b, height: b - a }
}

function seen(s: Looks, live: Live) {
  const cell = s.variable
  if (!cell) return null
  const now = seenOf(cell, live)
  return { ...now, ...along(endsOf(s, cell), Number(now.value)), number: Number(now.value), ends: endsOf(s, cell) }
}

export const bar = kindOf({
  kind: 'bar',
  label: 'Bar',
  meaning: 'bar graph',
  purpose: 'show',
  size: { width: 180, height: 26 },
  touchable: false,
  settings: described({
    variable: shownVariable(...numberTypes, 'choice'),
    way: growsTo,
    ...endsFields,
    zones: zonesField,
    zonesShow: {
      label: 'Zone display',
      type: oneOf({ beside: 'beside the bar', 'in the bar': 'in the bar', both: 'both' }),
      default: 'beside',
      group: 'Looks',
    },
    segments: { label: 'Segments', type: t.whole, default: 0, min: 0, max: 100, group: 'Looks', zero: 'none' },
    gap: { label: 'Segment gap', type: t.whole, default: 3, min: 0, max: 40, unit: 'px', group: 'Looks' },
    tip: { label: 'Tip', type: t.whole, default: 3, min: 0, max: 40, unit: 'px', group: 'Looks', zero: 'none' },
    face: { label: 'Face', type: faceType, default: { ...noFace, fill: 'colour:off', radius: 4 }, group: 'Looks' },
    colour: { label: 'Fill', type: t.colour, default: 'colour:accent', group: 'Looks', essential: true, follows: true },
    tipColour: { label: 'Tip colour', type: t.colour, default: 'colour:ink', group: 'Looks' },
    pastColour: { label: 'Out-of-range marker', type: t.colour, default: 'colour:warning', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ variable: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '%', min: 0, max: 100 } }),
  solid: (place, s) => (s.segments > 0 ? noRect : solidOf(s.face, barOf(place, s).bar)),
  paint(surface, place, s, live) {
    const { bar: whole, stripe } = barOf(place, s)
    const now = seen(s, live)
    const colourAt = (value: number) => (s.zonesShow === 'beside' ? s.colour : (zoneOf(s.zones, value)?.colour ?? s.colour))
    if (s.segments > 0) paintSegments(surface, whole, s, now, colourAt)
    else {
      paintFace(surface, whole, s.face)
      if (now && !now.unknown) {
        const filled = partOf(whole, s.way, 0, now.part)
        dimmed(surface, now.stale, () => {
          surface.within(filled, () => fillRounded(surface, whole, s.face.radius, colourAt(now.number)))
          if (s.tip && now.part > 0) paintTip(surface, whole, s, now.part)
        })
      }
    }
    if (stripe && now)
      for (const zone of s.zones) {
        const [a, b] = [along(now.ends, zone.from).part, along(now.ends, zone.to).part]
        surface.fill(partOf(stripe, s.way, Math.min(a, b), Math.max(a, b)), zone.colour)
      }
    if (now?.past && !now.unknown) paintMark(surface, place, whole, s.way, now.past, s.pastColour)
  },
  shows(s, live) {
    if (!s.variable) return '—'
    const { value, unknown, instead } = seenOf(s.variable, live)
    return unknown ? instead : writeNumber(s.variable.holds, Number(value), plainFigures, live.formats)
  },
  findings: (raw, holdsOf) => {
    const holds = holdsOf(raw.variable)
    const outside = holds && isNumber(holds) && raw.zones.find((z) => z.to < holds.min || z.from > holds.max)
    return [
      ...endsFindings(raw),
      ...(outside
        ? [
            {
              code: 'zone',
              facts: { from: outside.from, to: outside.to },
              says: `zone ${outside.from} to ${outside.to} is outside the range of the variable`,
            },
          ]
        : []),
    ]
  },
})

function paintTip(surface: Surface, whole: Rect, s: Looks & { tip: number; tipColour: number }, part: number): void {
  const length = isLying(s.way) ? whole.width : whole.height
  const from = Math.max(0, Math.round(length * part) - s.tip) / length
  surface.fill(partOf(whole, s.way, from, part), s.tipColour)
}

function paintSegments(
  surface: Surface,
  whole: Rect,
  s: Looks & { segments: number; gap: number; face: { fill: number; radius: number } },
  now: ReturnType<typeof seen>,
  colourAt: (value: number) => number,
): void {
  const length = isLying(s.way) ? whole.width : whole.height
  const lit = now && !now.unknown ? Math.round(now.part * s.segments) : 0
  for (let k = 0; k < s.segments; k++) {
    const [from, to] = [(k * (length + s.gap)) / s.segments, ((k + 1) * (length + s.gap)) / s.segments - s.gap]
    const box = partOf(whole, s.way, from / length, to / length)
    if (box.width < 1 || box.height < 1) continue
    const radius = Math.min(s.face.radius, 2)
    if (k < lit) {
      const middle = now!.ends[0] + ((now!.ends[1] - now!.ends[0]) * (k + 0.5)) / s.segments
      dimmed(surface, now!.stale, () => fillRounded(surface, box, radius, colourAt(middle)))
    } else if (s.face.fill >= 0) fillRounded(surface, box, radius, s.face.fill)
  }
}

/** A chevron beyond the end that a value lies past. */
function paintMark(surface: Surface, place: Rect, whole: Rect, way: Way, past: -1 | 1, colour: number): void {
  const forward = past > 0
  const to: Way = forward ? way : ({ right: 'left', left: 'right', up: 'down', down: 'up' } as const)[way]
  const lying = isLying(way)
  const tall = Math.min(lying ? whole.height : whole.width, 14)
  const cx = whole.x + Math.floor(whole.width / 2)
  const cy = whole.y + Math.floor(whole.height / 2)
  const box = lying
    ? { x: to === 'right' ? Math.min(place.x + place.width - chevron, whole.x + whole.width + 2) : Math.max(place.x, whole.x - chevron - 2), y: cy - Math.floor(tall / 2), width: chevron, height: tall }
    : { x: cx - Math.floor(tall / 2), y: to === 'down' ? Math.min(place.y + place.height - chevron, whole.y + whole.height + 2) : Math.max(place.y, whole.y - chevron - 2), width: tall, height: chevron } // prettier-ignore
  paintPast(surface, box, to, colour)
}
