import { sameJson } from '../base/index.ts'
import type { Build, BuildCell } from '../compile/index.ts'
import type { Cell } from '../variables/index.ts'

/** A variable that two builds have: where it was and where it is. */
export interface Followed {
  name: string
  from: BuildCell
  to: BuildCell
  /** What its words mean is the same. */
  same: boolean
}

const cellsById = new WeakMap<object, Map<string, BuildCell>>()

/** The cells of a build by the id of their variable. */
function cellsOf(build: Build): Map<string, BuildCell> {
  let found = cellsById.get(build)
  if (!found) {
    // Two variables may stand at one address (a finding says so); the number of words tells most of them apart.
    const byPlace = new Map(build.header.cells.map((built) => [`${built.cell.address} ${built.cell.words}`, built]))
    found = new Map(
      build.symbols.variables.flatMap((v) => {
        const built = byPlace.get(`${v.address} ${v.words}`)
        return built ? [[v.id, built] as const] : []
      }),
    )
    cellsById.set(build, found)
  }
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
    const was = cellsOf(this.old)
    const names = new Map(this.now.symbols.variables.map((v) => [v.id, v.name]))
    const list = [...cellsOf(this.now)].flatMap(([id, to]): Followed[] => {
      const from = was.get(id)
      if (!from) return []
      const same = from === to || (sameJson(from.cell.holds, to.cell.holds) && from.cell.order === to.cell.order)
      return [{ name: names.get(id) ?? id, from, to, same }]
    })
    return (this.known = { list, where: new Map(list.map(({ from, to }) => [from.cell, to.cell])) })
  }
}
