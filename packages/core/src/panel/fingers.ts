import type { Timers } from '../base/index.ts'
import type { Uncounted, Wire } from '../protocols/index.ts'
import type { Glass } from './glass.ts'
import type { Light } from './light.ts'
import type { Memory } from './memory.ts'
import type { Pages } from './pages.ts'
import type { PopUps } from './pop-ups.ts'
import { widgetAt, type Touch } from './touch.ts'

/** The parts of the panel that a finger meets. */
export interface FingersView {
  memory(): Memory
  glass(): Glass
  light(): Light
  pages(): Pages
  popUps(): PopUps
  touch(): Touch
  wire(): Wire
}

/** A finger on the glass, before it counts as a touch: it may wake the panel, be locked out, or skip a page. */
export class Fingers {
  /** Number of the widget that the finger came down on, 0: none. */
  private on = 0
  private lockedUntilUs = -1

  constructor(
    private timers: Timers,
    private view: FingersView,
  ) {}

  /** No touch counts for so many ms. */
  lock(ms: number): void {
    this.lockedUntilUs = this.timers.nowUs + ms * 1000
  }

  down(x: number, y: number): void {
    const { view } = this
    const pages = view.pages()
    const widget = pages.touched && widgetAt(pages.touched, x, y, (w) => view.glass().settled(w))
    this.on = widget?.number ?? 0
    view.wire().beside({ what: 'touched', widget: this.on, x, y })
    const woke = view.light().touched()
    view.popUps().touched()
    view.memory().setOwn('touched', 1)
    if (woke) return this.notCounted('it woke the glass')
    if (this.timers.nowUs < this.lockedUntilUs) return this.notCounted('touch is locked')
    if (!view.popUps().now && pages.now?.skips && pages.now.then !== null) return pages.goTo(pages.now.then)
    view.touch().down(x, y)
  }

  /** For who watches: why a touch did nothing. */
  notCounted(why: Uncounted): void {
    this.view.wire().beside({ what: 'not counted', why })
  }

  move(x: number, y: number): void {
    this.view.touch().move(x, y)
  }

  up(x: number, y: number): void {
    this.view.wire().beside({ what: 'lifted', widget: this.on, x, y })
    this.view.touch().up(x, y)
    this.view.memory().setOwn('touched', 0)
  }
}
