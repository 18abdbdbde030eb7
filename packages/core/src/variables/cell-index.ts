import type { Cell } from './cell.ts'

/**
 * Finds by words of memory what stands there: cells, or whatever goes with one. Several may stand at one address, as do two variables
 * of one word; they come in the order in which they were given.
 */
export class CellIndex<T> {
  private byWord = new Map<number, T[]>()

  constructor(all: Iterable<T>, cellOf: (one: T) => Pick<Cell, 'address' | 'words'>) {
    for (const one of all) {
      const { address, words } = cellOf(one)
      for (let k = 0; k < words; k++) {
        const at = this.byWord.get(address + k)
        if (at) at.push(one)
        else this.byWord.set(address + k, [one])
      }
    }
  }

  /** All that have the word of an address. */
  at(address: number): readonly T[] {
    return this.byWord.get(address) ?? []
  }

  /** All that have any of some words, each once. */
  in(address: number, words: number): Set<T> {
    const out = new Set<T>()
    for (let k = 0; k < words; k++) for (const one of this.at(address + k)) out.add(one)
    return out
  }
}
