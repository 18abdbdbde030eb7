import {
  encodeValue,
  emptyWords,
  ownWordById,
  ownWords,
  wordsOf,
  type Cell,
  type Holds,
  type Orders,
} from '../variables/index.ts'
import { ordersOf, type Project, type Variable } from '../project/index.ts'
import { withoutItemIds } from '../describe/index.ts'
import type { BuildCell } from './build.ts'

const builtHolds = (holds: Holds): Holds =>
  holds.type === 'choice' ? { ...holds, choices: withoutItemIds(holds.choices) } : holds

/**
 * Cells by variable, made once for each variable record and byte order, so that everything that refers to a variable
 * shares one object, and an unchanged variable keeps it.
 */
export class CellTable {
  private made = new WeakMap<Variable, { orders: string; built: BuildCell }>()
  private own = new Map<string, Cell>()
  private ownFrom = -1

  of(project: Project, id: string): Cell | null {
    const variable = project.variables[id as keyof typeof project.variables]
    if (variable) return this.built(variable, ordersOf(project)).cell
    return this.ownCell(project.panel.ownFrom, id)
  }

  built(variable: Variable, orders: Orders): BuildCell {
    const key = orders.bytes + orders.words
    const before = this.made.get(variable)
    if (before?.orders === key) return before.built
    const { address, travels, stale } = variable
    const holds = builtHolds(variable.holds)
    const encoded = encodeValue(holds, variable.initial, orders)
    const built: BuildCell = {
      cell: { address, words: wordsOf(holds), holds, travels, stale },
      initial: Array.from(encoded.ok ? encoded.value : emptyWords(holds)),
    }
    this.made.set(variable, { orders: key, built })
    return built
  }

  private ownCell(ownFrom: number, id: string): Cell | null {
    const word = ownWordById.get(id)
    if (!word) return null
    if (this.ownFrom !== ownFrom) {
      this.own = new Map(
        ownWords.map((w) => [
          w.id,
          {
            address: ownFrom + w.offset,
            words: wordsOf(w.holds),
            holds: w.holds,
            travels: w.writable ? 'both' : 'panel to host',
            stale: null,
          },
        ]),
      )
      this.ownFrom = ownFrom
    }
    return this.own.get(id)!
  }
}
