import { oneOf } from '../describe/index.ts'
import { noFace, paintFace, solidOf } from '../faces/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { dateOf, unknownDate, unknownTime, weekdayOf, type Cell } from '../variables/index.ts'
import { seenOf } from './figures.ts'
import { kindOf, type Formats, type Live } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonFields, paintWords, textFields } from './text-box.ts'

const styleTexts = {
  time: 'time',
  'time to the minute': 'time without seconds',
  date: 'date',
  weekday: 'weekday',
  'weekday and date': 'weekday and date',
} as const
type Style = keyof typeof styleTexts

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const two = (n: number): string => String(n).padStart(2, '0')

/** A time of day, s since midnight, as the project writes it. */
function timeWords(seconds: number, withSeconds: boolean, { twelve }: Formats): string {
  if (seconds === unknownTime || seconds > 86_399) return withSeconds ? '--:--:--' : '--:--'
  const hours = Math.floor(seconds / 3600)
  const shown = twelve ? String(hours % 12 || 12) : two(hours)
  const rest = `:${two(Math.floor(seconds / 60) % 60)}${withSeconds ? `:${two(seconds % 60)}` : ''}`
  return shown + rest + (twelve ? (hours < 12 ? ' am' : ' pm') : '')
}

/** A date, days since 1 January 2000, as the project writes it. */
function dateWords(days: number, { date }: Formats): string {
  if (days === unknownDate) return '-- --- ----'
  const { year, month, day } = dateOf(days)
  if (date === 'year month day') return `${year}-${two(month)}-${two(day)}`
  return date === 'month day year' ? `${months[month - 1]} ${day}, ${year}` : `${day} ${months[month - 1]} ${year}`
}

/** A value of a variable that shows one now, or what stands for none. */
function valueOf(cell: Cell | null, live: Live, none: number): number {
  const seen = cell && seenOf(cell, live)
  return seen && !seen.unknown ? Number(seen.value) : none
}

function wordsOf(s: { style: Style; time: Cell | null; date: Cell | null }, live: Live): string {
  const seconds = valueOf(s.time, live, unknownTime)
  const days = valueOf(s.date, live, unknownDate)
  const weekday = days === unknownDate ? '---' : weekdays[weekdayOf(days) - 1]!
  if (s.style === 'time' || s.style === 'time to the minute') return timeWords(seconds, s.style === 'time', live.formats)
  if (s.style === 'date') return dateWords(days, live.formats)
  return s.style === 'weekday' ? weekday : `${weekday} ${dateWords(days, live.formats)}`
}

export const clock = kindOf({
  kind: 'clock',
  label: 'Clock',
  meaning: 'the time of day or the date that the panel keeps',
  purpose: 'show',
  size: { width: 156, height: 40 },
  touchable: false,
  settings: described({
    style: { label: 'Format', type: oneOf(styleTexts), default: 'time', group: 'Shows', essential: true },
    time: { label: 'Time variable', type: t.variable, default: 'variable:own-clock', group: 'Shows', accepts: ['time'] },
    date: { label: 'Date variable', type: t.variable, default: 'variable:own-date', group: 'Shows', accepts: ['u16'] },
    ...textFields('value', 'left'),
    face: { label: 'Face', type: faceType, default: noFace, group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({}),
  solid: (place, s) => solidOf(s.face, place),
  paint(surface, place, s, live) {
    paintFace(surface, place, s.face)
    paintWords(surface, place, s, live, wordsOf(s, live), false)
  },
  shows: (s, live) => wordsOf(s, live),
  letters: () => `0123456789:-, apm${weekdays.join('')}${months.join('')}`,
  widest: ({ style }) =>
    style === 'time'
      ? ['88:88:88']
      : style === 'time to the minute'
        ? ['88:88']
        : style === 'weekday'
          ? weekdays
          : [style === 'date' ? '28 May 8888' : 'Wed 28 May 8888'],
})
