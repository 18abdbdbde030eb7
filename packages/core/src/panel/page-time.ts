import type { TimedEvent, Timers } from '../base/index.ts'
import type { BuildPage } from '../compile/index.ts'
import type { CompiledRule, Moment } from '../rules/index.ts'

/** Timed actions of pages and of the panel itself. */
export interface PageTimeView {
  run(rule: CompiledRule, moment: Moment): void
  go(page: number): void
}

/** The shortest time between two runs of one rule, ms. */
const leastEveryMs = 20

/** Actions of a page on opening, on leaving, and while it is shown. */
export class PageTime {
  private page: BuildPage | null = null
  private events = new Set<TimedEvent>()
  /** When the page was opened, µs. */
  openedUs = 0

  constructor(
    private timers: Timers,
    private view: PageTimeView,
  ) {}

  /** Another page is shown: the one before is left first. */
  opened(page: BuildPage | null): void {
    const before = this.page
    this.page = page
    this.openedUs = this.timers.nowUs
    this.cancel()
    this.does(before, 'left')
    // Actions on leaving may have opened another page.
    if (this.page !== page) return
    this.wait()
    this.does(page, 'opened')
  }

  /** The page as another build has it: nothing is opened or left, its times go on. */
  become(page: BuildPage | null): void {
    if (this.page === page) return
    this.page = page
    this.cancel()
    this.wait()
  }

  private does(page: BuildPage | null, moment: Moment): void {
    for (const rule of page?.rules ?? []) if (rule.on === moment) this.view.run(rule, moment)
  }

  private wait(): void {
    const { page } = this
    if (!page) return
    for (const rule of page.rules) if (rule.on === 'time' && rule.everyMs > 0) this.repeat(rule)
    const { showsForMs, then } = page
    if (showsForMs > 0 && then !== null)
      this.at(Math.max(this.timers.nowUs, this.openedUs + showsForMs * 1000), () => this.view.go(then))
  }

  private repeat(rule: CompiledRule): void {
    this.at(this.timers.nowUs + Math.max(leastEveryMs, rule.everyMs) * 1000, () => {
      this.repeat(rule)
      this.view.run(rule, 'time')
    })
  }

  private at(us: number, run: () => void): void {
    const event: TimedEvent = this.timers.at(us, () => {
      this.events.delete(event)
      run()
    })
    this.events.add(event)
  }

  private cancel(): void {
    for (const event of this.events) this.timers.cancel(event)
    this.events.clear()
  }
}
