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

/** What a build takes of the room that the panel has for it. Nothing overlaps: parts are laid one after another. */
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

const sum = (parts: readonly { bytes: number }[]): number => parts.reduce((all, { bytes }) => all + bytes, 0)

export const planned = (room: number, fonts: FontPart[], pictures: PicturePart[], pages: PagePart[]): ArtworkPlan => ({
  fonts,
  pictures,
  pages,
  room,
  used: sum(fonts) + sum(pictures) + sum(pages),
})
