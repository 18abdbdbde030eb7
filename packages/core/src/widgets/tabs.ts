import { noRect, type Rect } from '../base/index.ts'
import { listOf, oneOf } from '../describe/index.ts'
import { noFace, paintFace, solidOf } from '../faces/index.ts'
import type { Effect } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import type { Cell } from '../variables/index.ts'
import { framedFace } from './fields.ts'
import { seenOf } from './figures.ts'
import { kindOf, type Live } from './kind.ts'
import { paintSill } from './marks.ts'
import { faceType } from './setting-types.ts'
import { commonFields, dimmed, paintTextBox, sheetOf, textFields, touchFields } from './text-box.ts'

const tab = described({
  text: { label: 'Text', type: t.text, default: 'Tab', group: 'Tab' },
  page: { label: 'Opens', type: t.page, default: '', group: 'Tab', accepts: ['page'] },
})

/** Keys at most. */
const most = 12

interface Looks {
  of: 'pages' | 'the words of its variable'
  variable: Cell | null
  tabs: readonly { text: string; page: number | null }[]
  way: 'beside each other' | 'below each other'
}

/** The keys in a row: their words, and whether each is down. */
function keysOf(s: Looks, live: Live): { text: string; down: boolean }[] {
  if (s.of === 'pages') return s.tabs.map(({ text, page }) => ({ text, down: page !== null && page === live.page }))
  const holds = s.variable?.holds
  if (holds?.type !== 'choice') return []
  const now = seenOf(s.variable!, live)
  return holds.choices.map(({ value, word }) => ({ text: word, down: !now.unknown && value === now.value }))
}

function boxOf(place: Rect, s: Pick<Looks, 'way'>, k: number, count: number): Rect {
  const lying = s.way === 'beside each other'
  const length = lying ? place.width : place.height
  const [a, b] = [Math.round((length * k) / count), Math.round((length * (k + 1)) / count)]
  return lying ? { ...place, x: place.x + a, width: b - a } : { ...place, y: place.y + a, height: b - a }
}

const keyAt = (place: Rect, s: Looks, count: number, x: number, y: number): number =>
  Math.min(count - 1, Math.max(0, Math.floor(((s.way === 'beside each other' ? (x - place.x) / place.width : (y - place.y) / place.height) * count)))) // prettier-ignore

interface Kept {
  down: number | null
}

export const tabs = kindOf({
  kind: 'tabs',
  label: 'Tabs',
  meaning: 'one-of-several keys: page navigation or a choice',
  purpose: 'touch',
  size: { width: 300, height: 46 },
  touchable: true,
  settings: described({
    of: {
      label: 'Tabs from',
      type: oneOf({ pages: 'pages', 'the words of its variable': 'value labels' }),
      default: 'pages',
      group: 'Shows',
      essential: true,
    },
    tabs: { label: 'Tabs', type: listOf('tabs', 'item', tab, most), default: [], group: 'Shows', hint: 'for tabs from pages' },
    variable: {
      label: 'Variable',
      type: t.touched,
      default: '',
      group: 'Shows',
      accepts: ['choice'],
      hint: 'for tabs from value labels',
    },
    way: {
      label: 'Layout',
      type: oneOf({ 'beside each other': 'horizontal', 'below each other': 'vertical' }),
      default: 'beside each other',
      group: 'Looks',
    },
    ...touchFields(true),
    ...textFields('button', 'centre', 'muted'),
    downColour: { label: 'Active text colour', type: t.colour, default: 'colour:ink', group: 'Looks' },
    face: framedFace,
    downFace: {
      label: 'Active face',
      type: faceType,
      default: { ...noFace, fill: 'colour:accent tint', border: 'colour:accent', borderWidth: 2, radius: 8 },
      group: 'Looks',
    },
    sillColour: { label: 'State bar, normal', type: t.colour, default: 'colour:off', group: 'Looks' },
    onColour: { label: 'State bar, active', type: t.colour, default: 'colour:accent', group: 'Looks' },
    ...commonFields,
  }),
  // A key for each page there is; the gate gives them their ids.
  fresh: (pages = []) => ({
    settings: { tabs: pages.slice(0, most).map(({ id, name }) => ({ text: name, page: id })) as never },
  }),
  picture: (variable) => ({
    settings: { of: 'the words of its variable', variable },
    holds: { type: 'choice', choices: ['Dome', 'Weather', 'Setup'].map((word, value) => ({ value, word })) },
    value: 0,
  }),
  state: (): Kept => ({ down: null }),
  touch(gesture, place, s, kept, live): Effect[] {
    const keys = keysOf(s, live)
    if (!keys.length) return []
    if (gesture.kind === 'down') kept.down = keyAt(place, s, keys.length, gesture.x, gesture.y)
    if (gesture.kind === 'slid off' || gesture.kind === 'cancelled') kept.down = null
    if (gesture.kind !== 'up') return []
    const { down } = kept
    kept.down = null
    // Lifted over another key than it came down on, it counts for none.
    if (down === null || !gesture.inside || keyAt(place, s, keys.length, gesture.x, gesture.y) !== down) return []
    if (s.of === 'pages') {
      const page = s.tabs[down]?.page ?? null
      return page === null ? [] : [{ do: 'page', number: page }]
    }
    const holds = s.variable?.holds
    const value = holds?.type === 'choice' ? holds.choices[down]?.value : undefined
    return value === undefined || !s.variable ? [] : [{ do: 'write', cell: s.variable, value, last: true }]
  },
  solid: (place, s, live) => (live.enabled ? solidOf(s.face, place) : noRect),
  paint(surface, place, s, live, kept) {
    const keys = keysOf(s, live)
    const sheet = sheetOf(s, live)
    dimmed(surface, !live.enabled, () => paintFace(surface, place, s.face))
    keys.forEach(({ text, down }, k) => {
      const box = boxOf(place, s, k, keys.length)
      const isDown = down || kept.down === k
      if (isDown) paintFace(surface, box, s.downFace)
      else if (k > 0 && !keys[k - 1]!.down && kept.down !== k - 1) {
        const line = s.way === 'beside each other' ? { x: box.x, y: box.y + Math.floor(box.height * 0.25), width: 1, height: Math.floor(box.height * 0.5) } : { x: box.x + Math.floor(box.width * 0.1), y: box.y, width: Math.floor(box.width * 0.8), height: 1 } // prettier-ignore
        if (s.face.border >= 0) surface.fill(line, s.face.border)
      }
      const room = box.height >= 36 ? { ...box, height: box.height - 8 } : box
      dimmed(surface, !live.enabled, () =>
        paintTextBox(surface, room, sheet, text, { align: s.align }, isDown ? s.downColour : s.colour),
      )
      paintSill(surface, box, { is: 'plain' }, isDown ? s.onColour : s.sillColour, s.sillColour)
    })
    if (!keys.length) paintTextBox(surface, place, sheet, '—', { align: 'centre' }, s.colour)
  },
  shows: (s, live) => keysOf(s, live).find(({ down }) => down)?.text ?? '—',
  letters(s, holdsOf) {
    const holds = holdsOf(s.variable)
    return `—${s.tabs.map(({ text }) => text).join('')}${holds?.type === 'choice' ? holds.choices.map((c) => c.word).join('') : ''}`
  },
  targets(place, raw, holdsOf) {
    const holds = holdsOf(raw.variable)
    const count = raw.of === 'pages' ? raw.tabs.length : holds?.type === 'choice' ? holds.choices.length : 0
    return Array.from({ length: count }, (_, k) => boxOf(place, raw, k, count))
  },
  findings: (raw) => {
    const none = raw.of === 'pages' ? raw.tabs.length === 0 : raw.variable === ''
    const lost = raw.of === 'pages' && raw.tabs.find(({ page }) => page === '')
    return [
      ...(none
        ? [
            {
              code: 'no-tabs',
              facts: {},
              says: raw.of === 'pages' ? 'no pages to go to' : 'no variable for its labels',
            },
          ]
        : []),
      ...(lost ? [{ code: 'tab-nowhere', facts: {}, says: `tab “${lost.text}” opens no page` }] : []),
    ]
  },
})
