import { noRect } from '../base/index.ts'
import { noFace, paintFace, solidOf, type Face } from '../faces/index.ts'
import { oneOf } from '../describe/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { type Cell } from '../variables/index.ts'
import { shownVariable } from './fields.ts'
import { seenOf } from './figures.ts'
import { kindOf, type Live } from './kind.ts'
import { paintPast } from './marks.ts'
import { statesType, stateThatHolds, statesFindings, type CompiledState, type State } from './setting-types.ts'
import { commonFields, dimmed, paintWords, textFields } from './text-box.ts'

const step = (k: number, fill: string, word: string): State => ({
  id: `state:${k + 1}`,
  when: { by: 'value', value: k },
  meaning: word,
  face: { ...noFace, fill, border: 'colour:line', borderWidth: 1, radius: 8 } satisfies Face,
  textColour: fill.endsWith('tint') || fill === 'colour:off' ? 'colour:ink' : 'colour:ground',
})

interface Looks {
  variable: Cell | null
  levels: readonly CompiledState[]
  plays: 'no' | 'once' | 'again and again'
  everyMs: number
}

/** Which of its states stands there by the time, from 0 on. */
function playedAt({ levels, plays, everyMs }: Looks, { nowUs, sinceUs }: Live): number {
  const gone = Math.floor(Math.max(0, nowUs - sinceUs) / (everyMs * 1000))
  return plays === 'once' ? Math.min(gone, levels.length - 1) : gone % Math.max(1, levels.length)
}

/** The level that a value has; outside them the first one, with a mark. */
function levelOf(s: Looks, live: Live) {
  const cell = s.variable
  const known = { outside: 0, stale: false, unknown: false, instead: '' }
  if (s.plays !== 'no') return { ...known, level: s.levels[playedAt(s, live)] ?? null }
  if (!cell) return { ...known, level: s.levels[0] ?? null }
  const { value, stale, unknown, instead } = seenOf(cell, live)
  const found = stateThatHolds(s.levels, Number(value))
  const most = Math.max(...s.levels.map(({ when }) => (when.by === 'value' ? when.value : when.by === 'range' ? when.to : 0)))
  return { level: found ?? s.levels[0] ?? null, outside: found ? 0 : Number(value) > most ? 1 : -1, stale, unknown, instead }
}

export const level = kindOf({
  kind: 'level',
  label: 'Picture by value',
  meaning: 'one of several images by value, or an animation',
  purpose: 'show',
  size: { width: 96, height: 44 },
  touchable: false,
  settings: described({
    variable: shownVariable('u8', 'i8', 'u16', 'i16', 'u32', 'i32', 'choice', 'flags'),
    levels: {
      label: 'States',
      type: statesType,
      default: [
        step(0, 'colour:off', 'empty'),
        step(1, 'colour:bad tint', 'low'),
        step(2, 'colour:warning tint', 'half'),
        step(3, 'colour:good tint', 'high'),
        step(4, 'colour:good', 'full'),
      ],
      group: 'Shows',
      essential: true,
    },
    plays: {
      label: 'Animation',
      type: oneOf({ no: 'none', once: 'once', 'again and again': 'loop' }),
      default: 'no',
      group: 'Shows',
      hint: 'runs from page opening; ignores the variable',
    },
    everyMs: {
      label: 'Frame time',
      type: t.whole,
      default: 200,
      min: 20,
      max: 10_000,
      unit: 'ms',
      group: 'Shows',
      hint: 'animation only',
    },
    writes: { label: 'Show value label', type: t.yesNo, default: true, group: 'Shows', essential: true },
    ...textFields('button', 'centre'),
    pastColour: { label: 'Marker when no state matches', type: t.colour, default: 'colour:warning', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ variable: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 4 } }),
  solid(place, s, live) {
    const { level: now, stale, unknown } = levelOf(s, live)
    return now && !stale && !unknown ? solidOf(now.face, place) : noRect
  },
  movesEveryMs(_place, s, live) {
    if (s.plays === 'no' || s.levels.length < 2) return null
    const at = playedAt(s, live)
    if (s.plays === 'once' && at === s.levels.length - 1) return null
    const gone = Math.max(0, live.nowUs - live.sinceUs)
    return Math.max(1, Math.ceil(s.everyMs - ((gone / 1000) % s.everyMs)))
  },
  paint(surface, place, s, live) {
    const { level: now, outside, stale, unknown, instead } = levelOf(s, live)
    if (now) dimmed(surface, stale || unknown, () => paintFace(surface, place, now.face))
    if (s.writes && now) paintWords(surface, place, s, live, unknown ? instead : now.meaning, stale, now.textColour)
    if (outside && !unknown)
      paintPast(surface, { x: outside > 0 ? place.x + place.width - 11 : place.x + 2, y: place.y + Math.floor(place.height / 2) - 6, width: 9, height: 12 }, outside > 0 ? 'right' : 'left', s.pastColour) // prettier-ignore
  },
  shows(s, live) {
    const { level: now, outside, unknown, instead } = levelOf(s, live)
    return unknown ? instead : `${now?.meaning ?? '—'}${outside ? ' !' : ''}`
  },
  letters: (s) => `-${s.levels.map((state) => state.meaning).join('')}`,
  widest: (s) => (s.writes ? s.levels.map((state) => state.meaning) : []),
  findings: (raw, holdsOf) =>
    raw.plays === 'no'
      ? statesFindings(raw.levels, holdsOf(raw.variable))
      : raw.variable
        ? [
            {
              code: 'plays-over',
              facts: {},
              says: 'the animation hides the value of the variable',
              mends: { label: 'Show states by variable', values: { plays: 'no' } },
            },
          ]
        : [],
})
