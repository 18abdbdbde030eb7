import { roundHalfAway, tenTo, type Rect } from '../base/index.ts'
import { noFace, paintFace } from '../faces/index.ts'
import { fillStroke } from '../raster/index.ts'
import type { Effect } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatDecimals, isNumber, type Cell, type Holds } from '../variables/index.ts'
import { touchedVariable, numberTypes } from './fields.ts'
import { rangeOf } from './ends.ts'
import { digitsNeeded, numberLetters, seenOf } from './figures.ts'
import { kindOf } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonFields, dimmed, paintTextBox, sheetOf, textFields, touchFields } from './text-box.ts'

/** Which digit is being stepped, from the left, and which way; null: none. */
interface Held {
  digit: number | null
  up: boolean
}

/** One place of the row: a digit with the power of ten that it steps by, the point, or the sign. */
type Place = { is: 'digit'; power: number; box: Rect } | { is: 'point' | 'sign'; box: Rect }

const decimalsOf = (holds: Holds): number => (isNumber(holds) ? holds.decimals : 0)

/** The row of digits in its place: all of one width, the point and the sign less. */
function rowOf(place: Rect, holds: Holds | undefined): Place[] {
  if (!holds) return []
  const decimals = decimalsOf(holds)
  const whole = Math.min(9, digitsNeeded(holds))
  const signed = rangeOf(holds)[0] < 0
  const small = 0.45
  const parts: ('sign' | 'point' | number)[] = [
    ...(signed ? (['sign'] as const) : []),
    ...Array.from({ length: whole }, (_, k) => whole - 1 - k),
    ...(decimals ? (['point'] as const) : []),
    ...Array.from({ length: decimals }, (_, k) => -1 - k),
  ]
  const units = parts.reduce<number>((sum, part) => sum + (typeof part === 'number' ? 1 : small), 0)
  const pitch = place.width / units
  const tall = Math.round(place.height * 0.5)
  const y = place.y + Math.round((place.height - tall) / 2)
  let at = 0
  return parts.map((part): Place => {
    const from = Math.round(place.x + at * pitch)
    at += typeof part === 'number' ? 1 : small
    const to = Math.round(place.x + at * pitch)
    if (typeof part === 'number')
      return { is: 'digit', power: part, box: { x: from + 2, y, width: Math.max(1, to - from - 4), height: tall } }
    return { is: part, box: { x: from, y, width: Math.max(1, to - from), height: tall } }
  })
}

/** The value one step of a digit further; at its end it stops. Carries are those of adding. */
function steppedBy(cell: Cell, now: number, power: number, up: boolean): number {
  const [min, max] = rangeOf(cell.holds)
  const by = power < 0 ? 1 / tenTo(-power) : tenTo(power)
  const next = roundHalfAway((now + (up ? by : -by)) * 1e9) / 1e9
  return Math.min(max, Math.max(min, next))
}

export const digits = kindOf({
  kind: 'digits',
  label: 'Digits',
  meaning: 'digit-by-digit entry',
  purpose: 'touch',
  size: { width: 150, height: 84 },
  touchable: true,
  settings: described({
    variable: touchedVariable(...numberTypes),
    ...touchFields(true),
    ...textFields('value', 'centre'),
    face: {
      label: 'Digit face',
      type: faceType,
      default: { ...noFace, fill: 'colour:surface', border: 'colour:line', borderWidth: 1, radius: 5 },
      group: 'Looks',
    },
    heldFace: {
      label: 'Active face',
      type: faceType,
      default: { ...noFace, fill: 'colour:accent tint', border: 'colour:accent', borderWidth: 2, radius: 5 },
      group: 'Looks',
    },
    arrowColour: { label: 'Arrow colour', type: t.colour, default: 'colour:muted', group: 'Looks' },
    heldColour: { label: 'Active arrow colour', type: t.colour, default: 'colour:accent', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ variable: { type: 'u16', factor: 0.1, offset: 0, decimals: 1, unit: '', min: 0, max: 359.9 } }),
  state: (): Held => ({ digit: null, up: true }),
  touch(gesture, place, s, held, live): Effect[] {
    const cell = s.variable
    if (gesture.kind === 'up' || gesture.kind === 'cancelled' || gesture.kind === 'slid off') held.digit = null
    if (!cell || gesture.kind !== 'down') return []
    const row = rowOf(place, cell.holds)
    const index = row.findIndex(({ is, box }) => is === 'digit' && gesture.x >= box.x - 2 && gesture.x < box.x + box.width + 2)
    const found = row[index]
    if (found?.is !== 'digit') return []
    held.digit = index
    held.up = gesture.y < place.y + place.height / 2
    const now = Number(live.read(cell).value)
    const value = steppedBy(cell, Number.isNaN(now) ? 0 : now, found.power, held.up)
    return [{ do: 'write', cell, value, last: true }]
  },
  paint(surface, place, s, live, held) {
    const cell = s.variable
    const sheet = sheetOf(s, live)
    if (!cell) return paintTextBox(surface, place, sheet, '—', { align: 'centre' }, s.colour)
    const { value, stale, unknown } = seenOf(cell, live)
    const number = Number(value)
    const row = rowOf(place, cell.holds)
    const bare = formatDecimals(Math.abs(number), decimalsOf(cell.holds)).replace('.', '')
    const count = row.filter(({ is }) => is === 'digit').length
    const letters = unknown ? '-'.repeat(count) : bare.length > count ? '#'.repeat(count) : bare.padStart(count, '0')
    let at = 0
    row.forEach((part, k) => {
      const mine =
        part.is === 'digit' ? letters[at++]! : part.is === 'point' ? (live.formats.comma ? ',' : '.') : number < 0 ? '-' : ''
      const isHeld = held.digit === k
      if (part.is === 'digit') {
        dimmed(surface, !live.enabled, () => paintFace(surface, part.box, isHeld ? s.heldFace : s.face))
        for (const up of [true, false])
          arrow(surface, place, part.box, up, isHeld && held.up === up ? s.heldColour : s.arrowColour)
      }
      const room = { ...part.box, x: part.box.x - 6, width: part.box.width + 12 }
      surface.within(part.is === 'digit' ? part.box : room, () =>
        dimmed(surface, stale || !live.enabled, () => paintTextBox(surface, room, sheet, mine, { align: 'centre' }, s.colour)),
      )
    })
  },
  shows(s, live) {
    if (!s.variable) return '—'
    const { value, unknown, instead } = seenOf(s.variable, live)
    return unknown ? instead : formatDecimals(Number(value), decimalsOf(s.variable.holds))
  },
  letters: () => numberLetters(null),
  /** One arrow above each digit, one below: each has half of the height. */
  targets: (place, raw, holdsOf) =>
    rowOf(place, holdsOf(raw.variable) ?? undefined).flatMap(({ is, box }) =>
      is === 'digit' ? [{ x: box.x - 2, y: place.y, width: box.width + 4, height: place.height / 2 }] : [],
    ),
})

/** A small chevron above or below a digit. */
function arrow(surface: Parameters<typeof fillStroke>[0], place: Rect, box: Rect, up: boolean, colour: number): void {
  const room = up ? box.y - place.y : place.y + place.height - box.y - box.height
  const reach = Math.min(6, box.width / 4, room / 3)
  if (reach < 2) return
  const cx = box.x + box.width / 2
  const cy = up ? place.y + room / 2 : box.y + box.height + room / 2
  const tip = { x: cx, y: up ? cy - reach / 2 : cy + reach / 2 }
  for (const way of [-1, 1]) fillStroke(surface, { x: cx + way * reach, y: up ? cy + reach / 2 : cy - reach / 2 }, tip, 2, colour)
}
