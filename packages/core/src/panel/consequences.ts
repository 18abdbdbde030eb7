import type { BuildHeader } from '../compile/index.ts'
import { spansOverlap, systemVariablesIn, type Cell, type PanelRoom } from '../variables/index.ts'
import type { Glass } from './glass.ts'
import type { Memory } from './memory.ts'
import type { States } from './states.ts'
import type { Touch } from './touch.ts'

/** The rest of the panel, as words that change need it. */
export interface ConsequencesView extends Omit<PanelRoom, 'repaint' | 'tryCode'> {
  memory(): Memory
  header(): BuildHeader
  glasses(): readonly Glass[]
  states(): States
  touch(): Touch
}

interface Words {
  address: number
  words: number
}

/** All that comes of words of memory that are others now: what shows them is out of date, what they ask for is done. */
export class Consequences {
  /** Words that a run has written, while it writes: what follows from them comes when all are there. */
  private together: Words[] | null = null
  /** Variables that may be others since somebody asked; null: all of them. */
  private news: Set<Cell> | null = null
  private room: PanelRoom

  constructor(private view: ConsequencesView) {
    this.room = {
      ...view,
      tryCode: () => this.tryCode(),
      repaint: () => {
        for (const glass of this.view.glasses()) glass.markAll()
      },
    }
  }

  /** Has words written at once: what shows them is out of date then; what follows from them comes by the function returned. */
  writeTogether(write: () => void): () => void {
    const spans: Words[] = []
    this.together = spans
    write()
    this.together = null
    for (const span of spans) this.outdate(span)
    return () => spans.forEach((span) => this.follow(span))
  }

  /** Words were written. */
  of(span: Words): void {
    if (this.together) return void this.together.push(span)
    this.outdate(span)
    this.follow(span)
  }

  /** Pages that open, lights, times. */
  private follow(span: Words): void {
    const { memory, conduct } = this.view.header()
    for (const variable of systemVariablesIn(span.address - memory.ownFrom, span.words)) variable.written?.(this.room)
    this.view.states().wordsChanged(span.address, span.words)
    const { otherUnits } = conduct
    if (otherUnits && spansOverlap(otherUnits, span)) this.room.repaint()
    this.view.touch().look()
  }

  /** Marks all that shows words as out of date: they are others, or are stale or known otherwise. */
  outdate({ address, words }: Words): void {
    if (this.news) for (const cell of this.view.memory().cellsIn(address, words)) this.news.add(cell)
    for (const glass of this.view.glasses()) glass.touchWords(address, words)
  }

  /** Variables that may have another value, or be stale or known otherwise, than when this was last asked; null: any of them. */
  takeNews(): ReadonlySet<Cell> | null {
    const { news } = this
    this.news = new Set()
    return news
  }

  /** Another build has other cells: any of them is news. */
  forgetNews(): void {
    this.news = null
  }

  /** A code that was typed gives the highest level it is the code of; it is forgotten at once. */
  private tryCode(): void {
    const memory = this.view.memory()
    const code = memory.own('code')
    if (code === 0) return
    const { code1, code2, code3 } = this.view.header().conduct
    const level = [code1, code2, code3].lastIndexOf(code) + 1
    memory.setOwn('code', 0)
    if (level > 0) memory.setOwn('level', level)
  }
}
