import { holdsPoint, type TimedEvent, type Timers } from '../base/index.ts'
import type { BuildPage, BuildWidget } from '../compile/index.ts'
import type { EventKind } from '../frames/index.ts'
import { lasts, perform, performEnd, type CompiledAction, type CompiledLine, type World } from '../rules/index.ts'
import type { Values } from '../describe/index.ts'
import type { Cell } from '../variables/index.ts'
import { settledOf, widgetKind, type AnySettled } from '../widgets/index.ts'

/** How long a finger rests before a repeating action begins to repeat. */
const repeatDelayUs = 400_000

/** What fingers need of the panel. */
export interface TouchView {
  page(): BuildPage | null
  settled(widget: BuildWidget): Values
  mark(widget: BuildWidget): void
  /** Does what a moment of a touch on a widget brings. */
  run(widget: BuildWidget, moment: EventKind, what: (world: World) => void): void
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
    return widget ? lasting(widget).flatMap(({ with: values }) => (values['variable'] ? [values['variable'] as Cell] : [])) : []
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
    this.do(widget, 'pressed')
    for (const line of lasting(widget)) this.view.run(widget, 'pressed', (world) => perform(line, world))
  }

  private startTimers(widget: BuildWidget, { holdMs = 0 }: AnySettled): void {
    const actions = actionsOf(widget)
    if (actions.some((a) => a.on === 'held')) this.after(holdMs * 1000, () => this.inside && this.do(widget, 'held'))
    for (const { on, everyMs, lines } of actions)
      if (on === 'pressed' && everyMs > 0) this.repeat(widget, passing(lines), repeatDelayUs, everyMs)
    for (const line of lasting(widget)) {
      const { everyMs } = lasts(line)!
      if (everyMs > 0) this.repeat(widget, [line], everyMs * 1000, everyMs)
    }
  }

  private repeat(widget: BuildWidget, lines: readonly CompiledLine[], delayUs: number, everyMs: number): void {
    this.after(delayUs, () => {
      if (this.inside) this.view.run(widget, 'pressed', (world) => lines.forEach((line) => perform(line, world)))
      this.repeat(widget, lines, everyMs * 1000, everyMs)
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
    // What lasts as long as the touch ends wherever the finger is lifted, on whatever page.
    for (const line of lasting(widget)) this.view.run(widget, 'lifted', (world) => performEnd(line, world))
    if (page !== this.view.page()) return
    this.view.mark(widget)
    this.do(widget, inside ? 'lifted' : 'slid off')
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

  /** What a moment brings: each action is a run of its own. */
  private do(widget: BuildWidget, moment: EventKind): void {
    for (const { on, lines } of actionsOf(widget))
      if (on === moment) this.view.run(widget, moment, (world) => passing(lines).forEach((line) => perform(line, world)))
  }
}

const actionsOf = ({ settings }: BuildWidget): readonly CompiledAction[] => settledOf(settings).actions ?? []
/** The lines that last as long as the touch, and those that are done at once. */
const lasting = (widget: BuildWidget): CompiledLine[] => actionsOf(widget).flatMap(({ lines }) => lines.filter(lasts))
const passing = (lines: readonly CompiledLine[]): readonly CompiledLine[] => lines.filter((line) => !lasts(line))
