import { describe, expect, test } from 'vitest'
import { inTheWay, nextFree, rowsOf, type Block } from './rows.ts'

const block = (id: string, address: number, words = 1, kind: Block['kind'] = 'variable'): Block => ({
  id,
  name: id,
  address,
  words,
  kind,
})

describe('memory in rows', () => {
  test('rows in use, the free one after each, and what is free beyond folded', () => {
    const rows = rowsOf([block('a', 0x12), block('b', 0x100)], 0x10, 0x200)
    expect(rows.map((r) => [r.kind, r.address])).toEqual([
      ['row', 0x10],
      ['row', 0x20],
      ['folded', 0x30],
      ['row', 0x100],
      ['row', 0x110],
      ['folded', 0x120],
    ])
    expect(rows.at(-1)).toEqual({ kind: 'folded', address: 0x120, to: 0x1ff })
  })
  test('a block over the end of a row goes on in the next', () => {
    const [first, second] = rowsOf([block('text', 0x1e, 5)], 0x10, 0x80)
    expect(first!.kind === 'row' && first!.segments[0]).toMatchObject({ column: 14, words: 2, begins: true, ends: false })
    expect(second!.kind === 'row' && second!.segments[0]).toMatchObject({ column: 0, words: 3, begins: false, ends: true })
  })
  test('no memory used: the first row, the rest folded', () => {
    expect(rowsOf([], 0x10, 0x40).map((r) => r.kind)).toEqual(['row', 'folded'])
  })
  test('every word of every block is in exactly one segment', () => {
    const blocks = [block('a', 5, 40), block('b', 0x2d, 3), block('c', 0xff, 2)]
    const words = rowsOf(blocks, 0, 0x200).flatMap((r) =>
      r.kind === 'row' ? r.segments.flatMap((s) => Array.from({ length: s.words }, (_, i) => r.address + s.column + i)) : [],
    )
    expect(words.sort((a, b) => a - b)).toEqual(
      blocks.flatMap((b) => Array.from({ length: b.words }, (_, i) => b.address + i)).sort((a, b) => a - b),
    )
  })
})

describe('a block that moves', () => {
  const [a, b, old] = [block('a', 0x10), block('b', 0x12, 2), block('old', 0x11, 1, 'retired')]
  test('what it would stand on; a retired address may be taken again', () => {
    expect(inTheWay([a, b, old], b, 0x10)).toEqual([a])
    expect(inTheWay([a, b, old], a, 0x11)).toEqual([])
  })
  test('steps over what is in the way, and not out of memory', () => {
    expect(nextFree([a, b], a, 1, 0x10, 0x20)).toBe(0x11)
    expect(nextFree([a, b, block('c', 0x11)], a, 1, 0x10, 0x20)).toBe(0x14)
    expect(nextFree([a, b], a, -1, 0x10, 0x20)).toBe(null)
    expect(nextFree([a, b], b, 16, 0x10, 0x20)).toBe(null)
  })
})
