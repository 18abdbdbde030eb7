import { describe, expect, test } from 'vitest'
import { mustHold } from '../base/index.ts'
import { meaningSentences, meaningWords, parseMeaning, parseMeanings, type Known } from './index.ts'

const words = (text: string, known?: Known) => meaningWords(mustHold(parseMeaning(text, known)))

describe('a meaning as people type it', () => {
  test.each([
    ['write 20 to 0x1200', 'write 0x1200 (u16) = 20'],
    ['write -3 to 0x1200', 'write 0x1200 (i16) = -3'],
    ['set 0x1200 = 70000', 'write 0x1200 (u32) = 70000'],
    ['write 12.5 to level', 'write level (u16, step 0.1) = 12.5'],
    ['write "Weir 2" to 0x1300', 'write 0x1300 (text 6) = "Weir 2"'],
    ['write 20 to 0x1200 as i32', 'write 0x1200 (i32) = 20'],
    ['write "a = b" to 0x1300', 'write 0x1300 (text 6) = "a = b"'],
    ['read 2 words of 0x1200', 'read request 0x1200 (u16)'],
    ['answer level (0x10, u8) = 7', 'read response level (0x0010, u8) = 7'],
    ['report mode (0x1201, off|fill) = fill', 'report mode (0x1201, off|fill) = fill'],
    ['report mode (off 3|fill 9) = fill', 'report mode (off 3|fill 9) = fill'],
    ['report bits (flags rain|dew) = rain+dew', 'report bits (flags rain|dew) = 3'],
    ['→ ack 0x1200', '→ acknowledge 0x1200 (u16)'],
    ['reject 0x1200 busy', 'reject 0x1200 (u16) busy'],
    ['event 5 pressed', 'event widget 5 (5) pressed'],
    ['released Start (7), sequence 3', 'event Start (7) released, sequence 3'],
    ['set bits flags mask 0x0003 = 1', 'set bits flags (u16) mask 0x0003 = 0x0001'],
  ])('%s', (text, means) => {
    expect(words(text)).toBe(means)
    expect(words(means)).toBe(means)
  })
  test('a name of the project has its address, data type and page', () => {
    const holds = mustHold(parseMeaning('write 1.5 to x')).place!.holds
    const known: Known = {
      places: [{ name: 'level', address: 0x1200, holds, order: null, page: 'main' }],
      widgets: [{ name: 'Start', number: 5 }],
    }
    expect(words('write level = 20', known)).toBe('write level (0x1200, u16, step 0.1, page main) = 20.0')
    expect(words('write 20 to 0x1200', known)).toBe('write level (0x1200, u16, step 0.1, page main) = 20.0')
    expect(words('Start pressed', known)).toBe('event Start (5) pressed')
  })
  test('examples tell each other the data type of a place', () => {
    const all = parseMeanings(['write 200.5 to level', 'write 20 to level', 'read level']).map((one) =>
      meaningWords(mustHold(one)),
    )
    expect(all).toEqual([
      'write level (u16, step 0.1) = 200.5',
      'write level (u16, step 0.1) = 20.0',
      'read request level (u16, step 0.1)',
    ])
  })
  test.each([
    ['', 'empty'],
    ['paint it', 'operation'],
    ['write', 'value'],
    ['write 20', 'value'],
    ['write 20 to 0x12345', 'place'],
    ['write mode = fill', 'word'],
    ['write x (rubbish) = 1', 'clause'],
    ['event 5', 'what'],
    ['event Nobody pressed', 'place'],
    ['reject level', 'reason'],
    ['write "a" to 0x10 as u16', 'value'],
  ])('“%s” is answered', (text, code) => {
    const read = parseMeaning(text)
    expect(read.ok ? 'understood' : read.problem.code).toBe(`meaning.${code}`)
    expect(meaningSentences[`meaning.${code}`]).toBeDefined()
  })
})
