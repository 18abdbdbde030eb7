import { expect, test } from 'vitest'
import { matching, offerGroups, offerKeys } from './add-keys.ts'

const groups = offerGroups()
const keys = offerKeys()
const found = (typed: string) => matching(groups, keys, typed).map(({ name }) => name)

test('every offer stands in one group and has a key of its own', () => {
  const names = groups.flatMap(({ offers }) => offers.map(({ name }) => name))
  expect(new Set(names).size).toBe(names.length)
  expect(names.filter((name) => !keys.has(name))).toEqual([])
  expect(new Set(keys.values()).size).toBe(keys.size)
  expect(groups.every(({ offers }) => offers.length > 0)).toBe(true)
})

test('a key brings its offer first, whatever else contains the letter', () => {
  for (const [name, key] of keys) expect(found(key)[0]).toBe(name)
})

test('a name is found by its beginning, by a word of it, and by its description', () => {
  expect(found('sli')[0]).toBe('slider')
  expect(found('Picture').slice(0, 2)).toEqual(['picture', 'level'])
  expect(found('keyp')).toContain('typed')
  expect(found('rotating')).toEqual(['dial'])
  expect(found('  ')).toEqual([])
  expect(found('no such widget')).toEqual([])
})
