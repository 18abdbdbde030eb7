import { inset, type Rect } from '../base/index.ts'
import { oneOf } from '../describe/index.ts'
import { paintFace, solidOf, type CompiledFace } from '../faces/index.ts'
import { textWidth } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { freshHolds, isNumber, type Cell, type Holds } from '../variables/index.ts'
import { shownVariable, numberTypes } from './fields.ts'
import { zoneOf, zonesField, type Zone } from './ends.ts'
import { digitsNeeded, numberLetters, seenOf, writeNumber, type Figures } from './figures.ts'
import { kindOf, plainFormats, type Found, type Live } from './kind.ts'
import { paintPast } from './marks.ts'
import { valueFace } from './setting-types.ts'
import { commonFields, paintWords, sheetOf, textFields, textMargin } from './text-box.ts'

interface Looks extends Figures {
  variable: Cell | null
  zones: readonly Zone[]
  noValue: number
  noValueWord: string
  colour: number
}

interface Written {
  text: string
  stale: boolean
  /** It lies before its range (−1) or beyond it (1). */
  past: -1 | 0 | 1
  colour: number
}

function written(s: Looks, live: Live): Written {
  const plain = { stale: false, past: 0 as const, colour: s.colour }
  const cell = s.variable
  if (!cell) return { ...plain, text: '—' }
  const { value, stale, unknown, instead } = seenOf(cell, live)
  if (unknown) return { ...plain, text: instead, stale }
  const { holds } = cell
  if (s.noValueWord && value === s.noValue)
    return { ...plain, text: s.noValueWord, stale, colour: zoneOf(s.zones, s.noValue)?.colour ?? s.colour }
  const number = Number(value)
  const past = isNumber(holds) ? (number < holds.min ? -1 : number > holds.max ? 1 : 0) : 0
  const text = writeNumber(holds, number, s, live.formats)
  return { text, stale, past, colour: zoneOf(s.zones, number)?.colour ?? s.colour }
}

/** Room for the mark of a value past its end, px. */
const markRoom = 16

export const number = kindOf({
  kind: 'number',
  label: 'Number',
  meaning: 'value of a variable in digits',
  purpose: 'show',
  size: { width: 150, height: 44 },
  touchable: false,
  settings: described({
    variable: shownVariable(...numberTypes, 'choice', 'time', 'flags'),
    digits: {
      label: 'Digits',
      type: t.whole,
      default: 3,
      min: 1,
      max: 16,
      group: 'Shows',
      essential: true,
    },
    zeros: { label: 'Leading zeros', type: t.yesNo, default: false, group: 'Shows' },
    unit: { label: 'Show unit', type: t.yesNo, default: true, group: 'Shows' },
    sign: { label: 'Show plus sign', type: t.yesNo, default: false, group: 'Shows' },
    thousands: { label: 'Thousands separator', type: t.yesNo, default: false, group: 'Shows' },
    base: {
      label: 'Number base',
      type: oneOf({ decimal: 'decimal', hex: 'hexadecimal', binary: 'binary' }),
      default: 'decimal',
      group: 'Shows',
    },
    zones: { ...zonesField, label: 'Colour by range' },
    noValueWord: {
      label: 'Text for no value',
      type: t.text,
      default: '',
      group: 'Shows',
      hint: 'for one value of this widget; a variable may define it for all',
    },
    noValue: { label: '“No value” code', type: t.number, default: 0, group: 'Shows', of: { variable: 'variable', as: 'value' } },
    ...textFields('value', 'left'),
    pastColour: { label: 'Out-of-range marker', type: t.colour, default: 'colour:warning', group: 'Looks' },
    face: valueFace,
    ...commonFields,
  }),
  fresh: () => ({ settings: { digits: 5 }, variable: freshHolds('u16') }),
  paint(surface, place, s, live) {
    paintFace(surface, place, s.face)
    const { text, stale, past, colour } = written(s, live)
    const box = movingOf(place, s)
    const room = past ? { ...box, width: Math.max(0, box.width - markRoom), x: box.x + (past < 0 ? markRoom : 0) } : box
    paintWords(surface, room, s, live, text, stale, colour)
    const sheet = sheetOf(s, live)
    if (!past || !sheet) return
    // The mark stands beside the words.
    const wide = textWidth(sheet, text) + 2 * textMargin
    const free = Math.max(0, room.width - wide)
    const left = room.x + (s.align === 'left' ? 0 : s.align === 'right' ? free : free / 2)
    const x = Math.round(past > 0 ? Math.min(left + wide, room.x + room.width) : Math.max(left - 12, box.x))
    const mark = { x, y: Math.floor(box.y + (box.height - sheet.capHeight) / 2), width: 9, height: sheet.capHeight }
    surface.within(box, () => paintPast(surface, mark, past > 0 ? 'right' : 'left', s.pastColour))
  },
  shows: (s, live) => written(s, live).text,
  moving: movingOf,
  solid: (place, s) => solidOf(s.face, place),
  letters(s, holdsOf) {
    const holds = holdsOf(s.variable)
    const words = holds?.type === 'choice' ? holds.choices.map((c) => c.word).join('') : ''
    return numberLetters(holds) + s.noValueWord + words
  },
  findings({ variable, digits, base, unit }, holdsOf) {
    const holds = holdsOf(variable)
    const needed = holds && isNumber(holds) && base === 'decimal' ? Math.min(15, digitsNeeded(holds)) : 0
    const scaled = holds && isNumber(holds) && unit && holds.unit !== '' && base !== 'decimal'
    const found: Found[] = []
    if (digits < needed)
      found.push({
        code: 'digits',
        facts: { digits, needed },
        says: `${digits} digits before the point; the range needs ${needed}`,
        mends: { label: `Give it ${needed} digits`, values: { digits: needed } },
      })
    if (scaled)
      found.push({
        code: 'base-unit',
        facts: { base },
        says: `${base} digits with the unit ${holds.unit}`,
        mends: { label: 'Remove unit', values: { unit: false } },
      })
    return found
  },
  widest(s, holdsOf) {
    const holds = holdsOf(s.variable)
    if (holds?.type === 'time') return ['88:88:88']
    if (!holds || !isNumber(holds)) return holds?.type === 'choice' ? holds.choices.map((c) => c.word) : []
    return widestOf(holds, { ...s, digits: 15 })
  },
})

const widestOf = (holds: Holds, figures: Figures): string[] =>
  isNumber(holds) ? [holds.min, holds.max].map((v) => writeNumber(holds, v, figures, plainFormats).replace(/\d/g, '8')) : []

/** The text keeps clear of border and round corners, so that the face alone is behind what changes. */
function movingOf(place: Rect, { face }: { face: CompiledFace }): Rect {
  return inset(place, face.border < 0 && face.fill < 0 ? 0 : Math.max(face.borderWidth, Math.ceil(face.radius * 0.3)))
}
