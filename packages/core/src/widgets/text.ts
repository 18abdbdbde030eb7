import { faceCovers, noFace, paintFace } from '../faces/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { freshHolds, formatValue, type Cell } from '../variables/index.ts'
import { kindOf, type Live } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonFields, paintWords, textFields } from './text-box.ts'

function textOf(s: { variable: Cell | null; empty: string }, live: Live): { text: string; stale: boolean } {
  const cell = s.variable
  if (!cell) return { text: '—', stale: false }
  const { value, stale } = live.read(cell)
  if (stale && cell.stale?.shows === 'dashes') return { text: '---', stale }
  const text = formatValue(cell.holds, value)
  return { text: text || s.empty, stale }
}

export const text = kindOf({
  kind: 'text',
  label: 'Text',
  meaning: 'the words in a variable',
  size: { width: 220, height: 36 },
  touchable: false,
  settings: described({
    variable: { label: 'Variable', type: t.variable, default: '', group: 'Shows', essential: true },
    empty: { label: 'When empty', type: t.text, default: '', group: 'Shows' },
    ...textFields('caption', 'left'),
    face: { label: 'Face', type: faceType, default: noFace, group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ variable: freshHolds('text') }),
  paint(surface, place, s, live) {
    paintFace(surface, place, s.face)
    const { text, stale } = textOf(s, live)
    paintWords(surface, place, s, live, text, stale)
  },
  shows: (s, live) => textOf(s, live).text,
  covers: (place, s, area) => faceCovers(s.face, place, area),
  widest(s, holdsOf) {
    const holds = holdsOf(s.variable)
    if (holds?.type === 'text') return ['n'.repeat(holds.bytes)]
    if (holds?.type === 'choice') return holds.choices.map((c) => c.word)
    return holds?.type === 'time' ? ['88:88:88'] : []
  },
})
