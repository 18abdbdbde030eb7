import type { Rect } from '../base/index.ts'
import { fillPolygon, fillRounded, type Rgb565, type Surface } from '../raster/index.ts'

/** The sill of a button: the short bar near its lower edge in which its state lives, px. */
const sillHeight = 4
const sillSides = 12
const sillAbove = 6

/** How a sill looks, so that colour is never the only sign. */
export type Sill =
  | { is: 'plain' }
  /** Filled to a share, 0–1, from the left. */
  | { is: 'filling'; share: number }
  /** Five dashes of which two are lit, going on by one at each step. */
  | { is: 'running'; step: number }
  /** Split by a cross. */
  | { is: 'broken' }

export const sillPlace = ({ x, y, width, height }: Rect): Rect => {
  const side = Math.min(sillSides, Math.floor(width / 6))
  return { x: x + side, y: y + height - sillAbove - sillHeight, width: width - 2 * side, height: sillHeight }
}

const dashes = 5

/** `lit`: the colour of its state; `rest`: of what is not lit. */
export function paintSill(surface: Surface, button: Rect, sill: Sill, lit: Rgb565, rest: Rgb565): void {
  const bar = sillPlace(button)
  if (bar.width < 6 || button.height < 24) return
  const round = (r: Rect, colour: Rgb565) => fillRounded(surface, r, sillHeight / 2, colour)
  if (sill.is === 'plain') return round(bar, lit)
  if (sill.is === 'filling') {
    round(bar, rest)
    const width = Math.round(bar.width * sill.share)
    if (width > 0) surface.within({ ...bar, width }, () => round(bar, lit))
    return
  }
  if (sill.is === 'running') {
    const pitch = bar.width / dashes
    for (let k = 0; k < dashes; k++) {
      const x = Math.round(bar.x + k * pitch)
      const isLit = (k - sill.step + dashes * 1000) % dashes < 2
      round({ ...bar, x, width: Math.max(2, Math.round(pitch * 0.72)) }, isLit ? lit : rest)
    }
    return
  }
  const middle = Math.round(bar.x + bar.width / 2)
  const gap = 9
  round({ ...bar, width: Math.max(2, middle - gap - bar.x) }, lit)
  round({ ...bar, x: middle + gap, width: Math.max(2, bar.x + bar.width - middle - gap) }, lit)
  const [cy, arm] = [bar.y + sillHeight / 2, 4]
  for (const way of [1, -1])
    fillPolygon(
      surface,
      [
        middle - arm - 1, cy - way * arm - 0.7 * way, middle - arm + 1, cy - way * arm - 0.7 * way,
        middle + arm + 1, cy + way * arm + 0.7 * way, middle + arm - 1, cy + way * arm + 0.7 * way,
      ],
      lit,
    ) // prettier-ignore
}

/** A chevron that says that a value lies past an end: a bar and a triangle, pointing that way, in a box. */
export function paintPast(
  surface: Surface,
  { x, y, width, height }: Rect,
  way: 'left' | 'right' | 'up' | 'down',
  colour: Rgb565,
): void {
  const points: Record<typeof way, number[]> = {
    right: [x, y, x + width, y + height / 2, x, y + height],
    left: [x + width, y, x + width, y + height, x, y + height / 2],
    up: [x, y + height, x + width / 2, y, x + width, y + height],
    down: [x, y, x + width, y, x + width / 2, y + height],
  }
  fillPolygon(surface, points[way], colour)
}

/** A small mark of something to see to, by its weight: a disc, a triangle, a diamond; filled, or its outline with a tick. */
export function paintWeight(
  surface: Surface,
  cx: number,
  cy: number,
  radius: number,
  weight: 'light' | 'middle' | 'heavy',
  filled: boolean,
  colour: Rgb565,
  ground: Rgb565,
): void {
  const outline = (r: number): number[] =>
    weight === 'heavy'
      ? [cx, cy - r, cx + r, cy, cx, cy + r, cx - r, cy]
      : [cx, cy - r * 0.95, cx + r, cy + r * 0.8, cx - r, cy + r * 0.8]
  const shape = (r: number, ink: Rgb565) =>
    weight === 'light'
      ? fillRounded(surface, { x: Math.round(cx - r * 0.85), y: Math.round(cy - r * 0.85), width: Math.round(r * 1.7), height: Math.round(r * 1.7) }, r, ink) // prettier-ignore
      : fillPolygon(surface, outline(r), ink)
  shape(radius, colour)
  if (!filled) {
    shape(radius - (weight === 'light' ? 2 : 3.2), ground)
    const [x, y, k] = [cx, cy + (weight === 'middle' ? radius * 0.2 : 0), radius / 8]
    // A tick: seen.
    fillPolygon(surface, [x - 3 * k, y, x - k, y + 2 * k, x + 3 * k, y - 3 * k, x + 3.8 * k, y - 2.2 * k, x - k, y + 3.6 * k, x - 3.8 * k, y + 0.8 * k], colour) // prettier-ignore
  } else if (weight !== 'light') {
    const y = cy + (weight === 'middle' ? radius * 0.15 : 0)
    surface.fill({ x: Math.round(cx - 1), y: Math.round(y - radius * 0.42), width: 2, height: Math.round(radius * 0.5) }, ground)
    surface.fill({ x: Math.round(cx - 1), y: Math.round(y + radius * 0.25), width: 2, height: 2 }, ground)
  }
}
