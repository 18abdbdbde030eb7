import { expect, test } from 'vitest'
import fc from 'fast-check'
import { CellIndex } from './index.ts'

const span = fc.record({ address: fc.nat(40), words: fc.integer({ min: 1, max: 6 }) })

test('an index of cells finds what a look at each of them finds, several at one place in their order', () => {
  fc.assert(
    fc.property(fc.array(span, { maxLength: 30 }), span, (cells, asked) => {
      const index = new CellIndex(cells, (cell) => cell)
      const end = asked.address + asked.words
      const overlap = cells.filter((c) => c.address < end && c.address + c.words > asked.address)
      expect(new Set(index.in(asked.address, asked.words))).toEqual(new Set(overlap))
      expect(index.at(asked.address)).toEqual(
        cells.filter((c) => c.address <= asked.address && c.address + c.words > asked.address),
      )
    }),
  )
})
