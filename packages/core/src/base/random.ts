/** A seeded source of chance: the same seed gives the same numbers in every engine (32-bit integer arithmetic only). */
export interface Random {
  /** 0 ≤ x < 1 in steps of 2⁻³². */
  next(): number
  /** A whole number 0 … below − 1. */
  below(below: number): number
}

/** Chance from outside: `bits` gives 32 fresh bits at a time, as a whole number 0 … 2³² − 1. */
export function randomFrom(bits: () => number): Random {
  const next = () => bits() / 4294967296
  return { next, below: (below) => Math.floor(next() * below) }
}

/** The small generator known as mulberry32 (public domain): a counter through an integer mix. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
  return { next, below: (below) => Math.floor(next() * below) }
}
