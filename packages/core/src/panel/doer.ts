import type { EventKind } from '../frames/index.ts'
import type { Effect, World } from '../rules/index.ts'
import { inBounds, type Cell } from '../variables/index.ts'
import type { Memory } from './memory.ts'

/** What the panel does of an effect besides its memory. */
export interface DoerView {
  memory: Memory
  report(cell: Cell): void
  event(widget: number, what: EventKind): void
}

/**
 * The one way by which touches, and whatever else the panel does by itself, change it. A run reads its own writes and nobody
 * else's until its end, when all is done in its order. What a host may not write, no run may either: a page that is not
 * there, a backlight of nothing. A number is kept in the range of its variable.
 */
export class Doer {
  constructor(private view: DoerView) {}

  /** Does a run that belongs to a widget, and says which cells it wrote. */
  run(widget: number, moment: EventKind, what: (world: World) => void): readonly Cell[] {
    const effects = this.collect(moment, what)
    return effects.flatMap((effect) => this.commit(widget, effect))
  }

  private collect(moment: EventKind, what: (world: World) => void): Effect[] {
    const { memory } = this.view
    const effects: Effect[] = []
    const own = new Map<number, number>()
    const wordsOf = (cell: Cell) => memory.wordsOf(cell).map((word, k) => own.get(cell.address + k) ?? word)
    what({
      moment,
      read: (cell) => (own.size ? memory.decode(cell, wordsOf(cell)) : memory.read(cell).value),
      do: (effect) => {
        effects.push(effect)
        const words =
          effect.do === 'write'
            ? memory.encode(effect.cell, inBounds(effect.cell.holds, effect.value))
            : effect.do === 'bits'
              ? wordsOf(effect.cell).map((word) => (word & ~effect.mask) | (effect.bits & effect.mask))
              : null
        if (words && 'cell' in effect) words.forEach((word, k) => own.set(effect.cell.address + k, word))
      },
    })
    return effects
  }

  private commit(widget: number, effect: Effect): Cell[] {
    const { memory } = this.view
    switch (effect.do) {
      case 'write':
        return this.write(effect.cell, memory.encode(effect.cell, inBounds(effect.cell.holds, effect.value)))
      case 'bits':
        return this.write(
          effect.cell,
          memory.wordsOf(effect.cell).map((word) => (word & ~effect.mask) | (effect.bits & effect.mask)),
        )
      case 'page':
        memory.setOwn('page', effect.number)
        return []
      case 'event':
        this.view.event(widget, effect.what)
        return []
    }
  }

  private write(cell: Cell, words: Uint16Array | null): Cell[] {
    if (!words || !this.view.memory.panelWrite(cell.address, words)) return []
    this.view.report(cell)
    return [cell]
  }
}
