import type { TimedEvent, Timers } from '../base/index.ts'
import { unknownDate, unknownMinute, weekdayOf } from '../variables/index.ts'
import type { Memory } from './memory.ts'

/** The time of day as it goes on in memory, and the beeper that counts down there. */
export class PanelClock {
  private beepTimer: TimedEvent | null = null

  constructor(
    private timers: Timers,
    private memory: Memory,
    private beeps: (ms: number) => void,
  ) {}

  /** Counts the seconds from now on, where somebody has set them. */
  start(): void {
    const tick = () => {
      const clock = this.memory.clock()
      if (clock !== null) {
        this.memory.setOwn('clock', (clock + 1) % 86_400)
        const date = this.memory.own('date')
        if (clock === 86_399 && date < unknownDate - 1) this.memory.setOwn('date', date + 1)
      }
      this.timers.after(1_000_000, tick)
    }
    this.timers.after(1_000_000, tick)
  }

  /** The words that follow from clock and date. */
  tell(): void {
    const clock = this.memory.clock()
    const date = this.memory.own('date')
    this.memory.setOwn('minute', clock === null ? unknownMinute : Math.floor(clock / 60))
    this.memory.setOwn('weekday', date === unknownDate ? 0 : weekdayOf(date))
  }

  /** The beeper sounds for as long as its word says. */
  beep(): void {
    const ms = this.memory.own('beep')
    this.timers.cancel(this.beepTimer)
    if (ms === 0) return
    this.beeps(ms)
    this.beepTimer = this.timers.after(ms * 1000, () => this.memory.setOwn('beep', 0))
  }
}
