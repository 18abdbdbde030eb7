import type { Build, BuildPage, BuildWidget } from '../compile/index.ts'
import type { Surface } from '../raster/index.ts'
import { isInRange, type Cell, type Value } from '../variables/index.ts'
import type { Glass } from './glass.ts'

/** A value as the panel has it: whether anybody has said it, and whether it still holds. */
export interface ReadValue {
  value: Value
  inRange: boolean
  stale: boolean
  written: boolean
  known: boolean
}

/** Values in place of those that are stored, by the index of their cell; `stale`: as if nobody had written them. */
export interface Pretended {
  values: ReadonlyMap<number, Value>
  stale: boolean
}

/** The desk: any page of the build as it would look now, without the panel knowing. */
export class Desk {
  private page: BuildPage | null = null
  /** Values that it shows in place of those that are stored. */
  private instead: Pretended | null = null

  constructor(
    private build: () => Build,
    private glass: () => Glass,
  ) {}

  private find(number: number | null): BuildPage | null {
    return this.build().header.pages.find((page) => page.number === number) ?? null
  }

  /** Has it show other values than are stored, until it is told otherwise. */
  pretend(instead: Pretended | null): void {
    const changed = new Set([...(this.instead?.values.keys() ?? []), ...(instead?.values.keys() ?? [])])
    this.instead = instead
    for (const { cell } of this.build().header.cells)
      if (changed.has(cell.index)) this.glass().touchWords(cell.address, cell.words)
  }

  /** A value as it is shown there: whoever edits sees one where the host has not said any yet. */
  read(cell: Cell, read: ReadValue): ReadValue {
    const found = cell.stale?.afterMs === 0 ? { ...read, written: true, known: true, stale: false } : read
    const value = this.instead?.values.get(cell.index)
    if (value === undefined) return found
    const stale = this.instead!.stale && cell.stale !== null
    return { ...found, value, inRange: isInRange(cell.holds, value), stale, written: true, known: true }
  }

  /** The page it shows from now on; null: none. */
  lookAt(number: number | null): void {
    const page = this.find(number)
    if (page === this.page) return
    this.page = page
    this.glass().show(page ? [page] : [])
  }

  /** Any page painted elsewhere; whether there is one of that number. */
  paintPage(number: number, surface: Surface): boolean {
    const page = this.find(number)
    if (page) this.glass().paintPage(page, surface)
    return page !== null
  }

  /** The state of a widget is another. */
  showsOther(widget: BuildWidget): void {
    if (this.page?.widgets.includes(widget)) this.glass().markMoving(widget)
  }

  /** Another build, in which `now` finds the page of an old number. */
  become(build: Build, now: (number: number) => BuildPage | null): void {
    this.page = this.page && now(this.page.number)
    this.glass().become(build, this.page ? [this.page] : [])
  }
}
