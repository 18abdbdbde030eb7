import { describe, expect, test } from 'vitest'
import { nextState, statesFromWords } from './index.ts'

const choice = { type: 'choice' as const, choices: [{ value: 4, word: 'shut' }, { value: 9, word: 'open' }] } // prettier-ignore
const flags = { type: 'flags' as const, names: ['', 'rain', 'wind'] }

describe('states by what a variable can be', () => {
  test('are one for each word; of flags the first named bit, clear and set', () => {
    expect(statesFromWords([], choice)!.map(({ when, meaning }) => [when, meaning])).toEqual([
      [{ by: 'value', value: 4 }, 'shut'],
      [{ by: 'value', value: 9 }, 'open'],
    ])
    expect(statesFromWords([], flags)!.map(({ when, meaning }) => [when, meaning])).toEqual([
      [{ by: 'bit', bit: 1, set: false }, 'off'],
      [{ by: 'bit', bit: 1, set: true }, 'rain'],
    ])
    expect(statesFromWords([], null)).toBeNull()
  })
  test('the next is of the first word or bit that none speaks of; it looks as the last does', () => {
    const first = nextState([], choice)
    const second = nextState([{ ...first, textColour: '#00ff00' }], choice)
    expect([first.meaning, second.meaning, second.textColour]).toEqual(['shut', 'open', '#00ff00'])
    expect(nextState([first, second], choice).when).toEqual({ by: 'value', value: 2 })
    expect(nextState([], flags).when).toEqual({ by: 'bit', bit: 1, set: true })
  })
})
