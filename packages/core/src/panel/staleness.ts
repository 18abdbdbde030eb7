import type { TimedEvent, Timers } from '../base/index.ts'
import type { BuildCell } from '../project/index.ts'
import type { Cell } from '../variables/index.ts'

/** Knows which variables the host has not sent for longer than they say; those that say 0 go stale with the host. */
export class Staleness {
  private lastWrite = new Map<Cell, number>()
  private stale = new Set<Cell>()
  private watches = new Map<Cell, TimedEvent>()

  /** `changed`: a cell has become stale, or is no longer. */
  constructor(
    private timers: Timers,
    private changed: (cell: Cell) => void,
    /** Whether the host has not been heard for so long that it counts as gone. */
    private hostGone: () => boolean,
  ) {}

  isStale = (cell: Cell): boolean => (cell.stale?.afterMs === 0 ? this.hostGone() : this.stale.size > 0 && this.stale.has(cell))

  /** The variables of a build that may go stale: those that are new here count from now. */
  watch(cells: readonly BuildCell[]): void {
    for (const { cell } of cells) if (cell.stale?.afterMs && !this.lastWrite.has(cell)) this.wrote(cell)
  }

  /** The host has written it now. */
  wrote(cell: Cell): void {
    if (!cell.stale?.afterMs) return
    this.lastWrite.set(cell, this.timers.nowUs)
    if (this.stale.delete(cell)) this.changed(cell)
    if (!this.watches.has(cell)) this.await(cell)
  }

  private await(cell: Cell): void {
    const dueUs = Math.max(this.timers.nowUs, this.lastWrite.get(cell)! + cell.stale!.afterMs * 1000)
    this.watches.set(
      cell,
      this.timers.at(dueUs, () => {
        this.watches.delete(cell)
        if (this.lastWrite.get(cell)! + cell.stale!.afterMs * 1000 > this.timers.nowUs) return this.await(cell)
        this.stale.add(cell)
        this.changed(cell)
      }),
    )
  }

  /** Takes the cells of another build: what was written when goes on with its variable. */
  become(cells: readonly BuildCell[], where: (cell: Cell) => Cell | null): void {
    const [writes, stale] = [this.lastWrite, this.stale]
    for (const event of this.watches.values()) this.timers.cancel(event)
    this.watches.clear()
    this.lastWrite = new Map()
    this.stale = new Set()
    for (const [cell, atUs] of writes) {
      const now = where(cell)
      if (!now?.stale?.afterMs) continue
      this.lastWrite.set(now, atUs)
      if (stale.has(cell) && atUs + now.stale.afterMs * 1000 <= this.timers.nowUs) this.stale.add(now)
      else this.await(now)
    }
    this.watch(cells)
  }
}
