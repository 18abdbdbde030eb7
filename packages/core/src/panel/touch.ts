import { holdsPoint, sameJson, type TimedEvent, type Timers } from '../base/index.ts'
import type { BuildPage, BuildWidget } from '../compile/index.ts'
import type { EventKind } from '../frames/index.ts'
import { lasts, perform, performEnd, type CompiledRule, type CompiledLine, type Effect, type World } from '../rules/index.ts'
import type { Uncounted } from '../protocols/index.ts'
import type { Values } from '../describe/index.ts'
import type { Cell } from '../variables/index.ts'
import { settledOf, widgetKind, type AnySettled, type Gesture } from '../widgets/index.ts'
import { isEnabled } from './glass.ts'

/** How long a finger rests before a repeating rule begins to repeat. */
const repeatDelayUs = 400_000

/** Requests of fingers to the panel. */
export interface TouchView {
  /** The pages shown that take touches, from below: the pop-up that is open takes them all. */
  page(): BuildPage | null
  /** When the page that takes touches was opened, µs. */
  openedUs(): number
  limits(): { contactMs: number; deafMs: number }
  /** The level of whoever works at the panel. */
  level(): number
  settled(widget: BuildWidget): Values
  /** It looks different: pressed, or its state has changed. */
  mark(widget: BuildWidget): void
  /** Does what a moment of a touch on a widget brings. `holding`: the finger goes on with it. */
  run(widget: BuildWidget, moment: EventKind, holding: boolean, what: (world: World) => void): void
  /** Effects of a gesture by the kind of the widget. */
  gesture(widget: BuildWidget, gesture: Gesture): readonly Effect[]
  /** Nothing more comes from this finger: what waited to be said is said. */
  ended(): void
  /** The touch does nothing, and why. */
  notCounted(why: Uncounted): void
  beep(): void
}

/** Whether a widget takes a touch at a point. */
function takes(widget: BuildWidget, x: number, y: number, settings: Values): boolean {
  const kind = widgetKind(widget.kind)
  if (!kind?.touchable || !holdsPoint(widget.place, x, y) || settledOf(settings).visible === false) return false
  return kind.hits?.(widget.place, settings, x, y) ?? true
}

/** The widget a finger at (x, y) would get: the topmost visible one that takes touches. */
export function widgetAt(page: BuildPage, x: number, y: number, settled: (widget: BuildWidget) => Values): BuildWidget | null {
  for (let i = page.widgets.length - 1; i >= 0; i--) {
    const widget = page.widgets[i]!
    if (takes(widget, x, y, settled(widget))) return widget
  }
  return null
}

/**
 * One finger. A touch belongs to the widget it began on until it is lifted; sliding off cancels what a lifting would have
 * done; a page opened under the finger ignores it; a contact that is too short, or too soon after a page has opened, does
 * not count. What lasts while it is held never outlives it: it ends by lifting, sliding off, another page or pop-up,
 * disabling, hiding, dimming.
 */
export class Touch {
  private widget: BuildWidget | null = null
  private lasting: readonly CompiledLine[] = []
  private inside = false
  private x = 0
  private y = 0
  private timers: TimedEvent[] = []
  private contact: TimedEvent | null = null
  isDown = false

  constructor(
    private owner: Timers,
    private view: TouchView,
  ) {}

  /** Shown as pressed: held, and the finger still on it. */
  isPressed(widget: BuildWidget): boolean {
    return this.inside && this.widget === widget
  }

  /** The widget that the finger holds. */
  get holds(): BuildWidget | null {
    return this.widget
  }

  down(x: number, y: number): void {
    if (this.isDown) return
    this.isDown = true
    this.x = x
    this.y = y
    const { contactMs, deafMs } = this.view.limits()
    if (this.owner.nowUs - this.view.openedUs() < deafMs * 1000) return this.view.notCounted('too soon')
    const page = this.view.page()
    if (contactMs === 0) return this.begin(x, y)
    this.contact = this.owner.after(contactMs * 1000, () => {
      this.contact = null
      if (this.view.page() === page) this.begin(x, y)
    })
  }

  private begin(x: number, y: number): void {
    const page = this.view.page()
    const widget = page && widgetAt(page, x, y, this.view.settled)
    if (!widget) return
    const settings = settledOf(this.view.settled(widget))
    if (!isEnabled(settings, this.view.level())) return this.view.notCounted('disabled')
    this.widget = widget
    this.inside = true
    this.view.mark(widget)
    if (settings.beeps) this.view.beep()
    this.startTimers(widget, settings)
    this.gesture('down')
    if (!settings.confirms) this.do('pressed')
    // Its actions may have opened another page, which ends the touch.
    if (this.widget !== widget) return
    this.lasting = lastingOf(widget)
    for (const line of this.lasting) this.view.run(widget, 'pressed', true, (world) => perform(line, world))
  }

  private startTimers(widget: BuildWidget, { holdMs = 0, confirms = false }: AnySettled): void {
    if (holdMs > 0)
      this.after(holdMs * 1000, () => {
        if (!this.inside) return
        this.gesture('held')
        // A hold-to-activate button is pressed only now.
        if (confirms) this.do('pressed')
        this.do('held')
      })
    for (const { on, everyMs, faster, lines } of rulesOf(widget))
      if (on === 'pressed' && everyMs > 0 && !confirms) this.repeat(instantLines(lines), repeatDelayUs, everyMs, faster)
    for (const line of lastingOf(widget)) {
      const { everyMs } = lasts(line)!
      if (everyMs > 0) this.repeat([line], everyMs * 1000, everyMs)
    }
  }

  /** `faster`: twice as often after 1.5 s of it, four times after 3 s. */
  private repeat(
    lines: readonly CompiledLine[],
    delayUs: number,
    everyMs: number,
    faster = false,
    sinceUs = this.owner.nowUs,
  ): void {
    this.after(delayUs, () => {
      const { widget } = this
      const goesOn = lines.filter((line) => !lasts(line) || this.lasting.includes(line))
      if (widget && this.inside && goesOn.length)
        this.view.run(widget, 'pressed', true, (world) => goesOn.forEach((line) => perform(line, world)))
      const soFarUs = this.owner.nowUs - sinceUs
      const speed = !faster || soFarUs < 1_500_000 ? 1 : soFarUs < 3_000_000 ? 2 : 4
      this.repeat(lines, Math.max(20, everyMs / speed) * 1000, everyMs, faster, sinceUs)
    })
  }

  private after(delayUs: number, run: () => void): void {
    const event = this.owner.after(delayUs, () => {
      this.timers = this.timers.filter((t) => t !== event)
      run()
    })
    this.timers.push(event)
  }

  move(x: number, y: number): void {
    this.x = x
    this.y = y
    const { widget } = this
    if (!widget) return
    const inside = takes(widget, x, y, this.view.settled(widget))
    const left = this.inside && !inside
    if (inside !== this.inside) this.view.mark(widget)
    this.inside = inside
    if (left) {
      this.endLasting('slid off')
      this.gesture('slid off')
    }
    this.gesture('move')
  }

  up(x: number, y: number): void {
    if (this.contact) this.view.notCounted('too short')
    this.owner.cancel(this.contact)
    this.contact = null
    this.move(x, y)
    this.isDown = false
    const { widget, inside } = this
    if (!widget) return
    this.gesture('up')
    this.endLasting('lifted')
    this.do(inside ? 'lifted' : 'slid off')
    this.letGo()
  }

  /** The finger counts for nothing more until it is lifted: another page or pop-up is open, or its widget is out of use. */
  cancel(): void {
    this.owner.cancel(this.contact)
    this.contact = null
    if (!this.widget) return
    this.gesture('cancelled')
    this.endLasting('slid off')
    this.letGo()
  }

  /** The glass dims: what lasts while it is held ends. */
  dimmed(): void {
    this.endLasting('slid off')
  }

  /** Words changed: a widget that is disabled or hidden under the finger is let go. */
  look(): void {
    const settings = this.widget && settledOf(this.view.settled(this.widget))
    if (settings && (!isEnabled(settings, this.view.level()) || settings.visible === false)) this.cancel()
  }

  private letGo(): void {
    for (const timer of this.timers) this.owner.cancel(timer)
    this.timers = []
    const { widget } = this
    this.widget = null
    this.inside = false
    this.lasting = []
    if (!widget) return
    this.view.mark(widget)
    this.view.ended()
  }

  private endLasting(moment: EventKind): void {
    const { widget, lasting } = this
    this.lasting = []
    if (widget) for (const line of lasting) this.view.run(widget, moment, false, (world) => performEnd(line, world))
  }

  /**
   * Takes another build: the finger goes on with its widget where that is still there, and what it had begun that is there no
   * more ends. `cellNow`: where a variable is in the new build.
   */
  become(now: BuildWidget | null, cellNow: (cell: Cell) => Cell | null): void {
    const { widget } = this
    if (!widget) return
    const moved = this.lasting.flatMap((line) => {
      const cell = line.with['variable'] as Cell | null
      const to = cell && cellNow(cell)
      return to ? [{ ...line, with: { ...line.with, variable: to } }] : []
    })
    const goes = now?.kind === widget.kind ? now : null
    const known = goes ? lastingOf(goes) : []
    const same = (line: CompiledLine) =>
      known.find((k) => k.action === line.action && sameJson(k.with['variable'], line.with['variable']))
    const over = moved.filter((line) => !same(line))
    this.widget = goes ?? widget
    for (const line of over) this.view.run(this.widget, 'slid off', false, (world) => performEnd(line, world))
    this.lasting = moved.flatMap((line) => same(line) ?? [])
    if (!goes) return this.cancel()
    this.view.mark(goes)
    this.look()
  }

  /** Actions of a moment: each rule is a separate run. */
  private do(moment: EventKind): void {
    const { widget } = this
    if (!widget) return
    for (const { on, lines } of rulesOf(widget))
      if (on === moment)
        this.view.run(widget, moment, false, (world) => instantLines(lines).forEach((line) => perform(line, world)))
  }

  private gesture(kind: Gesture['kind']): void {
    const { widget, x, y, inside } = this
    if (!widget) return
    const effects = this.view.gesture(widget, { kind, x, y, inside, atUs: this.owner.nowUs })
    if (effects.length)
      this.view.run(widget, kind === 'up' ? 'lifted' : 'pressed', false, (world) => effects.forEach((effect) => world.do(effect)))
  }
}

const rulesOf = ({ settings }: BuildWidget): readonly CompiledRule[] => settledOf(settings).rules ?? []
/** The lines that last as long as the touch, and those that are done at once. */
const lastingOf = (widget: BuildWidget): CompiledLine[] => rulesOf(widget).flatMap(({ lines }) => lines.filter(lasts))
const instantLines = (lines: readonly CompiledLine[]): readonly CompiledLine[] => lines.filter((line) => !lasts(line))

/** Actions of a widget's rules at one moment. */
export const linesAt = (widget: BuildWidget, moment: EventKind): readonly CompiledLine[] =>
  rulesOf(widget).flatMap(({ on, lines }) => [
    ...(on === moment ? instantLines(lines) : []),
    ...(moment === 'pressed' ? lines.filter(lasts) : []),
  ])
