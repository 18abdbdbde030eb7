import { describe, expect, test } from 'vitest'
import { mustHold, toHex } from '../base/index.ts'
import { formsOf, type Layout } from '../frames/index.ts'
import { layoutProblems, protocolFor } from '../protocols/index.ts'
import { descriptions } from '../testing/modules/descriptions.ts'
import { moduleLayouts } from '../testing/modules/layouts.ts'
import { heldBack, meaningOf, samplesOf } from '../testing/modules/meanings.ts'
import {
  checkExamples,
  exampleBook,
  exampleOf,
  guessesOf,
  meaningWords,
  messageOf,
  parseMeanings,
  type Guesses,
  type Sample,
} from './index.ts'

/** Takes the first guess of every slot by a click each; how many clicks, and what came of them. */
function clicked(samples: readonly Sample[]): { guesses: Guesses; clicks: number } {
  const taken: Record<string, string> = {}
  let guesses = guessesOf(samples, taken)
  let clicks = 0
  for (;;) {
    const open = guesses.ways.flatMap(({ key, slots }) =>
      slots.flatMap(({ key: slot, guesses: all }) => (taken[`${key}/${slot}`] ? [] : [[`${key}/${slot}`, all[0]!.key] as const])),
    )
    if (!open.length) return { guesses, clicks: clicks + 1 }
    taken[open[0]![0]] = open[0]![1]
    clicks++
    guesses = guessesOf(samples, taken)
  }
}

const layoutOf = (samples: readonly Sample[]): Layout => {
  const { layout } = guessesOf(samples)
  if (!layout) throw new Error('no layout')
  return { name: 'from examples', ...layout }
}

describe.each(descriptions.map((described) => [described.name, described] as const))(
  'from the examples of %s',
  (name, { examples }) => {
    const samples = samplesOf(examples)
    const { layout: real, memory } = moduleLayouts[name]!
    test('a layout comes with at most ten clicks, and none without them', () => {
      const { guesses, clicks } = clicked(samples)
      expect(guesses.isTaken).toBe(true)
      expect(guessesOf(samples).isTaken).toBe(false)
      expect(clicks).toBeLessThanOrEqual(10)
      expect(layoutProblems({ name, ...guesses.layout! })).toEqual([])
    })
    test('it says every example', () => {
      const layout = { ...layoutOf(samples), examples: samples.map((sample) => exampleOf(sample, meaningWords)) }
      expect(checkExamples(layout, memory).map(({ problem, differsAt }) => [problem, differsAt])).toEqual(
        samples.map(() => [null, -1]),
      )
    })
    test('it says frames that it was not made from', () => {
      const layout = layoutOf(samples)
      const has = new Set(
        (['to panel', 'to host'] as const).flatMap((d) => formsOf(layout, d).map((form) => `${form.operation} ${d}`)),
      )
      const further = heldBack.filter(({ operation, direction }) => has.has(`${operation} ${direction}`))
      const meanings = parseMeanings(further.map(meaningOf)).map(mustHold)
      const book = exampleBook(meanings, memory)
      const frames = (of: Layout) =>
        meanings.flatMap((meaning) => {
          const said = mustHold(protocolFor(of, book)).encode(meaning.direction, mustHold(messageOf(meaning, book)))
          return said.ok ? [toHex(said.value)] : []
        })
      expect(frames(real).length).toBeGreaterThanOrEqual(2)
      expect(frames(layout).slice(0, frames(real).length)).toEqual(frames(real))
    })
  },
)

describe('guesses', () => {
  const some = (...pairs: [string, string][]): Sample[] =>
    parseMeanings(pairs.map(([, means]) => means)).map((meaning, k) => ({
      wire: Uint8Array.from(pairs[k]![0].split(' '), (byte) => parseInt(byte, 16)),
      meaning: mustHold(meaning),
    }))
  test('what cannot be told from the examples is said', () => {
    const { ways } = guessesOf(some(['5A 01 12 00 00 14', 'write 20 to 0x1200'], ['5A 01 12 01 00 07', 'write 7 to 0x1201']))
    expect(ways[0]!.notes.join(' ')).toContain('a frame of another length would tell')
  })
  test('a second frame of another length tells a count from a constant', () => {
    const one: [string, string] = ['5A 05 01 12 00 00 14', 'write 20 to 0x1200']
    const slot = (samples: Sample[]) => guessesOf(samples).ways[0]!.slots.find(({ key }) => key === 'framing')!
    expect(slot(some(one)).guesses.some(({ key }) => key.startsWith('length'))).toBe(false)
    const two = slot(some(one, ['5A 07 01 12 10 00 01 E2 40', 'write 123456 to 0x1210']))
    expect(two.guesses[0]).toMatchObject({ says: 'byte 2 counts: the bytes behind', fits: 2, of: 2 })
  })
  test('a taken guess is held while the others are looked for', () => {
    const samples = some(['7F 41 12 00 07 D0 7F', 'write 2000 to 0x1200'], ['7F 41 12 01 00 07 7F', 'write 7 to 0x1201'])
    expect(guessesOf(samples, { 'both/framing': 'silent' }).layout!.toPanel).toMatchObject({ framing: { kind: 'silent' } })
  })
  test('no examples make no layout, and one that is nothing makes none', () => {
    expect(guessesOf([])).toMatchObject({ ways: [], layout: null, isTaken: false })
    expect(guessesOf(some(['00', 'write 20 to 0x1200'])).layout).toBe(null)
  })
})
