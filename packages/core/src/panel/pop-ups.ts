import type { TimedEvent, Timers } from '../base/index.ts'
import type { BuildPage } from '../compile/index.ts'

/** A pop-up that is open. */
export interface OpenPopUp {
  page: BuildPage
  /** Number of the widget that opened it and hears its keys; 0: none. */
  by: number
  /** It closes when nobody has touched the glass for so long; 0: never. */
  closesAfterMs: number
}

export interface PopUpView {
  /** The pop-up or keypad of that number. */
  find(number: number): BuildPage | undefined
  /** Whether a widget hears the keys of a pop-up that it opened. */
  hearsKeys(widget: number): boolean
  /** The pop-up that a widget opened is there no longer. */
  closed(by: number): void
  /** Another pop-up is open, or none (0): the own word is to say so. */
  is(number: number): void
  /** The glass shows another pop-up, or none (0), over the same page. */
  shows(number: number): void
}

/** The one pop-up over the page: opened by an action, a widget or the host, closed by the same, by time, or with its page. */
export class PopUps {
  private open: OpenPopUp | null = null
  private timer: TimedEvent | null = null
  /** Since when the pop-up is open, µs. */
  sinceUs = 0

  constructor(
    private timers: Timers,
    private view: PopUpView,
  ) {}

  get now(): OpenPopUp | null {
    return this.open
  }

  /** Number of the pop-up that is open; 0: none. */
  get number(): number {
    return this.open?.page.number ?? 0
  }

  /** Opens a pop-up in place of the one that is open; null closes it. A keypad opened from a keypad goes on with its draft. */
  show(number: number | null, by: number, closesAfterMs: number): void {
    if (number === null) {
      if (!this.open) return
      this.close()
      return this.view.shows(0)
    }
    const page = this.view.find(number)
    if (!page) return
    const before = this.open
    if (before?.page.kind === 'keypad' && page.kind === 'keypad' && before.by !== 0 && !this.view.hearsKeys(by))
      this.open = { ...before, page }
    else {
      this.close()
      this.open = { page, by, closesAfterMs }
      this.sinceUs = this.timers.nowUs
    }
    this.view.is(page.number)
    this.view.shows(page.number)
    this.touched()
  }

  /** Opens the pop-up that the system variable names, or closes the one that is open; 0: none. */
  follow(number: number): void {
    if (number !== this.number) this.show(number || null, 0, 0)
  }

  /** Closes it without a word: the page under it goes too. */
  close(): void {
    const by = this.open?.by ?? 0
    this.open = null
    this.view.is(0)
    this.timers.cancel(this.timer)
    if (by) this.view.closed(by)
  }

  /** A finger is on the glass: the time until a pop-up gives up begins anew. */
  touched(): void {
    this.timers.cancel(this.timer)
    const ms = this.open?.closesAfterMs ?? 0
    this.timer = ms > 0 ? this.timers.after(ms * 1000, () => this.show(null, 0, 0)) : null
  }

  /** The pop-up as another build has it; without its page or the widget that opened it, it is there no longer. */
  become(now: (number: number) => BuildPage | null, isThere: (widget: number) => boolean): void {
    if (!this.open) return
    const page = now(this.open.page.number)
    const { by } = this.open
    this.open = page && (by === 0 || isThere(by)) ? { ...this.open, page } : null
    if (!this.open) this.timers.cancel(this.timer)
    this.view.is(this.number)
  }
}
