import * as opentypeModule from 'opentype.js'
import type { Font, Glyph } from 'opentype.js'
import { bad, clamp, good, sentence, type Result } from '../base/index.ts'
import { fontDamage, fontSentences } from './font-file.ts'
import type { Embedding, TypefaceFacts } from './typeface-facts.ts'

// The package's two builds differ in their default export.
const opentype = (opentypeModule as unknown as { default?: typeof opentypeModule }).default ?? opentypeModule

/** A font file understood: TrueType or OpenType outlines, plain or as WOFF, at one of its weights. */
export interface Typeface {
  name: string
  font: Font
}

interface Axis {
  tag: string
  minValue: number
  maxValue: number
}

const weightAxis = (font: Font): Axis | undefined =>
  (font.tables['fvar'] as { axes?: Axis[] } | undefined)?.axes?.find(({ tag }) => tag === 'wght')

/**
 * A font file at a weight; 0: as it is by itself. A weight that it does not go to is the nearest that it has. Problem:
 * `typeface.unreadable` (reason).
 */
export function readTypeface(bytes: Uint8Array, weight = 0): Result<Typeface> {
  const damage = fontDamage(bytes)
  if (damage) return bad('typeface.unreadable', { reason: sentence(fontSentences[damage.code]!, damage.facts) })
  try {
    const font = opentype.parse(bytes.slice().buffer as ArrayBuffer)
    const axis = weightAxis(font)
    if (axis && weight)
      (font as unknown as { variation: { set(at: object): void } }).variation.set({
        wght: clamp(weight, axis.minValue, axis.maxValue),
      })
    const names = font.names as unknown as Record<string, { en?: string } | undefined>
    return good({ name: names['fullName']?.en ?? 'typeface', font })
  } catch {
    // The reader's own words are for those who know its code; the damage that can be told in plain words is told above.
    return bad('typeface.unreadable', { reason: 'a table for its glyphs is missing or invalid' })
  }
}

/** Of several that are set the one that allows most counts; `whole`: not letter by letter (no subsetting). */
const embeddingOf = (flags: number): Embedding =>
  flags & 0x100 && !(flags & 6)
    ? 'whole'
    : flags & 8
      ? 'editable'
      : flags & 4
        ? 'preview'
        : flags & 2
          ? 'restricted'
          : 'installable'

/** Facts that a typeface states. */
export function factsOf({ name, font }: Typeface): TypefaceFacts {
  const axis = weightAxis(font)
  const flags = (font.tables['os2'] as { fsType?: number } | undefined)?.fsType
  const whole = (n: number) => clamp(Math.round(n), 1, 1000)
  return {
    name,
    embedding: flags === undefined ? 'unsaid' : embeddingOf(flags),
    weightFrom: axis ? whole(axis.minValue) : 0,
    weightTo: axis ? whole(axis.maxValue) : 0,
  }
}

/** Letters as a text is set in them. */
export interface Lettering {
  typeface: Typeface
  /** Where letters are taken from that the typeface lacks, the first that has one. */
  fallbacks: readonly Typeface[]
  /** Letters of a pair stand as the typeface wants them beside each other. */
  kerns: boolean
}

/** A typeface by itself, letter after letter. */
export const plainly = (typeface: Typeface): Lettering => ({ typeface, fallbacks: [], kerns: false })

export interface FoundGlyph {
  glyph: Glyph
  /** The typeface that has it. */
  of: Typeface
}

/** The glyph of a letter; null where no typeface has it, or in a way that cannot be read. */
export function glyphOf({ typeface, fallbacks }: Lettering, letter: string): FoundGlyph | null {
  for (const of of [typeface, ...fallbacks]) {
    try {
      const glyph = of.font.charToGlyph(letter) as Glyph | null
      if (glyph && glyph.index !== 0) return { glyph, of }
    } catch {
      // Another may have it.
    }
  }
  return null
}

/** The pairs of a typeface that are not as far from each other as they would be: font units, by glyphs. */
export function kerningOf({ font }: Typeface, first: Glyph, second: Glyph): number {
  try {
    const by = font.getKerningValue(first, second)
    return Number.isFinite(by) ? by : 0
  } catch {
    return 0
  }
}

/** Advance of a letter, and how much nearer the next one stands, in 1/64 px. */
export const advanceAt = ({ glyph, of }: FoundGlyph, size: number): number =>
  Math.floor(((glyph.advanceWidth ?? 0) / of.font.unitsPerEm) * size * 64 + 0.5)

/** How much nearer (less than 0) or farther two letters stand than by their advances, 1/64 px: only of one typeface. */
export const kerningAt = (first: FoundGlyph, second: FoundGlyph, size: number): number =>
  first.of === second.of
    ? Math.floor((kerningOf(first.of, first.glyph, second.glyph) / first.of.font.unitsPerEm) * size * 64 + 0.5)
    : 0

/** Glyphs by letter, found once; null for a letter that is lacking. */
const glyphs = new WeakMap<Lettering, Map<string, FoundGlyph | null>>()

function known(lettering: Lettering, letter: string): FoundGlyph | null {
  let found = glyphs.get(lettering)
  if (!found) glyphs.set(lettering, (found = new Map()))
  let glyph = found.get(letter)
  if (glyph === undefined) {
    glyph = glyphOf(lettering, letter)
    // A variable font sets a glyph to its weight only when it is drawn.
    if (glyph) widthSettled(glyph)
    found.set(letter, glyph)
  }
  return glyph
}

const bare = { hinting: false, drawLayers: false, drawSVG: false } as opentypeModule.RenderOptions

/** The outline of a letter at a size, at the weight of its typeface. Throws what the reader throws of a font that lies. */
export function outlineOf({ glyph, of }: FoundGlyph, size: number): unknown[] {
  // Hints and colours are not drawn; only a font with weights must be asked for the one it is at.
  return weightAxis(of.font) ? glyph.getPath(0, 0, size, bare, of.font).commands : glyph.getPath(0, 0, size).commands
}

/** A letter of a font with weights knows its advance once its outline has been read. */
function widthSettled(found: FoundGlyph): void {
  if (!weightAxis(found.of.font)) return
  try {
    outlineOf(found, 16)
  } catch {
    // It is drawn as nothing, and as wide as it says.
  }
}

/** About what the empty box takes that stands for a letter the typeface lacks, in shares of the em. */
const boxAdvance = 0.5

/** Width of a line of text at a size, pixels, as a sheet of that size would give it. */
export function measureText(lettering: Lettering, size: number, text: string): number {
  let pen = 0
  let before: FoundGlyph | null = null
  for (const letter of text) {
    const glyph = known(lettering, letter)
    if (before && glyph && lettering.kerns) pen += kerningAt(before, glyph, size)
    pen += glyph ? advanceAt(glyph, size) : Math.floor(boxAdvance * size * 64 + 0.5)
    before = glyph
  }
  return Math.ceil(pen / 64)
}

/** The letters of a text that are lacking, each once. */
export const lettersLacking = (lettering: Lettering, text: string): string[] =>
  [...new Set(text)].filter((letter) => letter !== '\n' && !known(lettering, letter))
