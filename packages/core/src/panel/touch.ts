import { holdsPoint, type TimedEvent, type Timers } from '../base/index.ts'
import type { BuildPage, BuildWidget } from '../compile/index.ts'
import { perform, type CompiledAction, type Moment, type World } from '../rules/index.ts'
import type { Values } from '../describe/index.ts'
import type { Cell } from '../variables/index.ts'
import { settledOf, widgetKind, type AnySettled } from '../widgets/index.ts'

/** How long a finger rests before a repeating action begins to repeat. */
const repeatDelayUs = 400_000

/** What fingers need of the panel. */
export interface TouchView extends Omit<World, 'sendEvent'> {
  page(): BuildPage | null
  settled(widget: BuildWidget): Values
  mark(widget: BuildWidget): void
  sendEvent(widget: BuildWidget, moment: Moment): void
  beep(): void
}

/** The widget a finger at (x, y) would get: the topmost visible one that takes touches. */
export function widgetAt(page: BuildPage, x: number, y: number, settled: (widget: BuildWidget) => Values): BuildWidget | null {
  for (let i = page.widgets.length - 1; i >= 0; i--) {
    const widget = page.widgets[i]!
    if (widgetKind(widget.kind)?.touchable && holdsPoint(widget.place, x, y) && settledOf(settled(widget)).visible !== false)
      return widget
  }
  return null
}

/**
 * One finger. A touch belongs to the widget it began on until it is lifted; sliding off cancels what a release inside
 * would have done; a page opened under the finger ignores it.
 */
export class Touch {
  private widget: BuildWidget | null = null
  private page: BuildPage | null = null
  private inside = false
  private timers: TimedEvent[] = []
  isDown = false

  constructor(
    private owner: Timers,
    private view: TouchView,
  ) {}

  /** Cells that are 1 for as long as this finger is down. */
  get held(): Cell[] {
    const { widget } = this
    return widget ? actionsOf(widget).flatMap((a) => (a.do === 'one while pressed' ? [a.cell] : [])) : []
  }

  /** Shown as pressed: held, and the finger still on it. */
  isPressed(widget: BuildWidget): boolean {
    return this.inside && this.widget === widget
  }

  down(x: number, y: number): void {
    if (this.isDown) return
    this.isDown = true
    this.page = this.view.page()
    const widget = this.page && widgetAt(this.page, x, y, this.view.settled)
    if (!widget) return
    const settings = settledOf(this.view.settled(widget))
    if (settings.enabled === false) return
    this.widget = widget
    this.inside = true
    this.view.mark(widget)
    if (settings.beeps) this.view.beep()
    this.startTimers(widget, settings)
    this.do(widget, 'press')
  }

  private startTimers(widget: BuildWidget, { holdMs = 0 }: AnySettled): void {
    const actions = actionsOf(widget)
    if (actions.some((a) => a.on === 'hold')) this.after(holdMs * 1000, () => this.inside && this.do(widget, 'hold'))
    for (const action of actions) if (action.on === 'press' && action.repeatMs > 0) this.repeat(widget, action, repeatDelayUs)
  }

  private repeat(widget: BuildWidget, action: CompiledAction, delayUs: number): void {
    this.after(delayUs, () => {
      if (this.inside) this.perform(widget, action)
      this.repeat(widget, action, action.repeatMs * 1000)
    })
  }

  private after(delayUs: number, run: () => void): void {
    this.timers.push(this.owner.after(delayUs, run))
  }

  move(x: number, y: number): void {
    const { widget } = this
    if (!widget || this.page !== this.view.page()) return
    const inside = holdsPoint(widget.place, x, y)
    if (inside !== this.inside) this.view.mark(widget)
    this.inside = inside
  }

  up(x: number, y: number): void {
    this.move(x, y)
    const { widget, inside, page } = this
    this.letGo()
    this.isDown = false
    if (!widget) return
    // What is 1 while pressed goes back wherever the finger is lifted, on whatever page.
    for (const action of actionsOf(widget)) if (action.do === 'one while pressed') perform(action, this.world(widget), true)
    if (page !== this.view.page()) return
    this.view.mark(widget)
    this.do(widget, inside ? 'release inside' : 'release outside')
  }

  private letGo(): void {
    for (const timer of this.timers) this.owner.cancel(timer)
    this.timers = []
    this.widget = null
    this.inside = false
  }

  /** Another page was opened: the finger counts for nothing there until it is lifted. */
  pageChanged(): void {
    for (const timer of this.timers) this.owner.cancel(timer)
    this.timers = []
    this.inside = false
  }

  private do(widget: BuildWidget, moment: Moment): void {
    for (const action of actionsOf(widget)) if (action.on === moment) this.perform(widget, action)
  }

  private perform(widget: BuildWidget, action: CompiledAction): void {
    perform(action, this.world(widget))
  }

  private world(widget: BuildWidget): World {
    const { view } = this
    return {
      read: (cell) => view.read(cell),
      write: (cell, value) => view.write(cell, value),
      goTo: (page) => view.goTo(page),
      sendEvent: (moment) => view.sendEvent(widget, moment),
    }
  }
}

const actionsOf = ({ settings }: BuildWidget): readonly CompiledAction[] => settledOf(settings).actions ?? []
