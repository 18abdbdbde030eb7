import type { TimedEvent, Timers } from '../base/index.ts'
import type { CompiledConduct } from '../compile/index.ts'

/** Requests of the idle timer to the panel. */
export interface IdleView {
  conduct(): CompiledConduct
  light(): number
  setLight(percent: number): void
  goHome(): void
  /** The operator has left. */
  forgetLevel(): void
}

/** Idle behaviour of a panel: it dims, it returns to its home page. */
export class Idle {
  private dims: TimedEvent | null = null
  private home: TimedEvent | null = null
  private leaves: TimedEvent | null = null
  /** How bright it was before it dimmed by itself, and how dark it is now; null: it has not. */
  private dimmed: { from: number; to: number } | null = null

  constructor(
    private timers: Timers,
    private view: IdleView,
  ) {}

  /** Counts from now: at the start, by another build, when something has happened. */
  restart(): void {
    this.timers.cancel(this.dims)
    this.timers.cancel(this.home)
    this.timers.cancel(this.leaves)
    const { dimAfterS, homeAfterS, levelAfterS } = this.view.conduct()
    this.dims = dimAfterS > 0 ? this.timers.after(dimAfterS * 1_000_000, () => this.dim()) : null
    this.home = homeAfterS > 0 ? this.timers.after(homeAfterS * 1_000_000, () => this.view.goHome()) : null
    this.leaves = levelAfterS > 0 ? this.timers.after(levelAfterS * 1_000_000, () => this.view.forgetLevel()) : null
  }

  private dim(): void {
    const { dimTo, darkest } = this.view.conduct()
    const [from, to] = [this.view.light(), Math.max(dimTo, darkest)]
    if (to >= from || this.dimmed) return
    this.dimmed = { from, to }
    this.view.setLight(to)
  }

  /** As bright as it was before it dimmed by itself. Whether it had. */
  wake(): boolean {
    const { dimmed } = this
    this.dimmed = null
    if (dimmed) this.view.setLight(dimmed.from)
    this.restart()
    return dimmed !== null
  }

  /** The light is another: what somebody else has set is not what it dimmed to. */
  lightChanged(percent: number): void {
    if (this.dimmed && this.dimmed.to !== percent) this.dimmed = null
  }
}
