import type { Timers } from '../base/index.ts'
import type { Build, BuildPage, BuildWidget } from '../compile/index.ts'
import type { Values } from '../describe/index.ts'
import type { Happening } from '../protocols/index.ts'
import { widgetKind } from '../widgets/index.ts'
import type { Memory } from './memory.ts'
import type { PopUps } from './pop-ups.ts'

/** How many pages a panel can go back, and how many may open each other in one instant. */
const mostHistory = 8
const mostOpenings = 16

/** The rest of the panel, as its pages need it. */
export interface PagesView {
  build(): Build
  memory(): Memory
  popUps(): PopUps
  /** A page is about to be left. */
  leaving(): void
  /** The glass shows something else from now on. */
  shows(): void
  /** Another page has been opened, or none. */
  opened(page: BuildPage | null): void
  beside(happening: Happening): void
}

/** The page that is shown, and those it was reached by. */
export class Pages {
  private page: BuildPage | null = null
  /** Numbers of the pages before this one, the last one last. */
  private history: number[] = []
  private goesBack = false
  private openings = 0
  private openingsUs = -1
  /** When the glass last showed something else, µs; long ago at power-on, when no finger could mean another page. */
  openedUs = -Infinity

  constructor(
    private timers: Timers,
    private view: PagesView,
  ) {}

  /** The page under a pop-up too. */
  get now(): BuildPage | null {
    return this.page
  }

  /** The page, and the pop-up that is open above it. */
  get shown(): BuildPage[] {
    const popUp = this.view.popUps().now?.page
    return this.page ? [this.page, ...(popUp ? [popUp] : [])] : []
  }

  /** The page that a finger reaches: the pop-up alone, where one is open. */
  get touched(): BuildPage | null {
    return this.view.popUps().now?.page ?? this.page
  }

  /** The widget of that number, where it is shown. */
  widget(number: number): BuildWidget | null {
    return this.shown.flatMap((page) => page.widgets).find((widget) => widget.number === number) ?? null
  }

  /** Shows the page that the system variable names. Pages that open each other for ever are stopped: the one shown stays. */
  open(): void {
    const { memory, build, beside } = this.view
    const number = memory().own('page')
    const page = build().header.pages.find((p) => p.number === number && p.kind === 'page') ?? null
    if (page === this.page) return
    if (this.loops()) {
      beside({ what: 'loop', page: number })
      memory().setOwn('page', this.page?.number ?? 0)
      return
    }
    this.view.leaving()
    if (this.page && !this.goesBack) this.history = [...this.history, this.page.number].slice(-mostHistory)
    this.page = page
    this.view.popUps().close()
    this.nowShown()
    beside({ what: 'page', page: page?.number ?? 0 })
    this.view.opened(page)
  }

  /** The glass shows another page or pop-up: a finger that is down means neither. */
  nowShown(): void {
    this.openedUs = this.timers.nowUs
    this.view.shows()
  }

  /** Opens a page by its number; null: none was named, nothing happens. */
  goTo(number: number | null): void {
    if (number !== null) this.view.memory().setOwn('page', number)
  }

  /** Opens the page before this one, where there is one. */
  goBack(): void {
    const number = this.history.at(-1)
    if (number === undefined) return
    this.history = this.history.slice(0, -1)
    this.goesBack = true
    this.goTo(number)
    this.goesBack = false
  }

  /** Whether pages have opened each other too often without any time going by. */
  private loops(): boolean {
    const { nowUs } = this.timers
    this.openings = nowUs === this.openingsUs ? this.openings + 1 : 0
    this.openingsUs = nowUs
    return this.openings > mostOpenings
  }

  /** Whether a finger would find anything on the page, and would count; `deafMs`: none does for so long after it opened. */
  canBeTouched(deafMs: number, settled: (widget: BuildWidget) => Values): boolean {
    if (this.timers.nowUs - this.openedUs < deafMs * 1000) return false
    return this.page?.widgets.some((w) => widgetKind(w.kind)?.touchable && settled(w)['visible'] !== false) ?? false
  }

  /** The page and the pop-up as another build has them. A panel that showed no page shows where the build starts. */
  become(now: (number: number) => BuildPage | null, isThere: (widget: number) => boolean): void {
    const { build, memory, popUps } = this.view
    const shown = this.page && now(this.page.number)
    popUps().become(now, isThere)
    const { pages, startPage } = build().header
    this.page = shown ?? pages.find((p) => p.number === startPage) ?? null
    memory().setOwn('page', this.page?.number ?? 0)
  }
}
