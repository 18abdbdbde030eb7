import { sameJson } from '../base/index.ts'
import type { Build, BuildPage } from '../compile/index.ts'
import type { BuildCell } from '../project/index.ts'
import type { Cell } from '../variables/index.ts'

/** The effect of another build on values: the names of variables that were reset, and of those that started at something else. */
export interface Carried {
  reset: string[]
  startsAt: string[]
}

/** A variable that two builds have: where it was and where it is. */
export interface Followed {
  name: string
  from: BuildCell
  to: BuildCell
  /** Its data type is the same. */
  same: boolean
}

const cellsByIndex = new WeakMap<object, Map<number, BuildCell>>()

/** The cells of a list in a build by their index: a variable keeps it in every build of its project. */
function byIndex(cells: readonly BuildCell[]): Map<number, BuildCell> {
  let found = cellsByIndex.get(cells)
  if (!found) cellsByIndex.set(cells, (found = new Map(cells.map((built) => [built.cell.index, built]))))
  return found
}

/** How the variables of one build go on in the next. */
export class Following {
  /** None of them is another. */
  readonly same: boolean
  private known: { list: Followed[]; where: Map<Cell, Cell> } | null = null

  constructor(
    private old: Build,
    private now: Build,
  ) {
    this.same = old.header.cells === now.header.cells && old.symbols.variables === now.symbols.variables
  }

  get list(): readonly Followed[] {
    return this.all.list
  }

  /** Where a cell of the old build is in the new; null where its variable is gone. */
  where = (cell: Cell): Cell | null => (this.same ? cell : (this.all.where.get(cell) ?? null))

  private get all() {
    if (this.known) return this.known
    const was = byIndex(this.old.header.cells)
    const names = new Map(this.now.symbols.variables.map((v) => [v.index, v.name]))
    const list = this.now.header.cells.flatMap((to): Followed[] => {
      const { index } = to.cell
      const from = was.get(index)
      if (!from) return []
      const same = from === to || (sameJson(from.cell.holds, to.cell.holds) && from.cell.order === to.cell.order)
      return [{ name: names.get(index) ?? '', from, to, same }]
    })
    return (this.known = { list, where: new Map(list.map(({ from, to }) => [from.cell, to.cell])) })
  }
}

/** By the number of a page in one build, that page in the next, by its id; null: it is there no longer. */
export function pageFollower(old: Build, build: Build): (number: number) => BuildPage | null {
  return (number) => {
    const id = old.symbols.pages.find((p) => p.number === number)?.id
    const found = build.symbols.pages.find((p) => p.id === id)?.number
    return build.header.pages.find((p) => p.number === found) ?? null
  }
}
