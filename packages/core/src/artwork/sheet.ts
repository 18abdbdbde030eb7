import { packGlyph, type GlyphSheet } from '../raster/index.ts'
import { coverageOf, flatten, type OutlineCommand } from './outline.ts'
import type { Typeface } from './typeface.ts'

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
    const glyph = font.charToGlyph(String.fromCodePoint(codePoint))
    if (!glyph || glyph.index === 0) continue
    const { left, top, width, height, pixels } = rasterise(glyph.getPath(0, 0, size).commands as OutlineCommand[])
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
  const capital = rasterise(font.charToGlyph('H').getPath(0, 0, size).commands as OutlineCommand[])
  return {
    ascent: Math.ceil(font.ascender * scale),
    descent: Math.ceil(-font.descender * scale),
    capHeight: capital.height,
    metrics: Int32Array.from(metrics),
    coverage: all,
  }
}

function rasterise(commands: OutlineCommand[]): { left: number; top: number; width: number; height: number; pixels: Uint8Array } {
  const edges = flatten(commands)
  if (!edges.length) return { left: 0, top: 0, width: 0, height: 0, pixels: new Uint8Array(0) }
  const xs = edges.filter((_, i) => i % 2 === 0)
  const ys = edges.filter((_, i) => i % 2 === 1)
  const left = Math.floor(Math.min(...xs))
  const up = Math.floor(Math.min(...ys))
  const width = Math.ceil(Math.max(...xs)) - left
  const height = Math.ceil(Math.max(...ys)) - up
  const moved = edges.map((v, i) => v - (i % 2 ? up : left))
  return { left, top: -up, width, height, pixels: coverageOf(moved, width, height) }
}
