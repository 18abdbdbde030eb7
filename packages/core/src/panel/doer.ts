import type { EventKind } from '../frames/index.ts'
import type { Effect, Moment, World } from '../rules/index.ts'
import type { Cell } from '../variables/index.ts'
import type { Memory } from './memory.ts'

/** Who does something: a widget (0: nobody's), at which moment of its touch. `holding`: the finger goes on with it. */
export interface Origin {
  widget: number
  moment: Moment
  holding: boolean
}

/** An effect of a run, and the words it leaves in its cell where it writes one. */
export interface Done {
  effect: Effect
  words: Uint16Array | null
}

/** What the panel does of an effect besides its memory. */
export interface DoerView {
  memory(): Memory
  /** Tells the host of a cell; `last` is false while a finger goes on changing it. */
  report(cell: Cell, origin: Origin, last: boolean, everyMs: number | undefined): void
  event(origin: Origin, what: EventKind): void
  page(number: number): void
  layer(number: number | null, origin: Origin, closesAfterMs: number): void
  key(key: string): void
  /** Whatever else: it writes no memory of its own accord. */
  other(effect: Effect, origin: Origin): void
}

/**
 * The one way by which touches, and whatever else the panel does by itself, change it. A run reads its own writes and nobody
 * else's until its end, when all is done in its order. What a host may not write, no run may either: a page that is not
 * there, a backlight of nothing. A number is kept in the range of its variable.
 */
export class Doer {
  constructor(private view: DoerView) {}

  /** Does a run, and says which cells it wrote. */
  run(origin: Origin, what: (world: World) => void): readonly Cell[] {
    return this.dry(origin.moment, what).flatMap((done) => this.commit(origin, done))
  }

  /** What a run would do, with the words each write would leave; nothing is changed. */
  dry(moment: Moment, what: (world: World) => void): Done[] {
    const { memory } = this
    const all: Done[] = []
    const own = new Map<number, number>()
    const wordsOf = (cell: Cell) => memory.wordsOf(cell).map((word, k) => own.get(cell.address + k) ?? word)
    what({
      moment,
      read: (cell) => (own.size ? memory.decode(cell, wordsOf(cell)) : memory.read(cell).value),
      do: (effect) => {
        const words = this.wordsAfter(effect, wordsOf)
        all.push({ effect, words })
        if (words && 'cell' in effect) words.forEach((word, k) => own.set(effect.cell.address + k, word))
      },
    })
    return all
  }

  private get memory(): Memory {
    return this.view.memory()
  }

  /** The words that an effect leaves in its cell, from those that are there; null where it writes none. */
  private wordsAfter(effect: Effect, wordsOf: (cell: Cell) => Uint16Array): Uint16Array | null {
    if (effect.do === 'write') return this.memory.encode(effect.cell, this.memory.bounded(effect.cell, effect.value))
    if (effect.do !== 'bits') return null
    return wordsOf(effect.cell).map((word) => (word & ~effect.mask) | (effect.bits & effect.mask))
  }

  private commit(origin: Origin, { effect, words }: Done): Cell[] {
    switch (effect.do) {
      case 'write':
      case 'bits': {
        if (!words || !this.memory.panelWrite(effect.cell.address, words)) return []
        const last = !origin.holding && (effect.do === 'bits' || effect.last)
        this.view.report(effect.cell, origin, last, effect.do === 'write' ? effect.everyMs : undefined)
        return [effect.cell]
      }
      case 'page':
        this.view.page(effect.number)
        return []
      case 'layer':
        this.view.layer(effect.number, origin, effect.closesAfterMs ?? 0)
        return []
      case 'key':
        this.view.key(effect.key)
        return []
      case 'event':
        this.view.event(origin, effect.what)
        return []
      default:
        this.view.other(effect, origin)
        return []
    }
  }
}
