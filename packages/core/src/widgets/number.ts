import { inset, type Rect } from '../base/index.ts'
import { faceCovers, paintFace, type CompiledFace } from '../faces/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatDecimals, formatValue, freshHolds, isNumber, type Cell, type Holds } from '../variables/index.ts'
import { kindOf, type Live } from './kind.ts'
import { valueFace } from './setting-types.ts'
import { commonFields, paintWords, textFields } from './text-box.ts'

/** Digits before the point that a value may take up; more show as `####`. */
function write(holds: Holds, value: number, digits: number, zeros: boolean, unit: boolean): string {
  if (!isNumber(holds)) return formatValue(holds, value)
  const bare = formatDecimals(Math.abs(value), holds.decimals)
  const sign = value < 0 && Number(bare) !== 0 ? '-' : ''
  const [whole = '', rest] = bare.split('.')
  if (whole.length > digits) return hashes(holds, digits, unit)
  const padded = zeros ? whole.padStart(digits, '0') : whole
  return sign + padded + (rest === undefined ? '' : `.${rest}`) + (unit && holds.unit ? unitAfter(holds.unit) : '')
}

/** A degree sign stands at the number, other units after a blank. */
const unitAfter = (unit: string): string => (unit.startsWith('°') ? unit : ` ${unit}`)

const hashes = (holds: Holds, digits: number, unit: boolean): string =>
  '####'.slice(0, Math.max(2, digits)) + (unit && isNumber(holds) && holds.unit ? unitAfter(holds.unit) : '')

interface Looks {
  variable: Cell | null
  digits: number
  zeros: boolean
  unit: boolean
}

function textOf(s: Looks, live: Live): { text: string; stale: boolean } {
  const cell = s.variable
  if (!cell) return { text: '—', stale: false }
  const { value, inRange, stale } = live.read(cell)
  const [digits, zeros, unit] = [s.digits, s.zeros, s.unit]
  if (stale && cell.stale?.shows === 'dashes') return { text: '---', stale }
  if (!inRange && cell.holds.type !== 'time') return { text: hashes(cell.holds, digits, unit), stale }
  return { text: write(cell.holds, Number(value), digits, zeros, unit), stale }
}

/** Digits before the point that the ends of a range need. */
const digitsNeeded = (holds: Holds): number =>
  isNumber(holds)
    ? Math.max(...[holds.min, holds.max].map((v) => formatDecimals(Math.abs(v), holds.decimals).split('.')[0]!.length))
    : 1

/** What a number may be written with, besides its unit and words; the blank is before the unit. */
export const numberLetters = '0123456789-.:#— '

export const number = kindOf({
  kind: 'number',
  label: 'Number',
  meaning: 'the value of a variable in digits',
  size: { width: 150, height: 52 },
  touchable: false,
  settings: described({
    variable: {
      label: 'Variable',
      type: t.variable,
      default: '',
      group: 'Shows',
      essential: true,
      accepts: ['u16', 'i16', 'u32', 'i32', 'f32', 'choice', 'time'],
    },
    digits: {
      label: 'Digits',
      type: t.whole,
      default: 3,
      min: 1,
      max: 15,
      group: 'Shows',
      essential: true,
    },
    zeros: { label: 'Leading zeros', type: t.yesNo, default: false, group: 'Shows' },
    unit: { label: 'With its unit', type: t.yesNo, default: true, group: 'Shows' },
    ...textFields('value', 'left'),
    face: valueFace,
    ...commonFields,
  }),
  fresh: () => ({ settings: { digits: 5 }, variable: freshHolds('u16') }),
  paint(surface, place, s, live) {
    paintFace(surface, place, s.face)
    const { text, stale } = textOf(s, live)
    paintWords(surface, movingOf(place, s), s, live, text, stale)
  },
  shows: (s, live) => textOf(s, live).text,
  moving: movingOf,
  covers: (place, s, area) => faceCovers(s.face, place, area),
  letters(s, holdsOf) {
    const holds = holdsOf(s.variable)
    const words = holds?.type === 'choice' ? holds.choices.map((c) => c.word).join('') : ''
    return numberLetters + words + (holds && isNumber(holds) ? holds.unit : '')
  },
  findings({ variable, digits }, holdsOf) {
    const holds = holdsOf(variable)
    const needed = holds && isNumber(holds) ? Math.min(15, digitsNeeded(holds)) : 0
    if (digits >= needed) return []
    const says = `it shows ${digits} digits before the point; its range needs ${needed}`
    return [
      {
        code: 'digits',
        facts: { digits, needed },
        says,
        mends: { label: `Give it ${needed} digits`, values: { digits: needed } },
      },
    ]
  },
  widest(s, holdsOf) {
    const holds = holdsOf(s.variable)
    if (holds?.type === 'time') return ['88:88:88']
    if (!holds || !isNumber(holds)) return holds?.type === 'choice' ? holds.choices.map((c) => c.word) : []
    return [holds.min, holds.max].map((v) => write(holds, v, 15, s.zeros, s.unit).replace(/\d/g, '8'))
  },
})

/** The text keeps clear of border and round corners, so that the face alone is behind what changes. */
function movingOf(place: Rect, { face }: { face: CompiledFace }): Rect {
  return inset(place, face.border < 0 && face.fill < 0 ? 0 : Math.max(face.borderWidth, Math.ceil(face.radius * 0.3)))
}
