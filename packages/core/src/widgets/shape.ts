import { noRect } from '../base/index.ts'
import { oneOf } from '../describe/index.ts'
import { noFace, paintFace, solidOf } from '../faces/index.ts'
import { fillArc, fillLine, fillPolygon, fillStroke } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { kindOf } from './kind.ts'
import { faceType } from './setting-types.ts'
import { commonFields } from './text-box.ts'

/** `0,100 50,0 100,100`: points in hundredths of width and height; null where it is none. */
export function pointsOf(text: string): [number, number][] | null {
  const points = text
    .trim()
    .split(/\s+/)
    .filter(Boolean)
    .map((pair) => pair.split(',').map(Number))
  const isWhole = (p: number[]): p is [number, number] =>
    p.length === 2 && p.every((n) => Number.isFinite(n) && n >= -100 && n <= 200)
  return points.length >= 2 && points.length <= 100 && points.every(isWhole) ? (points as [number, number][]) : null
}

export const shape = kindOf({
  kind: 'shape',
  label: 'Shape',
  meaning: 'box, ellipse, line, ring, arc or polygon',
  purpose: 'decorate',
  size: { width: 160, height: 100 },
  touchable: false,
  settings: described({
    draws: {
      label: 'Shape',
      type: oneOf({
        face: 'face',
        'line down': 'diagonal ↘',
        'line up': 'diagonal ↗',
        lines: 'lines',
        polygon: 'polygon',
        arc: 'arc',
        ring: 'ring',
      }),
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
    lineColour: { label: 'Line colour', type: t.colour, default: 'colour:line', group: 'Looks', follows: true },
    lineWidth: { label: 'Line width', type: t.whole, default: 2, min: 1, max: 200, unit: 'px', group: 'Looks' },
    points: {
      label: 'Points',
      type: t.text,
      default: '0,100 30,20 60,70 100,0',
      group: 'Looks',
      hint: 'lines and polygons: x,y in %, separated by spaces',
    },
    start: {
      label: 'Start angle',
      type: t.whole,
      default: 270,
      min: 0,
      max: 359,
      unit: '°',
      group: 'Looks',
      hint: 'clockwise from the top',
    },
    sweep: { label: 'Sweep angle', type: t.whole, default: 180, min: 1, max: 360, unit: '°', group: 'Looks' },
    ...commonFields,
  }),
  paint(surface, place, s) {
    if (s.draws === 'face') return paintFace(surface, place, s.face)
    const { x, y, width, height } = place
    if (s.draws === 'arc' || s.draws === 'ring') {
      const outer = Math.min(width, height) / 2
      const sweep = s.draws === 'ring' ? 360 : s.sweep
      return fillArc(
        surface,
        { cx: x + width / 2, cy: y + height / 2, outer, inner: Math.max(0, outer - s.lineWidth), from: s.start, sweep },
        s.lineColour,
      )
    }
    if (s.draws === 'lines' || s.draws === 'polygon') {
      // A stroke keeps inside its place by half its width.
      const half = s.draws === 'lines' ? s.lineWidth / 2 : 0
      const points = (pointsOf(s.points) ?? []).map(([px, py]) => ({
        x: x + half + ((width - 2 * half) * px) / 100,
        y: y + half + ((height - 2 * half) * py) / 100,
      }))
      if (s.draws === 'polygon')
        return fillPolygon(
          surface,
          points.flatMap((p) => [p.x, p.y]),
          s.lineColour,
        )
      return points.slice(1).forEach((to, k) => fillStroke(surface, points[k]!, to, s.lineWidth, s.lineColour))
    }
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
  solid: (place, s) => (s.draws === 'face' ? solidOf(s.face, place) : noRect),
  findings: (raw) =>
    (raw.draws === 'lines' || raw.draws === 'polygon') && !pointsOf(raw.points)
      ? [
          {
            code: 'points',
            facts: { points: raw.points.slice(0, 40) },
            says: 'invalid point list: two or more x,y in %, separated by spaces',
          },
        ]
      : [],
})
