import type { Timers } from '../base/index.ts'
import type { BuildWidget } from '../compile/index.ts'

/** Widgets that look different again after a while, although no value is another: one that blinks, or a text that runs. */
export class Redraws {
  private waiting = new Set<number>()

  /** `redraw`: marks the widget of a number, where it is shown by then. */
  constructor(
    private timers: Timers,
    private redraw: (widget: number) => void,
  ) {}

  /** Marks a widget after so many ms; one that waits already keeps its time. */
  later({ number }: BuildWidget, ms: number): void {
    if (this.waiting.has(number)) return
    this.waiting.add(number)
    this.timers.after(ms * 1000, () => {
      this.waiting.delete(number)
      this.redraw(number)
    })
  }
}
