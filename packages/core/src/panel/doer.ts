import { sameBytes } from '../base/index.ts'
import type { EventKind } from '../frames/index.ts'
import type { Effect, Moment, World } from '../rules/index.ts'
import type { Cell } from '../variables/index.ts'
import type { Memory } from './memory.ts'
import type { OtherEffect } from './other-effects.ts'

/**
 * By what something is done: a finger on a widget (0: nobody's), a page that opens or is left, time that goes by, a widget that
 * has noticed another value. `moment`: what of it; `holding`: the finger goes on with it.
 */
export interface Origin {
  by: 'touch' | 'page' | 'timer' | 'notice'
  widget: number
  moment: Moment
  holding: boolean
}

/** That by which a run came about: the run that it follows from, or a frame of the host; null: a finger or time alone. */
export type Cause = (Origin & { cause: Cause }) | { by: 'host' } | null

/** A cell after a run, however often it wrote there: the words, and how the last of its writes is to be told. */
export interface Written {
  cell: Cell
  words: Uint16Array
  last: boolean
  everyMs: number | undefined
}

/** A run before it is done: what it leaves in memory, and what comes of it besides, in its order. */
export interface Plan {
  writes: readonly Written[]
  others: readonly Exclude<Effect, { do: 'write' | 'bits' }>[]
}

/** Actions of the panel for an effect besides memory. */
export interface DoerView {
  memory(): Memory
  /**
   * Has words written, and shows them when all are; what follows from them, such as that a page opens, follows when the function
   * is called that comes back.
   */
  together(write: () => void): () => void
  /** Tells the host of a cell; `last` is false while a finger goes on changing it. */
  report(cell: Cell, origin: Origin, last: boolean, everyMs: number | undefined): void
  event(origin: Origin, what: EventKind): void
  command(origin: Origin, number: number): void
  page(number: number): void
  popUp(number: number | null, origin: Origin, closesAfterMs: number): void
  key(key: string): void
  /** Any other effect: it writes no memory of its own accord. */
  other(effect: OtherEffect): void
}

/**
 * The one way by which touches, and whatever else the panel does by itself, change it. A run is planned on its own view: it reads
 * its own writes and nobody else's. Then it is done at once: memory, glass, reports, one a cell, and what comes of it in its order.
 * A touch is always told; what a page or time does only where it makes another value. What a host may not write, no run may
 * either: a page that is not there, a backlight of nothing. A number is kept in the range of its variable.
 */
export class Doer {
  constructor(private view: DoerView) {}

  private cause: Cause = null

  /** By what the run that is being done came about, with its causes in turn. */
  get causes(): Cause {
    return this.cause
  }

  /** Does something whose runs follow from a frame of the host. */
  byHost(what: () => void): void {
    this.following({ by: 'host' }, what)
  }

  private following<T>(cause: Cause, what: () => T): T {
    const before = this.cause
    this.cause = cause
    try {
      return what()
    } finally {
      this.cause = before
    }
  }

  /** Does a run, and says which cells it wrote. */
  run(origin: Origin, what: (world: World) => void): readonly Cell[] {
    return this.following({ ...origin, cause: this.cause }, () => this.does(origin, what))
  }

  private does(origin: Origin, what: (world: World) => void): readonly Cell[] {
    const { memory } = this
    const { writes, others } = this.plan(origin.moment, what)
    const told: Written[] = []
    const written: Cell[] = []
    const follow = this.view.together(() => {
      for (const one of writes) {
        const isNew = !sameBytes(memory.wordsOf(one.cell), one.words)
        if (!memory.panelWrite(one.cell.address, one.words)) continue
        written.push(one.cell)
        if (isNew || origin.by === 'touch') told.push(one)
      }
    })
    for (const { cell, last, everyMs } of told) this.view.report(cell, origin, last && !origin.holding, everyMs)
    follow()
    for (const effect of others) this.comes(origin, effect)
    return written
  }

  /** The plan of a run; nothing is changed. */
  plan(moment: Moment, what: (world: World) => void): Plan {
    const { memory } = this
    const writes = new Map<Cell, Written>()
    const others: Plan['others'][number][] = []
    const own = new Map<number, number>()
    const wordsOf = (cell: Cell) => memory.wordsOf(cell).map((word, k) => own.get(cell.address + k) ?? word)
    what({
      moment,
      read: (cell) => (own.size ? memory.decode(cell, wordsOf(cell)) : memory.read(cell).value),
      do: (effect) => {
        if (effect.do !== 'write' && effect.do !== 'bits') return void others.push(effect)
        const { cell } = effect
        const words = this.wordsAfter(effect, wordsOf)
        if (!words) return
        words.forEach((word, k) => own.set(cell.address + k, word))
        const [last, everyMs] = effect.do === 'write' ? [effect.last, effect.everyMs] : [true, undefined]
        // The last write stands last.
        writes.delete(cell)
        writes.set(cell, { cell, words, last, everyMs })
      },
    })
    return { writes: [...writes.values()], others }
  }

  private get memory(): Memory {
    return this.view.memory()
  }

  /** The words that an effect leaves in its cell, from those that are there; null where it writes none. */
  private wordsAfter(
    effect: Extract<Effect, { do: 'write' | 'bits' }>,
    wordsOf: (cell: Cell) => Uint16Array,
  ): Uint16Array | null {
    if (effect.do === 'write') return this.memory.encode(effect.cell, this.memory.bounded(effect.cell, effect.value))
    return wordsOf(effect.cell).map((word) => (word & ~effect.mask) | (effect.bits & effect.mask))
  }

  private comes(origin: Origin, effect: Plan['others'][number]): void {
    switch (effect.do) {
      case 'page':
        return this.view.page(effect.number)
      case 'pop-up':
        return this.view.popUp(effect.number, origin, effect.closesAfterMs ?? 0)
      case 'key':
        return this.view.key(effect.key)
      case 'event':
        return this.view.event(origin, effect.what)
      case 'command':
        return this.view.command(origin, effect.number)
      default:
        return this.view.other(effect)
    }
  }
}
