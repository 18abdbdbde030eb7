import { expect, test } from 'vitest'
import { joinBytes, mustHold, seededRandom, toHex, type Random } from '../base/index.ts'
import { decoded, expectAnatomy, expectAnyChunking } from '../testing/decoding.ts'
import { randomLayout, randomMessage } from '../testing/random-layouts.ts'
import {
  ambiguities,
  checkLayout,
  codecOf,
  compileLayout,
  dissect,
  encodeFrame,
  makeDecoder,
  type BinaryLayout,
  type Direction,
  type DirectionCodec,
} from './index.ts'

// The laws of decoding over layouts by chance: all that the checker accepts obey them.

const wanted = 90
const framesEach = 8

/** Layouts by chance that the checker accepts, and of which no two forms may be the same frame. */
function* accepted(random: Random): Generator<BinaryLayout> {
  for (let n = 0; n < 60_000; n++) {
    const layout = randomLayout(random, n)
    if (!checkLayout(layout).length && !ambiguities(layout).length) yield layout
  }
}

/** Frames that a direction can say. */
function framesOf(side: DirectionCodec, random: Random): Uint8Array[] {
  const out: Uint8Array[] = []
  for (let k = 0; k < 200 && out.length < framesEach; k++) {
    const made = encodeFrame(side, randomMessage(random, side.direction, side.mostPayload))
    if (made.ok) out.push(made.value)
  }
  return out
}

/** Outcomes tile the bytes, and each frame is said again as it came, by one of its readings. */
function expectLaws(side: DirectionCodec, bytes: Uint8Array, sharesFlags: boolean): void {
  let at = 0
  for (const outcome of decoded(makeDecoder(side), [bytes])) {
    expect(outcome.from).toBe(at)
    expect(outcome.to).toBeGreaterThan(at)
    at = outcome.to
    if (outcome.kind !== 'frame') continue
    const here = toHex(bytes.slice(outcome.from, outcome.to))
    const again = outcome.readings.map((message) => toHex(mustHold(encodeFrame(side, message))))
    // A frame may share its opening flag with the one before it.
    expect(again.some((one) => one === here || (sharesFlags && one.slice(3) === here))).toBe(true)
  }
  expect(at).toBe(bytes.length)
}

test('90 layouts by chance, of every framing: messages come back, damage is told, chunks make no difference', () => {
  const random = seededRandom(2323)
  const kinds = new Map<string, number>()
  let [layouts, frames] = [0, 0]
  const packed = new Set<string>()
  for (const layout of accepted(random)) {
    const { kind } = layout.toPanel.framing
    // As many of each framing.
    if ((kinds.get(kind) ?? 0) >= wanted / 6) continue
    for (const { parts } of layout.toPanel.forms) for (const { part } of parts) packed.add(part)
    kinds.set(kind, (kinds.get(kind) ?? 0) + 1)
    const codec = mustHold(compileLayout(layout))
    const sharesFlags = kind === 'delimited'
    for (const direction of ['to panel', 'to host'] as const satisfies readonly Direction[]) {
      const side = codecOf(codec, direction)
      const said = framesOf(side, random)
      for (const wire of said) {
        frames++
        const whole = decoded(makeDecoder(side), [wire])
        expect([layout.name, kind, toHex(wire), whole.map((outcome) => outcome.kind)]).toEqual([
          layout.name,
          kind,
          toHex(wire),
          ['frame'],
        ])
        expectLaws(side, wire, sharesFlags)
        // Cut at every byte, and every bit flipped.
        for (let cut = 1; cut < wire.length; cut++) expectLaws(side, wire.slice(0, cut), sharesFlags)
        for (let bit = 0; bit < wire.length * 8; bit++) {
          const bent = wire.slice()
          bent[bit >> 3]! ^= 1 << (bit & 7)
          expectLaws(side, bent, sharesFlags)
        }
        expectAnatomy(dissect(side, wire), () => makeDecoder(side), wire)
      }
      const junk = () => Uint8Array.from({ length: random.below(12) }, () => random.below(256))
      const stream = joinBytes(said.flatMap((wire) => [junk(), wire]))
      expectLaws(side, stream, sharesFlags)
      expectAnyChunking(
        () => makeDecoder(side),
        stream,
        Array.from({ length: 6 }, () => random.below(1000)),
      )
    }
    if (++layouts >= wanted) break
  }
  expect([...kinds.keys()].sort()).toEqual(['cobs', 'delimited', 'ended', 'fixed', 'length-led', 'silent'].sort())
  expect(layouts).toBe(wanted)
  expect([packed.has('digits'), packed.has('pairs')]).toEqual([true, true])
  expect(frames).toBeGreaterThan(wanted * framesEach)
})
