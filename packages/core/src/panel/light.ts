import type { Timers } from '../base/index.ts'
import type { CompiledConduct } from '../compile/index.ts'
import { Idle } from './idle.ts'
import type { Memory } from './memory.ts'

/** The rest of the panel, as its light needs it. */
export interface LightView {
  memory(): Memory
  conduct(): CompiledConduct
  /** It is darker than before: a finger that is down sees that. */
  dimmed(): void
  goHome(): void
  /** For who watches: the light is another. */
  changed(percent: number): void
}

/** How bright the glass is, which the system variable says, and what waiting for a finger makes of it. */
export class Light {
  private percent = 100
  private idle: Idle

  constructor(
    timers: Timers,
    private view: LightView,
  ) {
    this.idle = new Idle(timers, {
      conduct: () => view.conduct(),
      light: () => view.memory().own('backlight'),
      setLight: (percent) => view.memory().setOwn('backlight', percent),
      forgetLevel: () => view.memory().setOwn('level', 0),
      goHome: () => view.goHome(),
    })
  }

  /** 0–100 %. */
  get now(): number {
    return this.percent
  }

  /** Waiting for a finger begins anew. */
  restart(): void {
    this.idle.restart()
  }

  /** A finger is there. Whether it has only woken the glass, and counts for nothing else. */
  touched(): boolean {
    return this.idle.wake()
  }

  /** As bright as it was before it dimmed by itself. */
  wake(): void {
    this.idle.wake()
  }

  /** Takes over the light that the system variable says. */
  follow(): void {
    const now = this.view.memory().own('backlight')
    if (now < this.percent) this.view.dimmed()
    this.idle.lightChanged(now)
    if (now !== this.percent) this.view.changed(now)
    this.percent = now
  }
}
