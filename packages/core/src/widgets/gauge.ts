import { around, intersect, type Rect } from '../base/index.ts'
import { oneOf } from '../describe/index.ts'
import { noFace, paintFace, solidOf, type CompiledFace } from '../faces/index.ts'
import {
  atBearing,
  drawText,
  fillArc,
  fillPolygon,
  fillStroke,
  textWidth,
  type GlyphSheet,
  type Rgb565,
  type Surface,
} from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatDecimals, isNumber, shownIn, type Cell, type Holds, unitAfter } from '../variables/index.ts'
import { shownVariable, numberTypes } from './fields.ts'
import { along, endsFields, endsFindings, endsOf, zonesField, type Ends, type Zone } from './ends.ts'
import { numberLetters, plainFigures, seenOf, writeNumber } from './figures.ts'
import { kindOf, type Live } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonFields, dimmed, paintTextBox, sheetOf, textFields } from './text-box.ts'

const pointerTexts = { blade: 'needle', arc: 'arc', slit: 'slot' } as const

interface Looks extends Ends {
  variable: Cell | null
  pointer: keyof typeof pointerTexts
  start: number
  sweep: number
  zones: readonly Zone[]
  ticks: number
  band: number
  face: CompiledFace
  labels: string
  labelled: number
  labelFont: string | null
  labelColour: Rgb565
  ink: Rgb565
  bandColour: Rgb565
  pointerColour: Rgb565
  pointerWidth: number
  pointerInset: number
}

interface Round {
  cx: number
  cy: number
  /** To the outer edge of zones and ticks. */
  radius: number
}

/** The middle and the reach of a gauge; one that is not round is as large as the shorter side. */
function roundOf(place: Rect, { start, sweep }: Pick<Looks, 'start' | 'sweep'>): Round {
  const radius = Math.max(4, Math.min(place.width, place.height) / 2 - 1)
  // A gap below lets the middle stand lower, so that what is drawn stands in the middle of its place.
  const open = sweep < 300 && Math.abs(((start + sweep / 2) % 360) - 360) % 360 < 1
  return { cx: place.x + place.width / 2, cy: place.y + place.height / 2 + (open ? radius * 0.06 : 0), radius }
}

/** How wide the ring of zones is, and how far the band of an arc, or the ticks, stand inside it, px. */
const zoneWide = 5
const zoneGap = 4

const bandOf = (s: Looks, { radius }: Round): { outer: number; inner: number } => {
  const outer = radius - (s.zones.length ? zoneWide + zoneGap : 0)
  return { outer, inner: Math.max(1, outer - s.band) }
}

/** The square that its face fills. */
const boxOf = ({ cx, cy, radius }: Round): Rect => ({
  x: Math.round(cx - radius),
  y: Math.round(cy - radius),
  width: Math.round(2 * radius),
  height: Math.round(2 * radius),
})

export const gauge = kindOf({
  kind: 'gauge',
  label: 'Gauge',
  meaning: 'a value on a round scale',
  purpose: 'show',
  size: { width: 190, height: 180 },
  touchable: false,
  words: 'caption',
  settings: described({
    variable: shownVariable(...numberTypes),
    marker: {
      label: 'Second marker',
      type: t.variable,
      default: '',
      group: 'Shows',
      hint: 'for example the setpoint',
      accepts: ['u8', 'i8', 'u16', 'i16', 'u32', 'i32', 'f32'],
    },
    pointer: {
      label: 'Pointer',
      type: oneOf(pointerTexts),
      default: 'blade',
      group: 'Looks',
      essential: true,
    },
    ...endsFields,
    start: {
      label: 'Start angle',
      type: t.whole,
      default: 230,
      min: 0,
      max: 359,
      unit: '°',
      group: 'Looks',
      hint: 'clockwise from the top',
    },
    sweep: { label: 'Sweep angle', type: t.whole, default: 260, min: 20, max: 360, unit: '°', group: 'Looks' },
    zones: zonesField,
    ticks: { label: 'Ticks', type: t.whole, default: 26, min: 0, max: 121, group: 'Looks', zero: 'none' },
    labelled: { label: 'Labels', type: t.whole, default: 6, min: 0, max: 36, group: 'Looks', zero: 'none' },
    labels: {
      label: 'Label texts',
      type: t.text,
      default: '',
      group: 'Looks',
      hint: 'separated by commas; empty: the values',
    },
    labelFont: { label: 'Label font', type: t.font, default: 'style:caption', group: 'Looks' },
    labelColour: { label: 'Label colour', type: t.colour, default: 'colour:muted', group: 'Looks' },
    writes: { label: 'Show value', type: t.yesNo, default: true, group: 'Shows' },
    caption: { label: 'Caption', type: t.text, default: '', group: 'Shows', hint: 'below the value' },
    ...textFields('value', 'centre'),
    band: {
      label: 'Band width',
      type: t.whole,
      default: 14,
      min: 1,
      max: 200,
      unit: 'px',
      group: 'Looks',
      hint: 'arc, slot or ticks',
    },
    face: { label: 'Face', type: faceType, default: { ...noFace, shape: 'ellipse' }, group: 'Looks' },
    ink: { label: 'Tick colour', type: t.colour, default: 'colour:line', group: 'Looks' },
    bandColour: { label: 'Band colour (empty)', type: t.colour, default: 'colour:off', group: 'Looks' },
    pointerColour: {
      label: 'Pointer colour',
      type: t.colour,
      default: 'colour:ink',
      group: 'Looks',
      essential: true,
      follows: true,
    },
    pointerWidth: { label: 'Pointer width', type: t.whole, default: 12, min: 1, max: 200, unit: 'px', group: 'Looks' },
    pointerInset: {
      label: 'Pointer inset',
      type: t.whole,
      default: 0,
      min: 0,
      max: 400,
      unit: 'px',
      group: 'Looks',
      hint: 'slot: from the outer edge',
    },
    markerColour: { label: 'Second marker colour', type: t.colour, default: 'colour:accent', group: 'Looks' },
    pastColour: { label: 'Out-of-range marker', type: t.colour, default: 'colour:warning', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ variable: { type: 'u16', factor: 0.1, offset: 0, decimals: 1, unit: 'm/s', min: 0, max: 25 } }),
  solid: (place, s) => solidOf(s.face, boxOf(roundOf(place, s))),
  paint(surface, place, s, live) {
    const round = roundOf(place, s)
    const { cx, cy } = round
    paintFace(surface, boxOf(round), s.face)
    const cell = s.variable
    const now = cell && seenOf(cell, live)
    const ends = cell ? endsOf(s, cell) : ([s.from, s.to] as const)
    const { part, past } = along(ends, Number(now?.value ?? ends[0]))
    const isShown = now !== null && !now.unknown
    paintZones(surface, s, round, ends)
    const band = bandOf(s, round)
    if (s.pointer === 'arc') {
      fillArc(surface, { cx, cy, ...band, from: s.start, sweep: s.sweep }, s.bandColour)
      if (isShown)
        dimmed(surface, now.stale, () => {
          fillArc(surface, { cx, cy, ...band, from: s.start, sweep: s.sweep * part }, s.pointerColour)
        })
    }
    paintScale(surface, s, round, ends, cell?.holds ?? null, live.sheet(s.labelFont ?? ''), live)
    if (s.marker) {
      const target = seenOf(s.marker, live)
      if (!target.unknown) {
        const bearing = s.start + s.sweep * along(ends, Number(target.value)).part
        dimmed(surface, target.stale, () => paintMarker(surface, round, band.outer, bearing, s.markerColour))
      }
    }
    if (isShown && s.pointer !== 'arc')
      dimmed(surface, now.stale, () =>
        (s.pointer === 'blade' ? paintBlade : paintSlit)(surface, s, round, s.start + s.sweep * part),
      )
    if (s.writes) paintMiddle(surface, s, round, live, cell, now)
    if (past && isShown) paintPastEnd(surface, round, s.start + (past > 0 ? s.sweep : 0), past, s.pastColour)
  },
  moving(place, s, live) {
    const round = roundOf(place, s)
    const cell = s.variable
    if (!cell || s.pointer === 'arc') return place
    const ends = endsOf(s, cell)
    const bearingOf = (value: unknown) => s.start + s.sweep * along(ends, Number(value)).part
    const boxes = [
      pointerBox(s, round, bearingOf(live.read(cell).value)),
      ...(s.marker ? [markerBox(s, round, bearingOf(live.read(s.marker).value))] : []),
      ...(s.writes ? [middleBox(s, round, live)] : []),
      ...(along(ends, Number(live.read(cell).value)).past ? [place] : []),
    ]
    return intersect(boxes.reduce(around), place)
  },
  shows(s, live) {
    if (!s.variable) return '—'
    const { value, unknown, instead } = seenOf(s.variable, live)
    return unknown ? instead : writeNumber(s.variable.holds, Number(value), plainFigures, live.formats)
  },
  letters(s, holdsOf) {
    const holds = holdsOf(s.variable)
    return numberLetters(holds) + s.labels + s.caption
  },
  findings: (raw) => endsFindings(raw),
})

function paintZones(surface: Surface, s: Looks, { cx, cy, radius }: Round, ends: readonly [number, number]): void {
  for (const zone of s.zones) {
    const [a, b] = [along(ends, zone.from).part, along(ends, zone.to).part]
    const [from, to] = [Math.min(a, b), Math.max(a, b)]
    fillArc(
      surface,
      { cx, cy, inner: radius - zoneWide, outer: radius, from: s.start + s.sweep * from, sweep: s.sweep * (to - from) },
      zone.colour,
    )
  }
}

/** A triangle beyond an end of the scale, that points along it. */
function paintPastEnd(surface: Surface, { cx, cy, radius }: Round, end: number, past: -1 | 1, colour: Rgb565): void {
  const middle = radius - 7
  // So many degrees to a pixel along the ring.
  const step = (past * 180) / (3.141592653589793 * Math.max(8, middle))
  const tip = atBearing(cx, cy, middle, end + 15 * step)
  const [a, b] = [atBearing(cx, cy, middle + 6, end + 5 * step), atBearing(cx, cy, middle - 6, end + 5 * step)]
  fillPolygon(surface, [tip.x, tip.y, a.x, a.y, b.x, b.y], colour)
}

/** Ticks from the outer edge inwards, each labelled one longer; words or values inside of them. */
function paintScale(
  surface: Surface,
  s: Looks,
  round: Round,
  [from, to]: readonly [number, number],
  holds: Holds | null,
  sheet: GlyphSheet | null,
  live: Live,
): void {
  const { cx, cy } = round
  const { outer, inner } = bandOf(s, round)
  const isArc = s.pointer === 'arc'
  const whole = s.sweep >= 360
  const share = (k: number, n: number) => (n > 1 ? k / (whole ? n : n - 1) : 0)
  const reach = isArc ? 0 : Math.min(s.band, 12)
  if (!isArc)
    for (let k = 0; k < s.ticks; k++) {
      const bearing = s.start + s.sweep * share(k, s.ticks)
      fillStroke(surface, atBearing(cx, cy, outer - 1, bearing), atBearing(cx, cy, outer - reach * 0.5, bearing), 1.5, s.ink)
    }
  const words = s.labels ? s.labels.split(',').map((word) => word.trim()) : null
  for (let k = 0; k < s.labelled; k++) {
    const part = share(k, s.labelled)
    const bearing = s.start + s.sweep * part
    if (!isArc)
      fillStroke(surface, atBearing(cx, cy, outer - 1, bearing), atBearing(cx, cy, outer - reach, bearing), 2, s.labelColour)
    if (!sheet) continue
    const text = words ? (words[k] ?? '') : shortNumber(from + (to - from) * part, holds, live)
    const half = textWidth(sheet, text) / 2
    // A label is moved in by its own size, so that it clears the ring at any bearing.
    const edge = isArc ? inner : outer - reach
    if (isArc && !whole && s.sweep < 330 && (k === 0 || k === s.labelled - 1)) {
      // Both ends of an arc are written beyond it, where the number in the middle does not come.
      const end = atBearing(cx, cy, (outer + inner) / 2, bearing)
      const on = atBearing(0, 0, sheet.capHeight / 2 + 6, bearing + (k === 0 ? -90 : 90))
      const x = Math.round(end.x + on.x * 0.4 - half)
      drawText(surface, sheet, x, Math.round(end.y + Math.abs(on.y) + sheet.capHeight / 2), text, s.labelColour)
      continue
    }
    const way = atBearing(0, 0, 1, bearing)
    const clear = Math.abs(way.x) * half + Math.abs(way.y) * (sheet.capHeight / 2) + 4
    const at = atBearing(cx, cy, edge - clear, bearing)
    drawText(surface, sheet, Math.round(at.x - half), Math.round(at.y + sheet.capHeight / 2), text, s.labelColour)
  }
}

/** A value of the scale, with no more decimals than it needs. */
function shortNumber(value: number, holds: Holds | null, live: Live): string {
  const as = holds && shownIn(holds, live.formats.pairs)
  const most = as && isNumber(as.holds) ? as.holds.decimals : 2
  const text = formatDecimals(as ? as.shown(value) : value, most)
  const short = text.includes('.') ? text.replace(/\.?0+$/, '') : text
  return live.formats.comma ? short.replace('.', ',') : short
}

/** A blade that stands on the scale and leaves the middle to the number. */
function paintBlade(surface: Surface, s: Looks, round: Round, bearing: number): void {
  const { cx, cy } = round
  const { outer } = bandOf(s, round)
  const tip = atBearing(cx, cy, outer - 2, bearing)
  const foot = Math.max(0, outer - Math.max(18, outer * 0.34))
  const base = atBearing(cx, cy, foot, bearing)
  const side = atBearing(0, 0, s.pointerWidth / 2, bearing + 90)
  const narrow = atBearing(0, 0, 1, bearing + 90)
  fillPolygon(
    surface,
    [
      tip.x - narrow.x,
      tip.y - narrow.y,
      tip.x + narrow.x,
      tip.y + narrow.y,
      base.x + side.x,
      base.y + side.y,
      base.x - side.x,
      base.y - side.y,
    ],
    s.pointerColour,
  )
}

/** A block across the band, as an opening in a ring. */
function paintSlit(surface: Surface, s: Looks, round: Round, bearing: number): void {
  const { cx, cy } = round
  const outer = Math.max(2, bandOf(s, round).outer - s.pointerInset)
  const inner = Math.max(1, outer - s.band)
  const side = atBearing(0, 0, s.pointerWidth / 2, bearing + 90)
  const [a, b] = [atBearing(cx, cy, outer, bearing), atBearing(cx, cy, inner, bearing)]
  fillPolygon(
    surface,
    [a.x - side.x, a.y - side.y, a.x + side.x, a.y + side.y, b.x + side.x, b.y + side.y, b.x - side.x, b.y - side.y],
    s.pointerColour,
  )
}

/** A triangle that looks at the scale from outside. */
function paintMarker(surface: Surface, { cx, cy, radius }: Round, outer: number, bearing: number, colour: Rgb565): void {
  const tip = atBearing(cx, cy, Math.max(2, outer - 12), bearing)
  const base = atBearing(cx, cy, Math.min(radius, outer + 2), bearing)
  const side = atBearing(0, 0, 8, bearing + 90)
  fillPolygon(surface, [tip.x, tip.y, base.x + side.x, base.y + side.y, base.x - side.x, base.y - side.y], colour)
}

/** Whole pixels around some points, and one more for their smooth edges. */
function boxAround(points: readonly { x: number; y: number }[]): Rect {
  const xs = points.map((p) => p.x)
  const ys = points.map((p) => p.y)
  const [x, y] = [Math.floor(Math.min(...xs)) - 1, Math.floor(Math.min(...ys)) - 1]
  return { x, y, width: Math.ceil(Math.max(...xs)) + 2 - x, height: Math.ceil(Math.max(...ys)) + 2 - y }
}

/** Area of a needle or slot at a bearing: half its width to either side, between its two ends. */
function pointerBox(s: Looks, round: Round, bearing: number): Rect {
  const { cx, cy } = round
  const outer = bandOf(s, round).outer - (s.pointer === 'slit' ? s.pointerInset : 0)
  const inner = s.pointer === 'slit' ? outer - s.band : outer - Math.max(18, outer * 0.34)
  const side = atBearing(0, 0, s.pointerWidth / 2 + 1, bearing + 90)
  const [a, b] = [atBearing(cx, cy, Math.max(2, outer), bearing), atBearing(cx, cy, Math.max(0, inner), bearing)]
  return boxAround([a, b].flatMap((p) => [{ x: p.x + side.x, y: p.y + side.y }, { x: p.x - side.x, y: p.y - side.y }])) // prettier-ignore
}

function markerBox(s: Looks, round: Round, bearing: number): Rect {
  const { outer } = bandOf(s, round)
  const at = atBearing(round.cx, round.cy, outer - 5, bearing)
  return boxAround([{ x: at.x - 12, y: at.y - 12 }, { x: at.x + 12, y: at.y + 12 }]) // prettier-ignore
}

function middleBox(s: Looks & { font: string | null }, { cx, cy, radius }: Round, live: Live): Rect {
  const sheet = sheetOf(s, live)
  const tall = sheet ? sheet.ascent + sheet.descent : 0
  return boxAround([{ x: cx - radius * 0.7, y: cy - tall / 2 }, { x: cx + radius * 0.7, y: cy + tall / 2 + 1 }]) // prettier-ignore
}

/** The number in the middle, its unit and the caption below it. */
function paintMiddle(
  surface: Surface,
  s: Looks & { font: string | null; colour: Rgb565; caption: string },
  { cx, cy, radius }: Round,
  live: Live,
  cell: Cell | null,
  now: ReturnType<typeof seenOf> | null,
): void {
  const sheet = sheetOf(s, live)
  const small = live.sheet(s.labelFont ?? '')
  if (!sheet) return
  const { holds } = cell ?? {}
  const seen = holds && shownIn(holds, live.formats.pairs).holds
  const number = seen && isNumber(seen) ? seen : null
  const text =
    !holds || !now
      ? '—'
      : now.unknown
        ? now.instead
        : writeNumber(holds, Number(now.value), { ...plainFigures, unit: number?.unit.startsWith('°') ?? false }, live.formats)
  const beneath = [number && !number.unit.startsWith('°') ? unitAfter(number.unit).trim() : '', s.caption]
    .filter(Boolean)
    .join(' ')
  const wide = radius * 1.4
  const room = (y: number, height: number): Rect => ({
    x: Math.round(cx - wide / 2),
    y: Math.round(y),
    width: Math.round(wide),
    height,
  })
  const tall = sheet.ascent + sheet.descent
  const dim = now?.stale ?? false
  dimmed(surface, dim, () => paintTextBox(surface, room(cy - tall / 2, tall), sheet, text, { align: 'centre' }, s.colour))
  if (beneath && small)
    paintTextBox(
      surface,
      room(cy + tall / 2 - 4, small.ascent + small.descent),
      small,
      beneath,
      { align: 'centre' },
      s.labelColour,
    )
}
