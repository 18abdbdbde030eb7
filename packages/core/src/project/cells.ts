import {
  encodeValue,
  emptyWords,
  systemIndex,
  systemVariable,
  systemVariables,
  wordsOf,
  type Cell,
  type Holds,
} from '../variables/index.ts'
import type { PanelProfile } from './profile.ts'
import { orderOf, type Project, type Variable } from './types.ts'
import { withoutItemIds } from '../describe/index.ts'

/** A variable of a build, and the words that it begins with. */
export interface BuildCell {
  cell: Cell
  initial: number[]
}

const builtHolds = (holds: Holds): Holds =>
  holds.type === 'choice' ? { ...holds, choices: withoutItemIds(holds.choices) } : holds

/**
 * Cells by variable, made once for each variable record and byte order, so that everything that refers to a variable
 * shares one object, and an unchanged variable keeps it.
 */
export class CellTable {
  private made = new WeakMap<Variable, { order: string; built: BuildCell }>()
  private own = new Map<string, Cell>()
  private ownKey = ''

  of(project: Project, id: string): Cell | null {
    const variable = project.variables[id as keyof typeof project.variables]
    if (variable) return this.built(variable, project.panel).cell
    return this.ownCell(project.panel, id)
  }

  built(variable: Variable, panel: PanelProfile): BuildCell {
    const order = orderOf(panel, variable)
    const before = this.made.get(variable)
    if (before?.order === order) return before.built
    const { number, address, travels, stale } = variable
    const holds = builtHolds(variable.holds)
    const encoded = encodeValue(holds, variable.initial, order)
    const built: BuildCell = {
      cell: { index: number, address, words: wordsOf(holds), holds, order, travels, stale },
      initial: Array.from(encoded.ok ? encoded.value : emptyWords(holds)),
    }
    this.made.set(variable, { order, built })
    return built
  }

  private ownCell({ ownFrom, order }: PanelProfile, id: string): Cell | null {
    const word = systemVariable(id)
    if (!word || ownFrom + word.offset + wordsOf(word.holds) > 0x10000) return null
    const key = `${ownFrom} ${order} ${systemVariables().length}`
    if (this.ownKey !== key) {
      this.own = new Map(
        systemVariables().map((w) => [
          w.id,
          {
            index: systemIndex(w),
            address: ownFrom + w.offset,
            words: wordsOf(w.holds),
            holds: w.holds,
            order,
            travels: w.writable ? 'both' : 'panel to host',
            stale: null,
          },
        ]),
      )
      this.ownKey = key
    }
    return this.own.get(id)!
  }
}
