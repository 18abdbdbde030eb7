import * as opentypeModule from 'opentype.js'
import type { Font, Glyph } from 'opentype.js'
import { bad, good, sentence, type Result } from '../base/index.ts'
import { fontDamage, fontSentences } from './font-file.ts'

// The package's two builds differ in their default export.
const opentype = (opentypeModule as unknown as { default?: typeof opentypeModule }).default ?? opentypeModule

/** A font file understood: TrueType or OpenType outlines, plain or as WOFF. */
export interface Typeface {
  name: string
  font: Font
}

/** Problem: `typeface.unreadable` (reason). */
export function readTypeface(bytes: Uint8Array): Result<Typeface> {
  const damage = fontDamage(bytes)
  if (damage) return bad('typeface.unreadable', { reason: sentence(fontSentences[damage.code]!, damage.facts) })
  try {
    const font = opentype.parse(bytes.slice().buffer as ArrayBuffer)
    const names = font.names as unknown as Record<string, { en?: string } | undefined>
    return good({ name: names['fullName']?.en ?? 'typeface', font })
  } catch (error) {
    return bad('typeface.unreadable', { reason: error instanceof Error ? error.message : 'not a font file' })
  }
}

/** The glyph of a letter; null where the typeface lacks it or has it in a way that cannot be read. */
export function glyphOf({ font }: Typeface, letter: string): Glyph | null {
  try {
    const glyph = font.charToGlyph(letter) as Glyph | null
    return glyph && glyph.index !== 0 ? glyph : null
  } catch {
    return null
  }
}

/** Advances by letter, in shares of the em; −1 for a letter the typeface lacks. */
const advances = new WeakMap<Typeface, Map<string, number>>()

function advanceOf(typeface: Typeface, letter: string): number {
  let known = advances.get(typeface)
  if (!known) advances.set(typeface, (known = new Map()))
  let advance = known.get(letter)
  if (advance === undefined) {
    const glyph = glyphOf(typeface, letter)
    advance = glyph ? (glyph.advanceWidth ?? 0) / typeface.font.unitsPerEm : -1
    known.set(letter, advance)
  }
  return advance
}

/** About what the empty box takes that stands for a letter the typeface lacks, in shares of the em. */
const boxAdvance = 0.5

/** Width of a line of text at a size, pixels, as a sheet of that size would give it. */
export function measureText(typeface: Typeface, size: number, text: string): number {
  let pen = 0
  for (const letter of text) {
    const advance = advanceOf(typeface, letter)
    pen += Math.floor((advance < 0 ? boxAdvance : advance) * size * 64 + 0.5)
  }
  return Math.ceil(pen / 64)
}

/** The letters of a text that the typeface lacks, each once. */
export const lettersLacking = (typeface: Typeface, text: string): string[] =>
  [...new Set(text)].filter((letter) => letter !== '\n' && advanceOf(typeface, letter) < 0)
