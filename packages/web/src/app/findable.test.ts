import { expect, test } from 'vitest'
import { found, type Findable } from './findable.ts'

const one = (group: string, label: string, detail = '', address?: number): Findable => ({
  id: `${group} ${label}`,
  group,
  label,
  detail,
  station: '',
  run: () => undefined,
  ...(address === undefined ? {} : { address }),
})
const all = [
  one('Commands', 'Undo'),
  one('Settings', 'Auto-advance to', 'page Dome · Timing'),
  one('Settings', 'Radius', 'Target · Looks'),
  one('Variables', 'dome_target', 'where the dome is to go', 0x12),
  one('System variables', 'page', 'number of the page shown', 0xff00),
  one('Pages', 'Dome', 'page 1'),
]
const names = (query: string) => found(all, query).map(([group, items]) => [group, items.map(({ label }) => label)])

test('a name that begins with the query comes before a word of it, and both before a detail', () => {
  expect(names('dome').map(([group]) => group)).toEqual(['Variables', 'Pages', 'Settings'])
  expect(names('target')[0]).toEqual(['Variables', ['dome_target']])
})

test('several words may stand in name and detail, in any order', () => {
  expect(names('timing auto')).toEqual([['Settings', ['Auto-advance to']]])
  expect(names('looks radius')).toEqual([['Settings', ['Radius']]])
})

test('an address is found as it is written', () => {
  expect(names('0xff00')).toEqual([['System variables', ['page']]])
  expect(names('0x0012')).toEqual([['Variables', ['dome_target']]])
})

test('an empty query lists each group; one that matches nothing lists none', () => {
  expect(names('').map(([group]) => group)).toEqual(['Commands', 'Settings', 'Variables', 'System variables', 'Pages'])
  expect(names('no such thing')).toEqual([])
})
