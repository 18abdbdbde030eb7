import type { Rect } from '../base/index.ts'
import { listOf, oneOf } from '../describe/index.ts'
import { paintFace, solidOf, type CompiledFace } from '../faces/index.ts'
import { fillRounded } from '../raster/index.ts'
import type { Effect } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatValue, isNumber, type Cell, type Holds } from '../variables/index.ts'
import { framedFace } from './fields.ts'
import { plainFigures, seenOf, writeNumber } from './figures.ts'
import { kindOf, type Live } from './kind.ts'
import { commonFields, dimmed, paintTextBox, sheetOf, textFields, touchFields } from './text-box.ts'

const row = described({
  text: { label: 'Text', type: t.text, default: '', group: 'Row' },
  variable: { label: 'Variable', type: t.variable, default: '', group: 'Row' },
})

interface Looks {
  of: 'the words of its variable' | 'several variables'
  variable: Cell | null
  rows: readonly { text: string; variable: Cell | null }[]
  rowHeight: number
  face: CompiledFace
}

interface Kept {
  /** How far it is scrolled, px. */
  top: number
  /** Where the finger came down, and how far it was scrolled then; null: no finger. */
  from: { y: number; top: number; moved: boolean } | null
}

interface Row {
  text: string
  value: string
  chosen: boolean
  stale: boolean
}

const written = (cell: Cell, live: Live): { text: string; stale: boolean } => {
  const { value, stale, unknown, instead } = seenOf(cell, live)
  if (unknown) return { text: instead, stale }
  return {
    text: isNumber(cell.holds)
      ? writeNumber(cell.holds, Number(value), plainFigures, live.formats)
      : formatValue(cell.holds, value),
    stale,
  }
}

function rowsOf(s: Looks, live: Live): Row[] {
  if (s.of === 'several variables')
    return s.rows.map(({ text, variable }) => {
      const now = variable && written(variable, live)
      return { text, value: now?.text ?? '—', chosen: false, stale: now?.stale ?? false }
    })
  const holds = s.variable?.holds
  if (holds?.type !== 'choice') return []
  const now = seenOf(s.variable!, live)
  return holds.choices.map(({ value, word }) => ({
    text: word,
    value: '',
    chosen: !now.unknown && value === now.value,
    stale: now.stale,
  }))
}

const countOf = (s: Looks): number =>
  s.of === 'several variables' ? s.rows.length : s.variable?.holds.type === 'choice' ? s.variable.holds.choices.length : 0

const pad = 4
const mostTop = (place: Rect, s: Looks): number => Math.max(0, countOf(s) * s.rowHeight - (place.height - 2 * pad))
const kept = (place: Rect, s: Looks, top: number): number => Math.max(0, Math.min(mostTop(place, s), Math.round(top)))
/** A finger that has gone so far scrolls, and chooses nothing. */
const scrollFrom = 8

export const list = kindOf({
  kind: 'list',
  label: 'List',
  meaning: 'rows: labels of a choice, or several values',
  purpose: 'touch',
  size: { width: 180, height: 136 },
  touchable: true,
  settings: described({
    of: {
      label: 'Rows from',
      type: oneOf({ 'the words of its variable': 'value labels', 'several variables': 'variables' }),
      default: 'the words of its variable',
      group: 'Shows',
      essential: true,
    },
    variable: {
      label: 'Variable',
      type: t.touched,
      default: '',
      group: 'Shows',
      accepts: ['choice'],
      hint: 'for rows from value labels',
    },
    rows: {
      label: 'Rows',
      type: listOf('rows', 'item', row, 60),
      default: [],
      group: 'Shows',
      hint: 'for rows from variables',
    },
    rowHeight: { label: 'Row height', type: t.whole, default: 32, min: 12, max: 200, unit: 'px', group: 'Looks' },
    ...touchFields(true),
    ...textFields('caption', 'left'),
    face: framedFace,
    chosenColour: { label: 'Selected row colour', type: t.colour, default: 'colour:accent tint', group: 'Looks' },
    barColour: { label: 'Selection marker', type: t.colour, default: 'colour:accent', group: 'Looks' },
    valueColour: { label: 'Value colour', type: t.colour, default: 'colour:muted', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ variable: wordsToBegin }),
  picture: (variable) => ({ settings: { variable }, holds: wordsToBegin, value: 1 }),
  state: (): Kept => ({ top: 0, from: null }),
  touch(gesture, place, s, state, live): Effect[] {
    if (gesture.kind === 'down') state.from = { y: gesture.y, top: state.top, moved: false }
    const { from } = state
    if (from && gesture.kind === 'move') {
      from.moved ||= Math.abs(gesture.y - from.y) >= scrollFrom
      if (from.moved) state.top = kept(place, s, from.top + from.y - gesture.y)
    }
    if (gesture.kind === 'cancelled' || gesture.kind === 'up') state.from = null
    if (gesture.kind !== 'up' || !from || from.moved || !gesture.inside || s.of !== 'the words of its variable') return []
    const holds = s.variable?.holds
    const chosen = Math.floor((gesture.y - place.y - pad + kept(place, s, state.top)) / s.rowHeight)
    const value = holds?.type === 'choice' && chosen >= 0 ? holds.choices[chosen]?.value : undefined
    return value === undefined || !s.variable || !live.enabled ? [] : [{ do: 'write', cell: s.variable, value, last: true }]
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
    const top = kept(place, s, state.top)
    const rows = rowsOf(s, live)
    const scrolls = mostTop(place, s) > 0
    const width = inner.width - (scrolls ? 9 : 0)
    surface.within(inner, () =>
      rows.forEach(({ text, value, chosen, stale }, k) => {
        const box = { x: inner.x, y: inner.y + k * s.rowHeight - top, width, height: s.rowHeight }
        if (box.y >= inner.y + inner.height || box.y + box.height <= inner.y) return
        if (chosen) {
          fillRounded(surface, box, 5, s.chosenColour)
          fillRounded(
            surface,
            { x: box.x + 2, y: box.y + Math.floor(s.rowHeight * 0.2), width: 4, height: Math.floor(s.rowHeight * 0.6) },
            2,
            s.barColour,
          )
        }
        const words = { ...box, x: box.x + 8, width: Math.max(0, box.width - 8) }
        dimmed(surface, stale || !live.enabled, () => {
          paintTextBox(surface, words, sheet, text, { align: s.align }, s.colour)
          if (value) paintTextBox(surface, words, sheet, value, { align: 'right' }, s.valueColour)
        })
      }),
    )
    if (scrolls) {
      const whole = rows.length * s.rowHeight
      const height = Math.max(12, Math.round((inner.height * inner.height) / whole))
      const y = inner.y + Math.round(((inner.height - height) * top) / mostTop(place, s))
      fillRounded(surface, { x: inner.x + inner.width - 5, y, width: 4, height }, 2, s.valueColour)
    }
    if (!rows.length) paintTextBox(surface, place, sheet, '—', { align: 'centre' }, s.colour)
  },
  shows: (s, live) =>
    rowsOf(s, live).find((r) => r.chosen)?.text ??
    rowsOf(s, live)
      .map((r) => `${r.text} ${r.value}`.trim())
      .join(', '),
  findings: (raw) =>
    (raw.of === 'several variables' ? raw.rows.length === 0 : raw.variable === '')
      ? [{ code: 'no-rows', facts: {}, says: 'no rows' }]
      : [],
})

const wordsToBegin: Holds = {
  type: 'choice',
  choices: ['first', 'second', 'third', 'fourth', 'fifth'].map((word, value) => ({ id: `choice:${value + 1}`, value, word })),
}
