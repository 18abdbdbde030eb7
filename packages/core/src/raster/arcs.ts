import { clamp, cosine, intersect, sine } from '../base/index.ts'
import type { Rgb565 } from './colour.ts'
import type { Surface } from './surface.ts'

/** A point at a distance from another, at a bearing: degrees clockwise from the top, as gauges and compasses have them. */
export const atBearing = (cx: number, cy: number, radius: number, bearing: number): { x: number; y: number } => ({
  x: cx + radius * sine(bearing),
  y: cy - radius * cosine(bearing),
})

/** Part of a ring: radii in pixels, bearings in degrees clockwise from the top. */
export interface Arc {
  cx: number
  cy: number
  inner: number
  outer: number
  from: number
  /** How far it goes on clockwise, 0–360. */
  sweep: number
}

/**
 * Fills a part of a ring, its edges smooth over one pixel. Its ends are cut along the radius: a pixel is inside by its signed
 * distance to both rays, so no angle is ever computed.
 */
export function fillArc(surface: Surface, { cx, cy, inner, outer, from, sweep }: Arc, colour: Rgb565): void {
  if (sweep <= 0 || outer <= 0) return
  const reach = Math.ceil(outer) + 1
  const area = intersect(surface.clip, {
    x: Math.floor(cx) - reach,
    y: Math.floor(cy) - reach,
    width: 2 * reach + 2,
    height: 2 * reach + 2,
  })
  const whole = sweep >= 360
  const [c1, s1, c2, s2] = [cosine(from), sine(from), cosine(from + sweep), sine(from + sweep)]
  const narrow = sweep <= 180
  const [least, most] = [Math.max(0, inner - 1), outer + 1]
  for (let y = area.y; y < area.y + area.height; y++) {
    const dy = y + 0.5 - cy
    for (let x = area.x; x < area.x + area.width; x++) {
      const dx = x + 0.5 - cx
      const square = dx * dx + dy * dy
      if (square < least * least || square > most * most) continue
      const r = Math.sqrt(square)
      const across = Math.min(clamp(outer - r + 0.5, 0, 1), inner > 0 ? clamp(r - inner + 0.5, 0, 1) : 1)
      if (across === 0) continue
      let along = 1
      if (!whole) {
        const begun = dx * c1 + dy * s1
        const left = -(dx * c2 + dy * s2)
        along = clamp((narrow ? Math.min(begun, left) : Math.max(begun, left)) + 0.5, 0, 1)
      }
      surface.dab(x, y, colour, Math.floor(across * along * 255 + 0.5))
    }
  }
}

/** A straight stroke with round ends between two points. */
export function fillStroke(
  surface: Surface,
  from: { x: number; y: number },
  to: { x: number; y: number },
  width: number,
  colour: Rgb565,
): void {
  const half = width / 2
  const [left, top] = [Math.floor(Math.min(from.x, to.x) - half) - 1, Math.floor(Math.min(from.y, to.y) - half) - 1]
  const area = intersect(surface.clip, {
    x: left,
    y: top,
    width: Math.ceil(Math.max(from.x, to.x) + half) + 1 - left,
    height: Math.ceil(Math.max(from.y, to.y) + half) + 1 - top,
  })
  const [dx, dy] = [to.x - from.x, to.y - from.y]
  const square = dx * dx + dy * dy
  const reach = (half + 0.5) * (half + 0.5)
  for (let y = area.y; y < area.y + area.height; y++) {
    const py = y + 0.5 - from.y
    for (let x = area.x; x < area.x + area.width; x++) {
      const px = x + 0.5 - from.x
      const t = square === 0 ? 0 : clamp((px * dx + py * dy) / square, 0, 1)
      const ex = px - t * dx
      const ey = py - t * dy
      const away = ex * ex + ey * ey
      if (away >= reach) continue
      const covered = clamp(half - Math.sqrt(away) + 0.5, 0, 1)
      surface.dab(x, y, colour, Math.floor(covered * 255 + 0.5))
    }
  }
}
