import { packGlyph, type GlyphSheet } from '../raster/index.ts'
import { coverageOf, flatten, type OutlineCommand } from '../raster/index.ts'
import { glyphOf, type Typeface } from './typeface.ts'
import type { Glyph } from 'opentype.js'

const range = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i)

/** What every sheet tries to have: ASCII, Latin-1, and signs that panels use. Letters the typeface lacks are left out. */
export const usualCharacters: readonly number[] = [
  ...range(0x20, 0x7e),
  ...range(0xa0, 0xff),
  ...Array.from('ŒœŠšŽžŸ–—‘’“”•…€←↑→↓−≤≥', (c) => c.codePointAt(0)!),
].sort((a, b) => a - b)

/** A sheet of one typeface at `size` pixels to the em. */
export function makeSheet(typeface: Typeface, size: number, characters: readonly number[] = usualCharacters): GlyphSheet {
  const { font } = typeface
  const scale = size / font.unitsPerEm
  const metrics: number[] = []
  const coverage: Uint8Array[] = []
  let start = 0
  for (const codePoint of characters) {
    const glyph = glyphOf(typeface, String.fromCodePoint(codePoint))
    const drawn = glyph && drawnAt(glyph, size)
    if (!glyph || !drawn) continue
    const { left, top, width, height, pixels } = drawn
    metrics.push(
      ...packGlyph(codePoint, {
        start,
        width,
        height,
        left,
        top,
        advance: Math.floor((glyph.advanceWidth ?? 0) * scale * 64 + 0.5),
      }),
    )
    coverage.push(pixels)
    start += pixels.length
  }
  const all = new Uint8Array(start)
  let at = 0
  for (const pixels of coverage) {
    all.set(pixels, at)
    at += pixels.length
  }
  const capital = glyphOf(typeface, 'H')
  return {
    ascent: Math.ceil(font.ascender * scale),
    descent: Math.ceil(-font.descender * scale),
    capHeight: (capital && drawnAt(capital, size)?.height) ?? Math.ceil(size * 0.7),
    metrics: Int32Array.from(metrics),
    coverage: all,
  }
}

interface Drawn {
  left: number
  top: number
  width: number
  height: number
  pixels: Uint8Array
}

/** No letter is larger than so many times its em: what a font says beyond that is not drawn. */
const mostEms = 8

/** A letter at a size; null where its outline cannot be read or is beyond all measure. */
function drawnAt(glyph: Glyph, size: number): Drawn | null {
  try {
    return rasterise(glyph.getPath(0, 0, size).commands as OutlineCommand[], size * mostEms)
  } catch {
    return null
  }
}

function rasterise(commands: OutlineCommand[], most: number): Drawn | null {
  const edges = flatten(commands)
  if (!edges.length) return { left: 0, top: 0, width: 0, height: 0, pixels: new Uint8Array(0) }
  const low = [Infinity, Infinity]
  const high = [-Infinity, -Infinity]
  for (let i = 0; i < edges.length; i++) {
    low[i % 2] = Math.min(low[i % 2]!, edges[i]!)
    high[i % 2] = Math.max(high[i % 2]!, edges[i]!)
  }
  const [left, up] = [Math.floor(low[0]!), Math.floor(low[1]!)]
  const [width, height] = [Math.ceil(high[0]!) - left, Math.ceil(high[1]!) - up]
  if (!(width <= most && height <= most)) return null
  const moved = edges.map((v, i) => v - (i % 2 ? up : left))
  return { left, top: -up, width, height, pixels: coverageOf(moved, width, height) }
}
