import { oneOf } from '../describe/index.ts'
import { faceCovers, noFace, paintFace } from '../faces/index.ts'
import { fillLine } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { kindOf } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonFields } from './text-box.ts'

export const shape = kindOf({
  kind: 'shape',
  label: 'Shape',
  meaning: 'a box, an ellipse or a line',
  size: { width: 160, height: 100 },
  touchable: false,
  settings: described({
    draws: {
      label: 'Draws',
      type: oneOf('face', 'line down', 'line up'),
      default: 'face',
      group: 'Looks',
      essential: true,
    },
    face: {
      label: 'Face',
      type: faceType,
      default: { ...noFace, fill: 'colour:surface', border: 'colour:line', borderWidth: 1, radius: 8 },
      group: 'Looks',
      essential: true,
    },
    lineColour: { label: 'Line colour', type: t.colour, default: 'colour:line', group: 'Looks' },
    lineWidth: { label: 'Line width', type: t.whole, default: 2, min: 1, max: 40, unit: 'px', group: 'Looks' },
    ...commonFields,
  }),
  paint(surface, place, s) {
    if (s.draws === 'face') return paintFace(surface, place, s.face)
    const { x, y, width, height } = place
    // A line as thin as its box runs along the middle of the box.
    const flat = height <= s.lineWidth
    const upright = width <= s.lineWidth
    const [top, bottom] = flat ? [y + height / 2, y + height / 2] : [y, y + height]
    const [left, right] = upright ? [x + width / 2, x + width / 2] : [x, x + width]
    const rises = s.draws === 'line up'
    fillLine(
      surface,
      place,
      { x: left, y: rises ? bottom : top },
      { x: right, y: rises ? top : bottom },
      s.lineWidth,
      s.lineColour,
    )
  },
  shows: () => '',
  covers: (place, s, area) => s.draws === 'face' && faceCovers(s.face, place, area),
})
