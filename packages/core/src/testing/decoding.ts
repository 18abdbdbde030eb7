import { expect } from 'vitest'
import type { Anatomy, Decoder, Outcome } from '../frames/index.ts'

/** Outcomes of chunks that come without a silence, with what is given up at last. */
export function decoded(decoder: Decoder, chunks: readonly Uint8Array[]): Outcome[] {
  return [...chunks.flatMap((chunk) => decoder.feed(chunk, 1000, 1000)), ...decoder.expire(1e12)]
}

/** The law that chunking makes no difference: byte by byte, and cut anywhere. */
export function expectAnyChunking(make: () => Decoder, bytes: Uint8Array, cuts: readonly number[]): void {
  const whole = decoded(make(), [bytes])
  expect(
    decoded(
      make(),
      Array.from(bytes, (byte) => Uint8Array.of(byte)),
    ),
  ).toEqual(whole)
  const ends = [...cuts.map((cut) => cut % (bytes.length + 1)), bytes.length].sort((a, b) => a - b)
  expect(
    decoded(
      make(),
      ends.map((end, i) => bytes.slice(ends[i - 1] ?? 0, end)),
    ),
  ).toEqual(whole)
}

/** The law that anatomy tiles a frame, and agrees with the decoder about whether it is one. */
export function expectAnatomy({ pieces, readings, bad }: Anatomy, make: () => Decoder, wire: Uint8Array): void {
  expect(pieces.map((p) => p.from)).toEqual([0, ...pieces.slice(0, -1).map((p) => p.to)])
  expect(pieces.at(-1)!.to).toBe(wire.length)
  const outcomes = decoded(make(), [wire])
  const isWhole = outcomes.length === 1 && outcomes[0]!.kind === 'frame'
  expect([readings.length > 0, bad === null]).toEqual([isWhole, isWhole])
}
