import type { Rect } from '../base/index.ts'
import { listOf, oneOf } from '../describe/index.ts'
import { paintFace, solidOf } from '../faces/index.ts'
import { fillRounded, type GlyphSheet, type Rgb565, type Surface } from '../raster/index.ts'
import type { Effect } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatTime, unknownTime, type Cell } from '../variables/index.ts'
import { framedFace } from './fields.ts'
import { kindOf, type Live } from './kind.ts'
import { paintWeight } from './marks.ts'
import { commonFields, paintTextBox, sheetOf, textFields, touchFields } from './text-box.ts'

const weightTexts = { light: 'low', middle: 'medium', heavy: 'high' } as const
type Weight = keyof typeof weightTexts
/** From the lowest. */
const weights = Object.keys(weightTexts) as Weight[]

const alarm = described({
  text: { label: 'Text', type: t.text, default: 'Alarm', group: 'Alarm' },
  variable: {
    label: 'Variable',
    type: t.variable,
    default: '',
    group: 'Alarm',
    accepts: ['flags', 'choice', 'u8', 'i8', 'u16', 'i16', 'u32', 'i32'],
  },
  bit: {
    label: 'Bit',
    type: t.whole,
    default: -1,
    min: -1,
    max: 15,
    group: 'Alarm',
    of: { variable: 'variable', as: 'bit' },
  },
  weight: { label: 'Priority', type: oneOf(weightTexts), default: 'middle', group: 'Alarm' },
})

interface Alarm {
  text: string
  variable: Cell | null
  bit: number
  weight: Weight
}

/** State of one alarm. `order` counts comings: the newest has the most. */
interface Kept {
  active: boolean
  seen: boolean
  /** When it came, seconds of the day; `unknownTime` where the panel does not know the time. */
  at: number
  order: number
}

interface State {
  alarms: Kept[]
  came: number
  down: number | null
}

interface Looks {
  alarms: readonly Alarm[]
  order: 'newest first' | 'heaviest first'
  activeIn: Cell | null
  seenIn: Cell | null
  clock: Cell | null
  beepMs: number
  opens: number | null
  rowHeight: number
  keepsOver: boolean
}

const isActive = ({ variable, bit }: Alarm, live: Live): boolean => {
  if (!variable) return false
  const value = Number(live.read(variable).value)
  return bit < 0 ? value !== 0 && !Number.isNaN(value) : ((value >> bit) & 1) === 1
}

const bitOf = (cell: Cell | null, k: number, live: Live): boolean =>
  cell !== null && k < 16 && ((Number(live.read(cell).value) >> k) & 1) === 1
const setBit = (cell: Cell | null, k: number, to: boolean, live: Live): Effect[] =>
  cell && k < 16 && bitOf(cell, k, live) !== to ? [{ do: 'bits', cell, mask: 1 << k, bits: to ? 1 << k : 0 }] : []

/** The alarms to be listed, as they are ordered: what is active, and what is over and not yet seen. */
function listed(s: Looks, state: State): { alarm: Alarm; kept: Kept; k: number }[] {
  const all = s.alarms.flatMap((one, k) => {
    const kept = state.alarms[k]
    return kept && (kept.active || (s.keepsOver && !kept.seen && kept.order > 0)) ? [{ alarm: one, kept, k }] : []
  })
  const weight = ({ alarm: one }: (typeof all)[number]) => weights.indexOf(one.weight)
  return all.sort((a, b) =>
    s.order === 'heaviest first' ? weight(b) - weight(a) || b.kept.order - a.kept.order : b.kept.order - a.kept.order,
  )
}

const pad = 4
const rowAt = (place: Rect, s: Looks, y: number): number => Math.floor((y - place.y - pad) / s.rowHeight)

const fresh = (count: number): State => ({
  alarms: Array.from({ length: count }, () => ({ active: false, seen: true, at: unknownTime, order: 0 })),
  came: 0,
  down: null,
})

export const alarms = kindOf({
  kind: 'alarms',
  label: 'Alarm list',
  meaning: 'active and acknowledged alarms with time',
  purpose: 'show',
  size: { width: 300, height: 124 },
  touchable: true,
  settings: described({
    alarms: { label: 'Alarms', type: listOf('alarms', 'item', alarm, 32), default: [], group: 'Shows', essential: true },
    order: {
      label: 'Order',
      type: oneOf({ 'newest first': 'newest first', 'heaviest first': 'highest first' }),
      default: 'newest first',
      group: 'Shows',
    },
    keepsOver: { label: 'Keep cleared alarms until acknowledged', type: t.yesNo, default: true, group: 'Shows' },
    activeIn: {
      label: 'Active bits to',
      type: t.written,
      default: '',
      group: 'Host',
      accepts: ['flags'],
      hint: 'one bit for each alarm in order; the panel sets it',
    },
    seenIn: {
      label: 'Acknowledged bits to',
      type: t.touched,
      default: '',
      group: 'Host',
      accepts: ['flags'],
      hint: 'one bit for each alarm; set by a touch or the host',
    },
    beepMs: {
      label: 'Beep duration',
      type: t.whole,
      default: 200,
      min: 0,
      max: 5000,
      unit: 'ms',
      zero: 'never',
      group: 'New alarm',
    },
    opens: { label: 'Opens', type: t.page, default: '', group: 'New alarm', hint: 'a page or a pop-up' },
    clock: { label: 'Time variable', type: t.variable, default: 'variable:own-clock', accepts: ['time'], group: 'Shows' },
    none: { label: 'Text if empty', type: t.text, default: 'No alarms', group: 'Shows' },
    rowHeight: { label: 'Row height', type: t.whole, default: 29, min: 16, max: 200, unit: 'px', group: 'Looks' },
    ...touchFields(true),
    ...textFields('caption', 'left'),
    face: framedFace,
    mutedColour: { label: 'Acknowledged, time colour', type: t.colour, default: 'colour:muted', group: 'Looks' },
    lightColour: { label: 'Low colour', type: t.colour, default: 'colour:accent', group: 'Looks' },
    middleColour: { label: 'Medium colour', type: t.colour, default: 'colour:warning', group: 'Looks' },
    heavyColour: { label: 'High colour', type: t.colour, default: 'colour:bad', group: 'Looks' },
    heavyRow: { label: 'High background', type: t.colour, default: 'colour:bad tint', group: 'Looks' },
    ground: { label: 'Marker symbol colour', type: t.colour, default: 'colour:surface', group: 'Looks' },
    ...commonFields,
  }),
  picture: (variable) => ({
    settings: {
      alarms: [
        { text: 'Rain', variable, bit: 0, weight: 'heavy' },
        { text: 'Wind', variable, bit: 1, weight: 'middle' },
        { text: 'Dew', variable, bit: 2, weight: 'light' },
      ],
    },
    holds: { type: 'flags', names: ['rain', 'wind', 'dew'] },
    value: 7,
  }),
  state: (s): State => fresh(s.alarms.length),
  keeps: (state, s) => (state.alarms.length === s.alarms.length ? state : fresh(s.alarms.length)),
  noticed(s, state, live): Effect[] {
    const effects: Effect[] = []
    let comes = false
    s.alarms.forEach((one, k) => {
      const kept = state.alarms[k]
      if (!kept) return
      const active = isActive(one, live)
      if (active && !kept.active) {
        Object.assign(kept, {
          active,
          seen: false,
          order: ++state.came,
          at: s.clock ? Number(live.read(s.clock).value) : unknownTime,
        })
        comes = true
        effects.push(...setBit(s.activeIn, k, true, live), ...setBit(s.seenIn, k, false, live))
      } else if (!active && kept.active) {
        kept.active = false
        effects.push(...setBit(s.activeIn, k, false, live))
      } else if (s.seenIn && !kept.seen && bitOf(s.seenIn, k, live)) kept.seen = true
    })
    if (!comes) return effects
    if (s.beepMs) effects.push({ do: 'beep', ms: s.beepMs })
    effects.push({ do: 'wake' })
    if (s.opens !== null) effects.push({ do: 'open', number: s.opens })
    return effects
  },
  touch(gesture, place, s, state, live): Effect[] {
    if (gesture.kind === 'down') state.down = rowAt(place, s, gesture.y)
    const { down } = state
    if (gesture.kind === 'up' || gesture.kind === 'cancelled' || gesture.kind === 'slid off') state.down = null
    if (gesture.kind !== 'up' || !gesture.inside || down === null || rowAt(place, s, gesture.y) !== down) return []
    const found = listed(s, state)[down]
    if (!found || found.kept.seen) return []
    found.kept.seen = true
    return setBit(s.seenIn, found.k, true, live)
  },
  solid: (place, s) => solidOf(s.face, place),
  paint(surface, place, s, live, state) {
    const sheet = sheetOf(s, live)
    paintFace(surface, place, s.face)
    const inner = {
      x: place.x + pad,
      y: place.y + pad,
      width: Math.max(0, place.width - 2 * pad),
      height: Math.max(0, place.height - 2 * pad),
    }
    const rows = listed(s, state)
    const colours: Record<Weight, Rgb565> = { light: s.lightColour, middle: s.middleColour, heavy: s.heavyColour }
    const fits = Math.max(1, Math.floor(inner.height / s.rowHeight))
    const more = rows.length - fits
    const shown = more > 0 ? rows.slice(0, fits - 1) : rows
    surface.within(inner, () => {
      shown.forEach(({ alarm: one, kept }, k) => {
        const box = { ...inner, y: inner.y + k * s.rowHeight, height: s.rowHeight }
        const isHeavy = one.weight === 'heavy' && kept.active && !kept.seen
        if (isHeavy) fillRounded(surface, box, 4, s.heavyRow)
        paintRow(surface, box, sheet, one, kept, { ...s, mark: colours[one.weight], ground: isHeavy ? s.heavyRow : s.ground })
      })
      if (more > 0) {
        const box = { ...inner, y: inner.y + shown.length * s.rowHeight, height: s.rowHeight }
        paintTextBox(surface, box, sheet, `${more + 1} more`, { align: 'centre' }, s.mutedColour)
      }
      if (!rows.length) paintTextBox(surface, inner, sheet, s.none, { align: 'centre' }, s.mutedColour)
    })
  },
  shows: (s, _live, state) =>
    listed(s, state)
      .map(({ alarm: one }) => one.text)
      .join(', ') || s.none,
  letters: (s) => `0123456789:-# moreseenv${s.none}${s.alarms.map((a) => a.text).join('')}`,
  widest: (s) => s.alarms.map(({ text }) => `${text}    88:88`),
  findings: (raw) => {
    const lost = raw.alarms.find(({ variable }) => variable === '')
    return [
      ...(raw.alarms.length ? [] : [{ code: 'no-alarms', facts: {}, says: 'no alarms' }]),
      ...(lost ? [{ code: 'alarm-nothing', facts: {}, says: `alarm “${lost.text}” has no variable` }] : []),
    ]
  },
})

function paintRow(
  surface: Surface,
  box: Rect,
  sheet: GlyphSheet | null,
  { text, weight }: Alarm,
  { active, seen, at }: Kept,
  s: { colour: Rgb565; mutedColour: Rgb565; mark: Rgb565; ground: Rgb565 },
): void {
  const fill = active && !seen
  paintWeight(surface, box.x + 16, box.y + Math.floor(box.height / 2), 9, active ? weight : 'light', fill, s.mark, s.ground)
  const words = { ...box, x: box.x + 27, width: Math.max(0, box.width - 27) }
  const time = at === unknownTime ? '--:--' : formatTime(at).slice(0, 5)
  const told = active ? (seen ? 'seen ' : '') : 'over '
  paintTextBox(surface, words, sheet, text, { align: 'left' }, fill ? s.colour : s.mutedColour)
  paintTextBox(surface, words, sheet, `${told}${time}`, { align: 'right' }, s.mutedColour)
}
