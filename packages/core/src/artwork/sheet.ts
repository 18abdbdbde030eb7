import {
  coverageOf,
  flatten,
  packGlyph,
  packPair,
  type GlyphSheet,
  type OutlineCommand,
  type Smoothing,
} from '../raster/index.ts'
import { usualLetters } from '../variables/index.ts'
import { advanceAt, glyphOf, kerningAt, outlineOf, type FoundGlyph, type Lettering } from './typeface.ts'

/** Characters that every sheet tries to have. Letters the typeface lacks are left out. */
export const usualCharacters: readonly number[] = Array.from(usualLetters, (letter) => letter.codePointAt(0)!)

/** Coverage of 0 to 255 in the steps of a smoothing: the nearest. */
function stepped(coverage: Uint8Array, bits: Smoothing): Uint8Array {
  if (bits === 8) return coverage
  const steps = (1 << bits) - 1
  return coverage.map((c) => (Math.floor((c * steps) / 255 + 0.5) * 255) / steps)
}

/** Letters drawn, and beside them what the outline of each takes that has any size: bytes, in the order of the metrics. */
export interface Sheet extends GlyphSheet {
  outlines: Int32Array
}

/** Letters at `size` pixels to the em, kept with so many bits a pixel. */
export function makeSheet(
  lettering: Lettering,
  size: number,
  characters: readonly number[] = usualCharacters,
  bits: Smoothing = 8,
): Sheet {
  const { font } = lettering.typeface
  const scale = size / font.unitsPerEm
  const metrics: number[] = []
  const coverage: Uint8Array[] = []
  const outlines: number[] = []
  const drawnGlyphs: FoundGlyph[] = []
  let start = 0
  for (const codePoint of characters) {
    const glyph = glyphOf(lettering, String.fromCodePoint(codePoint))
    const drawn = glyph && drawnAt(glyph, size)
    if (!glyph || !drawn) continue
    const { left, top, width, height, pixels } = drawn
    metrics.push(...packGlyph(codePoint, { start, width, height, left, top, advance: advanceAt(glyph, size) }))
    coverage.push(stepped(pixels, bits))
    outlines.push(drawn.outlineBytes)
    drawnGlyphs.push(glyph)
    start += pixels.length
  }
  const all = new Uint8Array(start)
  let at = 0
  for (const pixels of coverage) {
    all.set(pixels, at)
    at += pixels.length
  }
  const capital = glyphOf({ ...lettering, fallbacks: [] }, 'H')
  const kerning = lettering.kerns ? pairsOf(drawnGlyphs, size) : null
  return {
    ascent: Math.ceil(font.ascender * scale),
    descent: Math.ceil(-font.descender * scale),
    capHeight: (capital && drawnAt(capital, size)?.height) ?? Math.ceil(size * 0.7),
    metrics: Int32Array.from(metrics),
    coverage: all,
    outlines: Int32Array.from(outlines),
    ...(kerning?.length ? { kerning } : {}),
  }
}

/** The pairs that stand otherwise than by their advances. */
function pairsOf(letters: readonly FoundGlyph[], size: number): Int32Array {
  const pairs: number[] = []
  letters.forEach((first, i) =>
    letters.forEach((second, k) => {
      const by = kerningAt(first, second, size)
      if (by) pairs.push(...packPair(i, k, by))
    }),
  )
  return Int32Array.from(pairs)
}

interface Drawn {
  left: number
  top: number
  width: number
  height: number
  pixels: Uint8Array
  outlineBytes: number
}

/** Points that a command of an outline adds to the one before. */
const pointsOf: Record<OutlineCommand['type'], number> = { M: 1, L: 1, Q: 2, C: 3, Z: 0 }

/** An outline as a panel keeps it that draws letters itself: a byte for each command, and 2 bytes for each coordinate. */
const bytesOf = (commands: readonly OutlineCommand[]): number =>
  commands.reduce((bytes, { type }) => bytes + 1 + 4 * pointsOf[type], 0)

/** No letter is larger than so many times its em: what a font says beyond that is not drawn. */
const mostEms = 8

/** A letter at a size; null where its outline cannot be read or is beyond all measure. */
function drawnAt(glyph: FoundGlyph, size: number): Drawn | null {
  try {
    const commands = outlineOf(glyph, size) as OutlineCommand[]
    const drawn = rasterise(commands, size * mostEms)
    return drawn && { ...drawn, outlineBytes: bytesOf(commands) }
  } catch {
    return null
  }
}

function rasterise(commands: OutlineCommand[], most: number): Omit<Drawn, 'outlineBytes'> | null {
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
