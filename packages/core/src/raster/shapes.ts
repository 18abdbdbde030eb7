import { clamp, cosine, intersect, sine, type Rect } from '../base/index.ts'
import { rgb565, type Rgb565 } from './colour.ts'
import type { Surface } from './surface.ts'

/** The colour of a pixel of the glass: plain, or from one colour to another along a rectangle. */
export interface Ink {
  (x: number, y: number): Rgb565
  /** Along a row its colours come again after four pixels. */
  repeats?: true
}

interface Channels {
  red: number
  green: number
  blue: number
}

/** Thresholds of a 4 × 4 ordered dither (Bayer), sixteenths. */
const bayer = [0, 8, 2, 10, 12, 4, 14, 6, 3, 11, 1, 9, 15, 7, 13, 5]

/**
 * A straight gradient over `rect`. Sixteen-bit colour shows bands, so each pixel is dithered by its own place: a part
 * painted later meets the rest without a seam.
 */
export function gradientInk(rect: Rect, from: Channels, to: Channels, direction: 'down' | 'right'): Ink {
  const steps = Math.max(1, (direction === 'down' ? rect.height : rect.width) - 1)
  const ink: Ink = (x, y) => {
    const t = clamp((direction === 'down' ? y - rect.y : x - rect.x) / steps, 0, 1)
    const nudge = bayer[(y & 3) * 4 + (x & 3)]! / 16
    const red = Math.min(255, Math.floor(from.red + (to.red - from.red) * t + nudge * 8))
    const green = Math.min(255, Math.floor(from.green + (to.green - from.green) * t + nudge * 4))
    const blue = Math.min(255, Math.floor(from.blue + (to.blue - from.blue) * t + nudge * 8))
    return rgb565(red, green, blue)
  }
  // A step of the dither is four pixels wide, and a gradient downwards has one shade a row.
  if (direction === 'down') ink.repeats = true
  return ink
}

/** A colour somewhere along a gradient, 0 at its begin and 1 at its end. */
export interface Stop {
  at: number
  colour: Channels
}

/** Where along a gradient over a rectangle the middle of a pixel lies, 0–1. */
type Along = (x: number, y: number) => number

/** Towards a bearing (degrees, 0 up, 90 to the right): the corners of the rectangle that lie farthest are its ends. */
export function alongBearing(rect: Rect, bearing: number): Along {
  const [dx, dy] = [sine(bearing), -cosine(bearing)]
  const length = Math.max(1, Math.abs(rect.width * dx) + Math.abs(rect.height * dy))
  const [cx, cy] = [rect.x + rect.width / 2, rect.y + rect.height / 2]
  return (x, y) => clamp(((x + 0.5 - cx) * dx + (y + 0.5 - cy) * dy) / length + 0.5, 0, 1)
}

/** From the middle outwards: an ellipse that reaches the sides is its end. */
export function fromMiddle(rect: Rect): Along {
  const [a, b] = [rect.width / 2, rect.height / 2]
  return (x, y) => {
    const [u, v] = [(x + 0.5 - rect.x - a) / a, (y + 0.5 - rect.y - b) / b]
    return Math.min(1, Math.sqrt(u * u + v * v))
  }
}

/** Colours from stop to stop, in order of where they are, dithered as `gradientInk` does. */
export function fadeInk(stops: readonly Stop[], along: Along): Ink {
  return (x, y) => {
    const t = along(x, y)
    let k = 1
    while (k < stops.length - 1 && t > stops[k]!.at) k++
    const [from, to] = [stops[k - 1]!, stops[k]!]
    const share = to.at > from.at ? clamp((t - from.at) / (to.at - from.at), 0, 1) : t < to.at ? 0 : 1
    const nudge = bayer[(y & 3) * 4 + (x & 3)]! / 16
    const mix = (a: number, b: number, step: number) => Math.min(255, Math.floor(a + (b - a) * share + nudge * step))
    return rgb565(
      mix(from.colour.red, to.colour.red, 8),
      mix(from.colour.green, to.colour.green, 4),
      mix(from.colour.blue, to.colour.blue, 8),
    )
  }
}

/** Radii of a box at its corners, px: top left, top right, bottom right, bottom left. */
export type Corners = readonly [number, number, number, number]

/** Coverage 0–255 of a pixel by a box whose corners have radii of their own, each at most half the shorter side. */
function corneredCoverage(rect: Rect, corners: Corners, x: number, y: number): number {
  const [px, py] = [x + 0.5 - rect.x, y + 0.5 - rect.y]
  const isRight = px > rect.width / 2
  const isLow = py > rect.height / 2
  const radius = Math.min(corners[isLow ? (isRight ? 2 : 3) : isRight ? 1 : 0], rect.width / 2, rect.height / 2)
  const dx = radius - (isRight ? rect.width - px : px)
  const dy = radius - (isLow ? rect.height - py : py)
  if (dx <= 0 || dy <= 0) return 255
  return Math.floor(clamp(radius - Math.sqrt(dx * dx + dy * dy) + 0.5, 0, 1) * 255 + 0.5)
}

/** How much of a pixel a box or an ellipse covers, 0–255. */
export type Covers = (x: number, y: number) => number
export const boxCovers =
  (rect: Rect, corners: Corners): Covers =>
  (x, y) =>
    x < rect.x || y < rect.y || x >= rect.x + rect.width || y >= rect.y + rect.height ? 0 : corneredCoverage(rect, corners, x, y)
export const ellipseCovers =
  (rect: Rect): Covers =>
  (x, y) =>
    ellipseCoverage(rect, x, y)

/** A box whose corners have radii of their own. */
export function fillCornered(surface: Surface, rect: Rect, corners: Corners, ink: Rgb565 | Ink): void {
  const area = intersect(surface.clip, rect)
  const most = Math.ceil(Math.max(...corners))
  for (let y = area.y; y < area.y + area.height; y++) {
    const isPlain = y >= rect.y + most && y < rect.y + rect.height - most
    if (isPlain) fillSpan(surface, y, area.x, area.x + area.width, ink)
    else
      for (let x = area.x; x < area.x + area.width; x++) surface.dab(x, y, at(ink, x, y), corneredCoverage(rect, corners, x, y))
  }
}

/** Coverage 0–255 of a pixel by a rounded box: the distance of its centre to the edge, clipped to one pixel. */
function roundedCoverage(rect: Rect, radius: number, x: number, y: number): number {
  const dx = Math.max(rect.x + radius - (x + 0.5), x + 0.5 - (rect.x + rect.width - radius), 0)
  const dy = Math.max(rect.y + radius - (y + 0.5), y + 0.5 - (rect.y + rect.height - radius), 0)
  if (dx === 0 || dy === 0) return 255
  return Math.floor(clamp(radius - Math.sqrt(dx * dx + dy * dy) + 0.5, 0, 1) * 255 + 0.5)
}

/** A box with rounded corners; radius in pixels, at most half the shorter side. */
export function fillRounded(surface: Surface, rect: Rect, radius: number, ink: Rgb565 | Ink): void {
  const r = Math.min(radius, rect.width / 2, rect.height / 2)
  const area = intersect(surface.clip, rect)
  const corner = Math.ceil(r)
  for (let y = area.y; y < area.y + area.height; y++) {
    const cornerRow = y < rect.y + corner || y >= rect.y + rect.height - corner
    const left = cornerRow ? clamp(rect.x + corner, area.x, area.x + area.width) : area.x
    const right = cornerRow ? clamp(rect.x + rect.width - corner, left, area.x + area.width) : area.x + area.width
    for (let x = area.x; x < left; x++) surface.dab(x, y, at(ink, x, y), roundedCoverage(rect, r, x, y))
    fillSpan(surface, y, left, right, ink)
    for (let x = right; x < area.x + area.width; x++) surface.dab(x, y, at(ink, x, y), roundedCoverage(rect, r, x, y))
  }
}

/** Part of a row that is covered wholly, inside the clip. */
function fillSpan(surface: Surface, y: number, from: number, to: number, ink: Rgb565 | Ink): void {
  if (typeof ink === 'number') surface.fill({ x: from, y, width: to - from, height: 1 }, ink)
  else if (ink.repeats) surface.fillRow(y, from, to, [ink(0, y), ink(1, y), ink(2, y), ink(3, y)])
  else for (let x = from; x < to; x++) surface.dab(x, y, ink(x, y), 255)
}

const at = (ink: Rgb565 | Ink, x: number, y: number): Rgb565 => (typeof ink === 'number' ? ink : ink(x, y))

/** Coverage 0–255 of a pixel by the ellipse that fills `rect`. */
function ellipseCoverage(rect: Rect, x: number, y: number): number {
  const [a, b] = [rect.width / 2, rect.height / 2]
  const u = (x + 0.5 - rect.x - a) / a
  const v = (y + 0.5 - rect.y - b) / b
  const f = Math.sqrt(u * u + v * v)
  const slope = Math.sqrt((u / a) * (u / a) + (v / b) * (v / b)) / Math.max(f, 1e-9)
  const coverage = f === 0 ? 1 : clamp((1 - f) / slope + 0.5, 0, 1)
  return Math.floor(coverage * 255 + 0.5)
}

/** An ellipse that fills `rect`. The edge is smooth over about one pixel: (1 − f)·|gradient of f|⁻¹ as distance. */
export function fillEllipse(surface: Surface, rect: Rect, ink: Rgb565 | Ink): void {
  const a = rect.width / 2
  const b = rect.height / 2
  const area = intersect(surface.clip, rect)
  for (let y = area.y; y < area.y + area.height; y++) {
    // Nothing is seen beyond an ellipse two pixels larger all around.
    const up = (y + 0.5 - rect.y - b) / (b + 2)
    const reach = Math.sqrt(Math.max(0, 1 - up * up)) * (a + 2)
    const begin = Math.max(area.x, Math.floor(rect.x + a - reach) - 1)
    const end = Math.min(area.x + area.width, Math.ceil(rect.x + a + reach) + 1)
    // From either end as far as the edge goes; between them all is covered.
    let left = begin
    for (; left < end; left++) {
      const coverage = ellipseCoverage(rect, left, y)
      if (coverage === 255) break
      surface.dab(left, y, at(ink, left, y), coverage)
    }
    let right = end
    for (; right > left; right--) {
      const coverage = ellipseCoverage(rect, right - 1, y)
      if (coverage === 255) break
      surface.dab(right - 1, y, at(ink, right - 1, y), coverage)
    }
    fillSpan(surface, y, left, right, ink)
  }
}

/** A straight line of `width` pixels with square ends over `inside`, from its top left to its bottom right or back. */
export function fillLine(
  surface: Surface,
  inside: Rect,
  from: { x: number; y: number },
  to: { x: number; y: number },
  width: number,
  colour: Rgb565,
): void {
  const area = intersect(surface.clip, inside)
  const dx = to.x - from.x
  const dy = to.y - from.y
  const length = Math.sqrt(dx * dx + dy * dy)
  if (length === 0) return
  for (let y = area.y; y < area.y + area.height; y++) {
    for (let x = area.x; x < area.x + area.width; x++) {
      const px = x + 0.5 - from.x
      const py = y + 0.5 - from.y
      const along = (px * dx + py * dy) / length
      const across = Math.abs(px * dy - py * dx) / length
      const inLength = clamp(Math.min(along, length - along) + 0.5, 0, 1)
      surface.dab(x, y, colour, Math.floor(clamp(width / 2 - across + 0.5, 0, 1) * inLength * 255 + 0.5))
    }
  }
}
