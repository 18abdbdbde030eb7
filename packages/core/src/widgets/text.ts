import { faceCovers, noFace, paintFace, type CompiledFace } from '../faces/index.ts'
import { settingTypes as t, type SettingValues } from '../settings/index.ts'
import { formatValue, type Cell } from '../variables/index.ts'
import type { Live, WidgetKind } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonSettings, paintWords, textSettings } from './text-box.ts'

function textOf(s: SettingValues, live: Live): { text: string; stale: boolean } {
  const cell = s['variable'] as Cell | null
  if (!cell) return { text: '—', stale: false }
  const { value, stale } = live.read(cell)
  if (stale && cell.stale?.shows === 'dashes') return { text: '---', stale }
  const text = formatValue(cell.holds, value)
  return { text: text || String(s['empty']), stale }
}

export const text: WidgetKind = {
  kind: 'text',
  label: 'Text',
  meaning: 'the words in a variable',
  size: { width: 220, height: 36 },
  touchable: false,
  settings: [
    { key: 'variable', label: 'Variable', type: t.variable, default: '', group: 'Shows', essential: true },
    { key: 'empty', label: 'When empty', type: t.text, default: '', group: 'Shows' },
    ...textSettings(20, 'left'),
    { key: 'face', label: 'Face', type: faceType, default: noFace, group: 'Looks' },
    ...commonSettings,
  ],
  paint(surface, place, s, live) {
    paintFace(surface, place, s['face'] as CompiledFace)
    const { text, stale } = textOf(s, live)
    paintWords(surface, place, s, live, text, stale)
  },
  shows: (s, live) => textOf(s, live).text,
  covers: (place, s, area) => faceCovers(s['face'] as CompiledFace, place, area),
  widest(s, holdsOf) {
    const holds = holdsOf(String(s['variable']))
    if (holds?.type === 'text') return ['n'.repeat(holds.bytes)]
    if (holds?.type === 'choice') return holds.choices.map((c) => c.word)
    return holds?.type === 'time' ? ['88:88:88'] : []
  },
}
