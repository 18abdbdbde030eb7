import type { TimedEvent, Timers } from '../base/index.ts'
import type { Cell } from '../variables/index.ts'
import { travelsToHost } from '../variables/index.ts'
import type { Memory } from './memory.ts'
import type { Ending, Talk } from './talk.ts'

/** Least interval between reports of a value that a finger keeps changing. */
const heldReportUs = 100_000
/** How long a widget shows that its report was refused or never got through. */
const failedUs = 2_000_000

interface Held {
  nextUs: number
  event: TimedEvent | null
  send: () => void
  /** Nothing of it has been said yet. */
  unsent?: true
}

/** Reports of values that touches write, and their fate when the host does not confirm. */
export class Reports {
  /** By the index of the cell. */
  private held = new Map<number, Held>()
  private failed = new Map<number, TimedEvent>()

  /** `marked`: a widget shows that it failed, or no longer. */
  constructor(
    private timers: Timers,
    private memory: Memory,
    private talk: () => Talk,
    private marked: (widget: number) => void,
  ) {}

  /**
   * Tells the host of a cell that a widget has written, where it travels to the host: at once when the finger is done with it
   * (`last`), at most every `everyMs` while it goes on; with 0 not before its end.
   */
  say(cell: Cell, widget: number, last: boolean, everyMs = heldReportUs / 1000): void {
    if (!travelsToHost(cell.travels)) return
    const before = this.held.get(cell.index)
    const send = () => {
      this.held.set(cell.index, { nextUs: this.timers.nowUs + everyMs * 1000, event: null, send })
      const payload = this.memory.bytesOf(cell.address, cell.words)
      this.talk().say({ operation: 'report', address: cell.address, payload }, widget)
    }
    // Not before its end: what is said then is what is there by then.
    if (!last && everyMs === 0) {
      if (before) before.send = send
      else this.held.set(cell.index, { nextUs: Infinity, event: null, send, unsent: true })
      return
    }
    if (last || !before || before.nextUs <= this.timers.nowUs) {
      this.timers.cancel(before?.event ?? null)
      return send()
    }
    before.event ??= this.timers.at(before.nextUs, send)
    before.send = send
  }

  /** The finger is gone: what was still to be said of what it changed is said now. */
  flush(): void {
    for (const { event, send, unsent } of this.held.values()) {
      if (!event && !unsent) continue
      this.timers.cancel(event)
      send()
    }
    this.held.clear()
  }

  /** How a report ended: where the host does not have it, its variable is again what both sides agreed on. */
  ended(address: number, words: Uint16Array, widget: number, ending: Ending): void {
    if (ending === 'done') return this.memory.agree(address, words)
    if (widget === 0) return
    this.fail(widget)
    if (!this.talk().hasNewer(address, words.length)) this.memory.takeBack(address, words.length)
  }

  fail(widget: number): void {
    if (widget === 0) return
    this.timers.cancel(this.failed.get(widget) ?? null)
    this.failed.set(
      widget,
      this.timers.after(failedUs, () => {
        this.failed.delete(widget)
        this.marked(widget)
      }),
    )
    this.marked(widget)
  }

  /** Whether the last report of a widget was refused or never got through, less than two seconds ago. */
  hasFailed = (widget: number): boolean => this.failed.has(widget)
}
