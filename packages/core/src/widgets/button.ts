import { faceCovers, noFace, paintFace, type CompiledFace } from '../faces/index.ts'
import { settingTypes as t } from '../settings/index.ts'
import type { WidgetKind } from './kind.ts'
import { actionsType, faceType } from './setting-types.ts'
import { commonSettings, paintWords, textSettings } from './text-box.ts'

export const button: WidgetKind = {
  kind: 'button',
  label: 'Button',
  meaning: 'does something when touched',
  size: { width: 140, height: 56 },
  touchable: true,
  settings: [
    { key: 'text', label: 'Text', type: t.text, default: 'Button', group: 'Shows', essential: true, mayFollow: true },
    { key: 'actions', label: 'When touched', type: actionsType, default: [], group: 'When touched', essential: true },
    {
      key: 'holdMs',
      label: 'Held long after',
      type: t.whole,
      default: 800,
      unit: 'ms',
      min: 100,
      max: 10_000,
      group: 'When touched',
    },
    { key: 'beeps', label: 'Beeps', type: t.yesNo, default: true, group: 'When touched' },
    { key: 'enabled', label: 'In use', type: t.yesNo, default: true, group: 'Behaviour', mayFollow: true },
    ...textSettings(20, 'centre'),
    { key: 'face', label: 'Face', type: faceType, default: { ...noFace, fill: '#2a4474', radius: 8 }, group: 'Looks' },
    {
      key: 'pressedFace',
      label: 'Face when pressed',
      type: faceType,
      default: { ...noFace, fill: '#4a6aa8', radius: 8 },
      group: 'Looks',
    },
    ...commonSettings,
  ],
  paint(surface, place, s, live) {
    paintFace(surface, place, (live.pressed ? s['pressedFace'] : s['face']) as CompiledFace)
    paintWords(surface, place, s, live, String(s['text']), !live.enabled)
  },
  shows: (s) => String(s['text']),
  covers: (place, s, area) =>
    faceCovers(s['face'] as CompiledFace, place, area) && faceCovers(s['pressedFace'] as CompiledFace, place, area),
  widest: (s) => (typeof s['text'] === 'string' ? [s['text']] : []),
}
