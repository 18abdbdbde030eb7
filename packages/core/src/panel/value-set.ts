import type { BuildPage } from '../compile/index.ts'
import type { Cell, Travels } from '../variables/index.ts'

/** Words that are told in one frame. */
export interface Span {
  address: number
  words: number
  widget: number
}

const reports: readonly Travels[] = ['panel to host', 'both']

/** Every cell in settings as a build has them, however deep it stands. */
function cellsIn(value: unknown): Cell[] {
  if (typeof value !== 'object' || value === null) return []
  if ('address' in value && 'holds' in value && 'travels' in value) return [value as Cell]
  return Object.values(value).flatMap(cellsIn)
}

/** Changed values of a page that sends them as one set: reported together, adjacent ones in one frame. */
export class ValueSet {
  /** By the index of the cell. */
  private changed = new Map<number, { cell: Cell; widget: number }>()

  put(cell: Cell, widget: number): void {
    this.changed.set(cell.index, { cell, widget })
  }

  /** Variables that widgets of a page refer to and that may be reported. */
  putAll(page: BuildPage): void {
    for (const widget of page.widgets)
      for (const cell of cellsIn(widget.settings)) if (reports.includes(cell.travels)) this.put(cell, widget.number)
  }

  /** The frames it takes, in the order of their addresses, none longer than `mostWords`; nothing is left to be told. */
  take(mostWords: number): Span[] {
    const cells = [...this.changed.values()].sort((a, b) => a.cell.address - b.cell.address)
    this.changed.clear()
    const spans: Span[] = []
    for (const { cell, widget } of cells) {
      const last = spans.at(-1)
      const end = Math.max(last ? last.address + last.words : 0, cell.address + cell.words)
      // Side by side, or at one place: what two variables of one word hold is told once.
      const touches = last && cell.address <= last.address + last.words
      if (touches && end - last.address <= mostWords) last.words = end - last.address
      else spans.push({ address: cell.address, words: cell.words, widget })
    }
    return spans
  }
}
