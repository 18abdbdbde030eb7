import type { LetterSpec } from '../artwork/index.ts'
import type { Smoothing } from '../raster/index.ts'

/** The letters of a font as the panel keeps them. */
export interface FontPart {
  /** By which widgets name it. */
  key: string
  spec: LetterSpec
  letters: string
  /** Pairs that stand otherwise than by their advances. */
  pairs: number
  bytes: number
  /** The part that keeps letters for this one, of the same typeface in another size, by its key; '' for none. */
  shares: string
}

/** A picture as the panel keeps it; one that is transparent and stands on several grounds is kept as often. */
export interface PicturePart {
  key: string
  /** The picture of the project. */
  id: string
  bytes: number
  /** Bytes pixel by pixel, and in runs of one colour. */
  plain: number
  runs: number
  /** RGB565 that all of it has, or −1. */
  flat: number
  /** Pixels of one colour all around it. */
  margin: number
}

export interface PagePart {
  number: number
  bytes: number
}

/** Flash layout of a build on the panel. Nothing overlaps: parts are laid one after another. */
export interface ArtworkPlan {
  fonts: readonly FontPart[]
  pictures: readonly PicturePart[]
  pages: readonly PagePart[]
  /** Bytes there are, and bytes taken. */
  room: number
  used: number
}

/** Bytes beside the pixels of a letter: code point, start (4 each), width, height, left, top, advance (2 each). */
const bytesPerLetter = 18
/** Two letters (2 bytes each) and how much nearer they stand (2). */
const bytesPerPair = 6
const numbersPerLetter = 7

/** Bytes of letters on the panel: pixels of each letter in `bits` each, filled up to whole bytes, and the numbers beside them. */
export function letterBytes(metrics: Int32Array, pairs: number, bits: Smoothing): number {
  let bytes = pairs * bytesPerPair
  for (let at = 0; at < metrics.length; at += numbersPerLetter)
    bytes += bytesPerLetter + Math.ceil((metrics[at + 2]! * metrics[at + 3]! * bits) / 8)
  return bytes
}

/** Bytes beside the outline of a letter: code point, start (4 each), advance (2). */
const bytesPerOutline = 10

/** Letters whose outlines a panel keeps once, whatever their sizes: what each font adds to those before it. */
export class OutlineRoom {
  private kept = new Map<string, { first: string; letters: Set<number>; pairs: number }>()

  /**
   * Bytes that a font adds, and the part that has the rest. `typeface`: by which fonts are told apart that share no outlines; `key`
   * and `metrics` are those of the font.
   */
  add(
    typeface: string,
    key: string,
    metrics: Int32Array,
    outlines: Int32Array,
    pairs: number,
  ): Pick<FontPart, 'bytes' | 'shares'> {
    const known = this.kept.get(typeface)
    const kept = known ?? { first: key, letters: new Set<number>(), pairs: 0 }
    this.kept.set(typeface, kept)
    let bytes = Math.max(0, pairs - kept.pairs) * bytesPerPair
    kept.pairs = Math.max(kept.pairs, pairs)
    outlines.forEach((outline, k) => {
      const letter = metrics[k * numbersPerLetter]!
      if (kept.letters.has(letter)) return
      kept.letters.add(letter)
      bytes += bytesPerOutline + outline
    })
    return { bytes, shares: known ? known.first : '' }
  }
}

const sum = (parts: readonly { bytes: number }[]): number => parts.reduce((all, { bytes }) => all + bytes, 0)

export const planned = (room: number, fonts: FontPart[], pictures: PicturePart[], pages: PagePart[]): ArtworkPlan => ({
  fonts,
  pictures,
  pages,
  room,
  used: sum(fonts) + sum(pictures) + sum(pages),
})
