import { describe, expect, test } from 'vitest'
import { decodeValue, encodeValue, isInRange, type Holds, type Value } from '@moth-lamp/core/variables'
import { freshToFollow } from './lookups.ts'

const hexOf = (stored: string) => stored

/** The value as memory holds it. */
const inMemory = (holds: Holds, value: Value) => {
  const words = encodeValue(holds, value, 'high')
  return words.ok ? decodeValue(holds, words.value, 'high') : words.problem
}

describe('a variable that a setting is to follow starts at the value that was fixed', () => {
  test.each([
    [0, 'i16', 0],
    [-12, 'i16', 0],
    [0.5, 'i16', 1],
    [-2.25, 'i16', 2],
    [90_000, 'i32', 0],
    [4000.25, 'i32', 2],
  ])('the number %d', (fixed, type, decimals) => {
    const { holds, initial } = freshToFollow('number', fixed, hexOf)
    expect(holds).toMatchObject({ type, decimals })
    expect([initial, inMemory(holds, initial), isInRange(holds, initial)]).toEqual([fixed, fixed, true])
  })
  test.each([
    ['Dome', 16, 'latin-1'],
    ['Ölfilter prüfen: 17', 20, 'latin-1'],
    ['Λάμπα του σκόρου', 30, 'utf-8'],
  ])('the text “%s”', (fixed, bytes, encoding) => {
    const { holds, initial } = freshToFollow('text', fixed, hexOf)
    expect(holds).toEqual({ type: 'text', bytes, encoding })
    expect([initial, inMemory(holds, initial)]).toEqual([fixed, fixed])
  })
  test('a yes, and a colour as the glass can show it', () => {
    expect(freshToFollow('yesNo', true, hexOf).initial).toBe(1)
    expect(freshToFollow('colour', '#f80000', hexOf).initial).toBe(0xf800)
  })
})
