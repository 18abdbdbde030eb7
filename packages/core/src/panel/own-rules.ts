import type { TimedEvent, Timers } from '../base/index.ts'
import type { CompiledRule, Moment } from '../rules/index.ts'

/** The shortest time between two runs of one rule, ms. */
const leastEveryMs = 20

/** Rules of the panel itself: at its start, and as time goes on. */
export class OwnRules {
  private events: TimedEvent[] = []

  constructor(
    private timers: Timers,
    private run: (rule: CompiledRule, moment: Moment) => void,
  ) {}

  start(rules: readonly CompiledRule[]): void {
    for (const rule of rules) if (rule.on === 'started') this.run(rule, 'started')
    this.wait(rules)
  }

  /** Those of the time wait anew. */
  wait(rules: readonly CompiledRule[]): void {
    for (const event of this.events) this.timers.cancel(event)
    this.events = []
    rules.forEach((rule, k) => {
      if (rule.on !== 'time' || rule.everyMs <= 0) return
      const everyUs = Math.max(leastEveryMs, rule.everyMs) * 1000
      const again = () => {
        this.events[k] = this.timers.after(everyUs, again)
        this.run(rule, 'time')
      }
      this.events[k] = this.timers.after(everyUs, again)
    })
  }
}
