import { faceCovers, noFace, paintFace, type CompiledFace } from '../faces/index.ts'
import { fillLine } from '../raster/index.ts'
import { settingTypes as t } from '../settings/index.ts'
import type { WidgetKind } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonSettings } from './text-box.ts'

export const shape: WidgetKind = {
  kind: 'shape',
  label: 'Shape',
  meaning: 'a box, an ellipse or a line',
  size: { width: 160, height: 100 },
  touchable: false,
  settings: [
    {
      key: 'draws',
      label: 'Draws',
      type: t.choice,
      choices: ['face', 'line down', 'line up'],
      default: 'face',
      group: 'Looks',
      essential: true,
    },
    {
      key: 'face',
      label: 'Face',
      type: faceType,
      default: { ...noFace, fill: '#16233f', radius: 8 },
      group: 'Looks',
      essential: true,
    },
    { key: 'lineColour', label: 'Line colour', type: t.colour, default: '#4a6490', group: 'Looks' },
    { key: 'lineWidth', label: 'Line width', type: t.whole, default: 2, min: 1, max: 40, unit: 'px', group: 'Looks' },
    ...commonSettings,
  ],
  paint(surface, place, s) {
    if (s['draws'] === 'face') return paintFace(surface, place, s['face'] as CompiledFace)
    const { x, y, width, height } = place
    // A line as thin as its box runs along the middle of the box.
    const flat = height <= Number(s['lineWidth'])
    const upright = width <= Number(s['lineWidth'])
    const [top, bottom] = flat ? [y + height / 2, y + height / 2] : [y, y + height]
    const [left, right] = upright ? [x + width / 2, x + width / 2] : [x, x + width]
    const rises = s['draws'] === 'line up'
    fillLine(
      surface,
      place,
      { x: left, y: rises ? bottom : top },
      { x: right, y: rises ? top : bottom },
      Number(s['lineWidth']),
      Number(s['lineColour']),
    )
  },
  shows: () => '',
  covers: (place, s, area) => s['draws'] === 'face' && faceCovers(s['face'] as CompiledFace, place, area),
}
