import {
  formatDecimals,
  formatTime,
  formatValue,
  isNumber,
  noneWord,
  shownIn,
  unitAfter,
  type Cell,
  type Holds,
  type Value,
} from '../variables/index.ts'
import type { Formats, Live } from './kind.ts'

/** How a number is written. */
export interface Figures {
  /** Digits before the point that there is room for. */
  digits: number
  zeros: boolean
  unit: boolean
  sign: boolean
  thousands: boolean
  base: 'decimal' | 'hex' | 'binary'
}

export const plainFigures: Figures = { digits: 15, zeros: false, unit: true, sign: false, thousands: false, base: 'decimal' }

const unitOf = (holds: Holds, { unit }: Figures): string => (unit && isNumber(holds) && holds.unit ? unitAfter(holds.unit) : '')

/** Thin blanks are in no typeface we can count on: groups of three stand a full blank apart. */
const grouped = (whole: string): string => whole.replace(/\B(?=(\d{3})+$)/g, ' ')

/** A value as it stands on the glass: `-12.5 m/s`, `1 204`, `0x1F`; `####` where it needs more digits than there is room for. */
export function writeNumber(holds: Holds, value: number, f: Figures, formats: Formats): string {
  const none = noneWord(holds, value)
  if (none !== null) return none
  const as = shownIn(holds, f.base === 'decimal' ? formats.pairs : [])
  return written(as.holds, as.shown(value), f, formats)
}

function written(holds: Holds, value: number, f: Figures, formats: Formats): string {
  if (holds.type === 'time') return formatTime(value)
  if (!isNumber(holds) && holds.type !== 'flags') return formatValue(holds, value)
  if (!Number.isFinite(value)) return '####'.slice(0, Math.max(2, f.digits)) + unitOf(holds, f)
  const sign = (negative: boolean) => (negative ? '-' : f.sign ? '+' : '')
  if (f.base !== 'decimal') {
    const whole = Math.round(Math.abs(value))
    const digits = whole.toString(f.base === 'hex' ? 16 : 2).toUpperCase()
    if (digits.length > f.digits) return '####'.slice(0, Math.max(2, f.digits))
    return sign(value < 0 && whole !== 0) + (f.zeros ? digits.padStart(f.digits, '0') : digits) + unitOf(holds, f)
  }
  const bare = formatDecimals(Math.abs(value), isNumber(holds) ? holds.decimals : 0)
  const [whole = '', rest] = bare.split('.')
  if (whole.length > f.digits) return '####'.slice(0, Math.max(2, f.digits)) + unitOf(holds, f)
  const padded = f.zeros ? whole.padStart(f.digits, '0') : whole
  const point = formats.comma ? ',' : '.'
  return (
    sign(value < 0 && Number(bare) !== 0) +
    (f.thousands ? grouped(padded) : padded) +
    (rest === undefined ? '' : point + rest) +
    unitOf(holds, f)
  )
}

/** Present knowledge of a variable. `unknown`: it shows nothing but `---`. */
export interface Seen {
  value: Value
  inRange: boolean
  stale: boolean
  unknown: boolean
  /** Text instead of an unknown value. */
  instead: string
}

/** A cell as a widget sees it: a value, or that there is none to be shown. */
export function seenOf(cell: Cell, live: Live): Seen {
  const { value, inRange, stale, known } = live.read(cell)
  const never = !known && cell.stale?.afterMs === 0
  const hidden = never || (stale && cell.stale?.shows === 'dashes')
  const none = hidden ? null : noneWord(cell.holds, value)
  return { value, inRange, stale: stale || never, unknown: hidden || none !== null, instead: none ?? '---' }
}

/** Digits before the point that the ends of a range need. */
export const digitsNeeded = (holds: Holds): number =>
  isNumber(holds)
    ? Math.max(...[holds.min, holds.max].map((v) => formatDecimals(Math.abs(v), holds.decimals).split('.')[0]!.length))
    : 1

/** Characters of a number, besides its unit and words; the blank is before the unit and between thousands. */
const figureLetters = '0123456789-+.,:#— ABCDEF'

/** Every letter that a number may be written with: its unit and its word for no value among them. */
export const numberLetters = (holds: Holds | null): string =>
  holds && isNumber(holds) ? `${figureLetters}${holds.unit}${holds.none?.word ?? ''}` : figureLetters
