import type { Direction } from '../frames/index.ts'
import type { Sample } from './example.ts'

/** A stretch of one example that a guess explains: bytes `from` to `to` (excluded) on the wire, and the kind of part they would be. */
export interface Explains {
  example: number
  from: number
  to: number
  kind: string
}

/** One reading of some bytes that fits every example that has them. */
export interface Guess {
  key: string
  /** `bytes 3–4: address, big-endian` */
  says: string
  fits: number
  of: number
  explains: readonly Explains[]
}

/** A question to the examples, with the readings that fit, the likeliest first. */
export interface Slot {
  key: string
  label: string
  guesses: readonly Guess[]
}

/** The guesses that are taken: the key of one for the key of its slot. */
export type Taken = Readonly<Record<string, string>>

/** All that the examples of one way say. */
export interface Inferred<W> {
  slots: readonly Slot[]
  /** Questions that the examples leave open, each with the frame that would tell. */
  notes: readonly string[]
  /** Bytes that no guess explains, by example; they count once all slots are taken. */
  open: readonly Explains[]
  way: W | null
}

/** The examples of one way with their numbers in the list. */
export interface WaySamples {
  samples: readonly (Sample & { index: number })[]
  directions: readonly Direction[]
}

/** `bytes 3–4`, from 1 as people count them; in an end, `last 2 bytes`. */
export const bytesWords = (from: number, size: number): string =>
  size === 1 ? `byte ${from + 1}` : `bytes ${from + 1}–${from + size}`
