import { intersect } from '../base/index.ts'
import type { Rgb565 } from './colour.ts'
import type { Surface } from './surface.ts'

/** So many bits a pixel letters may be kept with: 2 to 256 steps from nothing to the whole ink. */
export const smoothings = [1, 2, 4, 8] as const
export type Smoothing = (typeof smoothings)[number]

/** The numbers of one letter, in the order they stand in `GlyphSheet.metrics`. */
const perGlyph = 7

/**
 * Letters of one typeface at one size as coverage (one byte a pixel). `metrics` holds for each letter: code point, start
 * in `coverage`, width, height, left (pen to the first column, px), top (baseline up to the first row, px),
 * advance in 1/64 px. Letters are in code point order.
 */
export interface GlyphSheet {
  /** Pixels from the baseline up and down that any letter may need, and from line to line. */
  ascent: number
  descent: number
  /** Height of a capital letter: what centring goes by. */
  capHeight: number
  metrics: Int32Array
  coverage: Uint8Array
  /** Pairs that do not stand by their advances: places of the two letters in `metrics`, and how much nearer (< 0), 1/64 px; in order. */
  kerning?: Int32Array
}

export interface Glyph {
  start: number
  width: number
  height: number
  left: number
  top: number
  advance: number
}

export const packGlyph = (codePoint: number, g: Glyph): number[] => [
  codePoint,
  g.start,
  g.width,
  g.height,
  g.left,
  g.top,
  g.advance,
]

const perPair = 3

export const packPair = (first: number, second: number, by: number): number[] => [first, second, by]

/** How much nearer (< 0) or farther the second of two letters stands, 1/64 px; both as `find` gives them. */
function kerned({ kerning }: GlyphSheet, first: number, second: number): number {
  if (!kerning || first < 0 || second < 0) return 0
  const [a, b] = [first / perGlyph, second / perGlyph]
  let low = 0
  let high = kerning.length / perPair - 1
  while (low <= high) {
    const middle = (low + high) >> 1
    const at = middle * perPair
    const order = kerning[at]! - a || kerning[at + 1]! - b
    if (order === 0) return kerning[at + 2]!
    if (order < 0) low = middle + 1
    else high = middle - 1
  }
  return 0
}

/** Where the numbers of a letter begin, or −1 where the sheet has none: binary search. */
function find(metrics: Int32Array, codePoint: number): number {
  let low = 0
  let high = metrics.length / perGlyph - 1
  while (low <= high) {
    const middle = (low + high) >> 1
    const found = metrics[middle * perGlyph]!
    if (found === codePoint) return middle * perGlyph
    if (found < codePoint) low = middle + 1
    else high = middle - 1
  }
  return -1
}

export const hasGlyph = (sheet: GlyphSheet, codePoint: number): boolean => find(sheet.metrics, codePoint) >= 0

/** A letter that the sheet has not is drawn as an empty box of this share of the ascent. */
const boxWidth = (sheet: GlyphSheet): number => Math.max(3, Math.floor(sheet.ascent / 2))

/** Width of a line of text in pixels, rounded up. */
export function textWidth(sheet: GlyphSheet, text: string): number {
  let pen = 0
  let before = -1
  for (const letter of text) {
    const at = find(sheet.metrics, letter.codePointAt(0)!)
    pen += kerned(sheet, before, at)
    before = at
    pen += at < 0 ? (boxWidth(sheet) + 2) * 64 : sheet.metrics[at + 6]!
  }
  return Math.ceil(pen / 64)
}

/** One line of text from the pen at `x` on the baseline `y`. */
export function drawText(surface: Surface, sheet: GlyphSheet, x: number, y: number, text: string, colour: Rgb565): void {
  let pen = 0
  let before = -1
  for (const letter of text) {
    const at = find(sheet.metrics, letter.codePointAt(0)!)
    pen += kerned(sheet, before, at)
    before = at
    const px = x + Math.floor((pen + 32) / 64)
    if (at < 0) {
      drawBox(surface, sheet, px, y, colour)
      pen += (boxWidth(sheet) + 2) * 64
    } else {
      drawGlyph(surface, sheet, at, px, y, colour)
      pen += sheet.metrics[at + 6]!
    }
  }
}

function drawGlyph(surface: Surface, { metrics, coverage }: GlyphSheet, at: number, x: number, y: number, colour: Rgb565): void {
  const start = metrics[at + 1]!
  const width = metrics[at + 2]!
  const left = x + metrics[at + 4]!
  const top = y - metrics[at + 5]!
  const seen = intersect(surface.clip, { x: left, y: top, width, height: metrics[at + 3]! })
  for (let row = seen.y; row < seen.y + seen.height; row++) {
    let next = start + (row - top) * width + seen.x - left
    for (let column = seen.x; column < seen.x + seen.width; column++) {
      const covered = coverage[next++]!
      if (covered) surface.dab(column, row, colour, covered)
    }
  }
}

function drawBox(surface: Surface, sheet: GlyphSheet, x: number, y: number, colour: Rgb565): void {
  const width = boxWidth(sheet)
  const height = sheet.capHeight
  for (const edge of [
    { x: x + 1, y: y - height, width, height: 1 },
    { x: x + 1, y: y - 1, width, height: 1 },
    { x: x + 1, y: y - height, width: 1, height },
    { x: x + width, y: y - height, width: 1, height },
  ])
    surface.fill(edge, colour)
}
