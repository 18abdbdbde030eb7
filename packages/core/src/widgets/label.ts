import { settingTypes as t } from '../settings/index.ts'
import type { WidgetKind } from './kind.ts'
import { commonSettings, paintWords, textSettings } from './text-box.ts'

export const label: WidgetKind = {
  kind: 'label',
  label: 'Label',
  meaning: 'words that stay as they are',
  size: { width: 140, height: 32 },
  touchable: false,
  settings: [
    { key: 'text', label: 'Text', type: t.text, default: 'Label', group: 'Shows', essential: true, mayFollow: true },
    ...textSettings(20, 'left'),
    ...commonSettings,
  ],
  paint: (surface, place, s, live) => paintWords(surface, place, s, live, String(s['text']), false),
  shows: (s) => String(s['text']),
  widest: (s) => (typeof s['text'] === 'string' ? [s['text']] : []),
}
