import { describe, expect, test } from 'vitest'
import { mustHold, toHex } from '../base/index.ts'
import { layoutFile, readLayoutFile } from '../project/index.ts'
import { layoutProblems } from '../protocols/index.ts'
import { demo, edited } from '../testing/demo.ts'
import { checkExamples, guessesOf, parseMeanings, shippedLayouts } from './index.ts'

describe.each(shippedLayouts.map((one) => [one.layout.name, one.layout] as const))('the shipped layout %s', (_, layout) => {
  test('says each of its examples, to the byte', () => {
    expect(layout.examples!.length).toBeGreaterThan(5)
    const checks = checkExamples(layout, 'low')
    expect(checks.map(({ said, wire, problem }) => problem?.code ?? toHex(said!) === toHex(wire))).toEqual(checks.map(() => true))
  })
  test('is what its examples alone are guessed to be: it says them all', () => {
    const meanings = parseMeanings(layout.examples!.map(({ means }) => means)).map(mustHold)
    const samples = checkExamples(layout, 'low').map(({ wire }, k) => ({ wire, meaning: meanings[k]! }))
    const guessed = { name: 'guessed', ...guessesOf(samples).layout!, examples: layout.examples! }
    expect(layoutProblems(guessed)).toEqual([])
    expect(checkExamples(guessed, 'low').map(({ differsAt, problem }) => problem?.code ?? differsAt)).toEqual(
      samples.map(() => -1),
    )
  })
  test('keeps its examples in its file, and in a project, where a build does not have them', () => {
    expect(mustHold(readLayoutFile(layoutFile(layout))).examples).toEqual(layout.examples)
    const project = edited(demo.project, 'set layout', { values: { ...layout } })
    expect(project.layout.examples).toEqual(layout.examples)
  })
})

test('an example that differs says where, and one that is nothing says why', () => {
  const { layout } = shippedLayouts[0]!
  const check = (bytes: string, means: string) => checkExamples({ ...layout, examples: [{ bytes, means }] }, 'low')[0]!
  expect(check('7E 51 12 00 06 08 97 82 7E', layout.examples![0]!.means).differsAt).toBe(5)
  expect(check('7E 51', layout.examples![0]!.means).differsAt).toBe(2)
  expect(check('7E', 'rubbish').problem?.code).toBe('meaning.operation')
  expect(check('7E', 'write x = 70000.5').differsAt).toBeGreaterThanOrEqual(0)
})
