import { isEmptyFace, noFace, paintFace, solidOf, type CompiledFace } from '../faces/index.ts'
import { textWidth } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { freshHolds, formatValue, isNumber, type Cell } from '../variables/index.ts'
import { seenOf, writeNumber, plainFigures } from './figures.ts'
import { kindOf, type Live } from './kind.ts'
import { faceType, stateThatHolds, statesType, type CompiledState } from './setting-types.ts'
import {
  commonFields,
  lettersOfValue,
  paintWords,
  paragraphFields,
  sheetOf,
  textFields,
  textMargin,
  widestOfValue,
} from './text-box.ts'

interface Looks {
  variable: Cell | null
  empty: string
  states: readonly CompiledState[]
}

function textOf(s: Looks, live: Live): { text: string; stale: boolean; state: CompiledState | null } {
  const cell = s.variable
  if (!cell) return { text: '—', stale: false, state: null }
  const { value, stale, unknown, instead } = seenOf(cell, live)
  if (unknown) return { text: instead, stale, state: null }
  const state = typeof value === 'number' ? stateThatHolds(s.states, value) : null
  if (state) return { text: state.meaning, stale, state }
  const text = isNumber(cell.holds)
    ? writeNumber(cell.holds, Number(value), plainFigures, live.formats)
    : formatValue(cell.holds, value)
  return { text: text || s.empty, stale, state: null }
}

/** How much wider a text is than its place, px, where it would run; else 0. */
function overOf(width: number, s: { font: string | null; runs: number; wraps: boolean }, live: Live, text: string): number {
  const sheet = s.runs > 0 && !s.wraps ? sheetOf(s, live) : null
  return sheet ? Math.max(0, textWidth(sheet, text) - (width - 2 * textMargin)) : 0
}

/** How often what runs is drawn again, ms. */
const runEveryMs = 40

/**
 * How far a text that is too long has run to the left at a time, px: it rests at its beginning, runs until its end is seen,
 * rests there, and begins again.
 */
export function ranAt(nowUs: number, over: number, pxPerSecond: number, restMs: number): number {
  if (over <= 0 || pxPerSecond <= 0) return 0
  const runUs = (over / pxPerSecond) * 1e6
  const at = nowUs % (2 * restMs * 1000 + runUs)
  return Math.floor(Math.min(over, Math.max(0, ((at - restMs * 1000) * pxPerSecond) / 1e6)))
}

/** Face to draw: that of the current state if it has one, else the widget's own. */
const faceOf = ({ face }: { face: CompiledFace }, state: { face: CompiledFace } | null): CompiledFace =>
  state && !isEmptyFace(state.face) ? state.face : face

export const text = kindOf({
  kind: 'text',
  label: 'Text',
  meaning: 'text of a variable, or of its state',
  purpose: 'show',
  size: { width: 220, height: 36 },
  touchable: false,
  settings: described({
    variable: { label: 'Variable', type: t.variable, default: '', group: 'Shows', essential: true },
    empty: { label: 'Placeholder', type: t.text, default: '', group: 'Shows' },
    states: {
      label: 'States',
      type: statesType,
      default: [],
      group: 'Shows',
      hint: 'text and colour by value',
    },
    runs: {
      label: 'Scroll long text',
      type: t.whole,
      default: 0,
      min: 0,
      max: 400,
      unit: 'px/s',
      zero: 'off',
      group: 'Shows',
    },
    restMs: { label: 'Pause at ends', type: t.whole, default: 1500, min: 0, max: 20_000, unit: 'ms', group: 'Shows' },
    ...textFields('caption', 'left'),
    ...paragraphFields,
    face: { label: 'Face', type: faceType, default: noFace, group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ settings: { runs: 40 }, variable: freshHolds('text') }),
  picture: (variable) => ({ settings: { variable }, holds: freshHolds('text'), value: 'Clear tonight' }),
  movesEveryMs: (place, s, live) => (overOf(place.width, s, live, textOf(s, live).text) > 0 ? runEveryMs : null),
  paint(surface, place, s, live) {
    const { text, stale, state } = textOf(s, live)
    paintFace(surface, place, faceOf(s, state))
    const over = overOf(place.width, s, live, text)
    const ran = ranAt(live.nowUs, over, s.runs, s.restMs)
    paintWords(surface, place, s, live, text, stale, state ? state.textColour : s.colour, {
      upright: s.upright,
      wraps: s.wraps,
      ...(over > 0 ? { align: 'left' as const, ran } : {}),
    })
  },
  shows: (s, live) => textOf(s, live).text,
  solid: (place, s, live) => solidOf(faceOf(s, textOf(s, live).state), place),
  letters: (s, holdsOf) => lettersOfValue(holdsOf(s.variable)) + s.empty + s.states.map((state) => state.meaning).join(''),
  widest(s, holdsOf) {
    if (s.runs > 0 || s.wraps) return []
    const holds = holdsOf(s.variable)
    if (s.states.length) return s.states.map((state) => state.meaning)
    return [...(holds && isNumber(holds) ? [] : widestOfValue(holds)), ...(s.empty ? [s.empty] : [])]
  },
  findings: (raw, holdsOf) => {
    const holds = holdsOf(raw.variable)
    return raw.states.length && holds?.type === 'text'
      ? [
          {
            code: 'states-of-text',
            facts: {},
            says: 'text variable cannot have states',
            mends: { label: 'Remove states', values: { states: [] } },
          },
        ]
      : []
  },
})
