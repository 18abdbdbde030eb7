import { expect, test } from 'vitest'
import { joinBytes, mustHold, seededRandom, type Random } from '../../base/index.ts'
import type { Direction, Layout, Message } from '../../frames/index.ts'
import { decoded, expectAnatomy, expectAnyChunking } from '../../testing/decoding.ts'
import { namedBook, randomLines, randomNamedMessage } from '../../testing/random-lines.ts'
import { layoutProblems, protocolFor, type Protocol } from '../index.ts'

// The laws of decoding over layouts of lines by chance: all that the checker accepts obey them.

const wanted = 120
const linesEach = 10

/** Layouts of lines by chance that the checker accepts. */
function* accepted(random: Random): Generator<{ layout: Layout; protocol: Protocol }> {
  for (let n = 0; n < 20_000; n++) {
    const layout = randomLines(random, n)
    if (!layoutProblems(layout).length) yield { layout, protocol: mustHold(protocolFor(layout, namedBook)) }
  }
}

const text = (wire: Uint8Array) => String.fromCharCode(...wire)

/** Outcomes tile the bytes, and each line is spelt again as one that is heard as the same. */
function expectLaws(protocol: Protocol, direction: Direction, bytes: Uint8Array): void {
  let at = 0
  for (const outcome of decoded(protocol.decoder(direction), [bytes])) {
    expect([outcome.from, outcome.to > outcome.from]).toEqual([at, true])
    at = outcome.to
    if (outcome.kind !== 'frame') continue
    const again = outcome.readings.map((message) => protocol.encode(direction, message))
    const heard = again.flatMap((wire) => (wire.ok ? decoded(protocol.decoder(direction), [wire.value]) : []))
    // The canonical spelling may be too long, or hold a character that the layout has between its parts: then it is refused.
    const isRefused = again.some((wire) => !wire.ok && ['line.long', 'line.stop-inside'].includes(wire.problem.code))
    if (!isRefused) expect([text(bytes.slice(outcome.from, at)), heard[0]]).toMatchObject([{}, { readings: outcome.readings }])
  }
  expect(at).toBe(bytes.length)
}

/** Lines that a direction can say, with their messages. */
function linesOf(protocol: Protocol, direction: Direction, random: Random): { wire: Uint8Array; message: Message }[] {
  const out: { wire: Uint8Array; message: Message }[] = []
  for (let k = 0; k < 300 && out.length < linesEach; k++) {
    const message = randomNamedMessage(random, direction)
    const made = protocol.encode(direction, message)
    if (made.ok) out.push({ wire: made.value, message })
  }
  return out
}

test('120 layouts of lines by chance: messages come back, damage is told, chunks make no difference', () => {
  const random = seededRandom(515)
  const parts = new Set<string>()
  let [layouts, lines] = [0, 0]
  for (const { layout, protocol } of accepted(random)) {
    for (const form of layout.toPanel.forms) for (const { part } of form.parts) parts.add(part)
    for (const direction of ['to panel', 'to host'] as const) {
      const said = linesOf(protocol, direction, random)
      for (const { wire } of said) {
        lines++
        const whole = decoded(protocol.decoder(direction), [wire])
        expect([layout.name, text(wire), whole.map(({ kind }) => kind)]).toEqual([layout.name, text(wire), ['frame']])
        expectLaws(protocol, direction, wire)
        for (let cut = 1; cut < wire.length; cut++) expectLaws(protocol, direction, wire.slice(0, cut))
        for (let bit = 0; bit < wire.length * 8; bit++) {
          const bent = wire.slice()
          bent[bit >> 3]! ^= 1 << (bit & 7)
          expectLaws(protocol, direction, bent)
        }
        expectAnatomy(protocol.dissect(direction, wire), () => protocol.decoder(direction), wire)
      }
      const junk = () => Uint8Array.from({ length: random.below(12) }, () => random.below(256))
      const stream = joinBytes(said.flatMap(({ wire }) => [junk(), wire]))
      expectLaws(protocol, direction, stream)
      const cuts = Array.from({ length: 6 }, () => random.below(1000))
      expectAnyChunking(() => protocol.decoder(direction), stream, cuts)
    }
    if (++layouts >= wanted) break
  }
  expect([layouts, parts.has('pairs'), parts.has('check'), parts.has('sequence')]).toEqual([wanted, true, true, true])
  expect(lines).toBeGreaterThan(wanted * linesEach)
})
