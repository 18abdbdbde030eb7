import { pixelsPerMm, type PanelProfile } from '@moth-lamp/core/project'

export type GlassEdge = 'width' | 'height' | 'corner'

const [leastPx, mostPx] = [16, 2048]
const [leastInches, mostInches] = [0.5, 40]

const whole = (px: number): number => Math.min(mostPx, Math.max(leastPx, Math.round(px)))
const tenths = (inches: number): number => Math.round(Math.min(mostInches, Math.max(leastInches, inches)) * 10) / 10

/** Pixels of the screen for a mm of the glass, so that all of it has room. */
export function screenPerMm(panel: PanelProfile, room: { width: number; height: number }): number {
  const perMm = pixelsPerMm(panel)
  return Math.min(room.width / (panel.width / perMm), room.height / (panel.height / perMm))
}

/** The diagonal of so many pixels as dense as those of the panel, inches. */
const asDense = (panel: PanelProfile, width: number, height: number): number =>
  Math.round((Math.hypot(Math.max(leastPx, width), Math.max(leastPx, height)) / pixelsPerMm(panel) / 25.4) * 100) / 100

/** The panel with an edge, or its corner, drawn by so many pixels of the screen: an edge adds pixels, the corner makes them larger. */
export function drawnBy(
  panel: PanelProfile,
  edge: GlassEdge,
  by: { x: number; y: number },
  scale: number,
): Partial<PanelProfile> {
  const perMm = pixelsPerMm(panel)
  const dx = (by.x / scale) * perMm
  const dy = (by.y / scale) * perMm
  if (edge === 'width') return { width: whole(panel.width + dx), diagonalInches: asDense(panel, panel.width + dx, panel.height) }
  if (edge === 'height')
    return { height: whole(panel.height + dy), diagonalInches: asDense(panel, panel.width, panel.height + dy) }
  return { diagonalInches: tenths(panel.diagonalInches * (1 + Math.max(dx / panel.width, dy / panel.height))) }
}

/** The panel with an edge or its corner moved by keys: pixels, or tenths of an inch. */
export const steppedBy = (panel: PanelProfile, edge: GlassEdge, by: number): Partial<PanelProfile> =>
  edge === 'corner' ? { diagonalInches: tenths(panel.diagonalInches + by * 0.1) } : { [edge]: whole(panel[edge] + by) }
