import type { GlyphSheet } from '../raster/index.ts'
import { settingTypes as t } from '../settings/index.ts'
import type { WidgetKind } from './kind.ts'
import { commonSettings, paintTextBox, textSettings, type Align } from './text-box.ts'

const sheetOf = (key: unknown, live: { sheet(key: string): GlyphSheet | null }): GlyphSheet | null =>
  typeof key === 'string' ? live.sheet(key) : null

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
  paint: (surface, place, s, live) =>
    paintTextBox(surface, place, sheetOf(s['font'], live), String(s['text']), s['align'] as Align, Number(s['colour'])),
  shows: (s) => String(s['text']),
  widest: (s) => (typeof s['text'] === 'string' ? [s['text']] : []),
}
