import type { TimedEvent, Timers } from '../base/index.ts'
import type { BuildWidget } from '../compile/index.ts'
import type { Values } from '../describe/index.ts'
import type { Effect } from '../rules/index.ts'
import { widgetKind, type Live } from '../widgets/index.ts'

/** Requests of widget states to the panel. */
export interface StatesView {
  settled(widget: BuildWidget): Values
  live(widget: BuildWidget): Live
  /** Its state has changed: it may look different. */
  changed(widget: BuildWidget): void
  /** Effects of a widget on a state that it has noticed. */
  does(widget: BuildWidget, effects: readonly Effect[]): void
}

/** State that the panel keeps for its widgets, by their numbers, from power-on; those that sample do so on whatever page. */
export class States {
  private states = new Map<number, { kind: string; state: unknown }>()
  private samplers = new Map<number, { everyMs: number; event: TimedEvent }>()
  private widgets: ReadonlyMap<number, BuildWidget> = new Map()
  /** Widgets that notice, by the addresses of the words that they read. */
  private noticing = new Map<number, BuildWidget[]>()

  constructor(
    private timers: Timers,
    private view: StatesView,
  ) {}

  of(widget: BuildWidget): unknown {
    const known = this.states.get(widget.number)
    if (known) return known.state
    const state: unknown = widgetKind(widget.kind)?.state?.(this.view.settled(widget))
    this.states.set(widget.number, { kind: widget.kind, state })
    return state
  }

  /** The widgets of a build: what is kept goes on where its widget is still of its kind. */
  become(widgets: ReadonlyMap<number, BuildWidget>): void {
    this.widgets = widgets
    for (const [number, { kind, state }] of this.states) {
      const widget = widgets.get(number)
      if (!widget || widget.kind !== kind) this.states.delete(number)
      else this.states.set(number, { kind, state: widgetKind(kind)?.keeps?.(state, this.view.settled(widget)) ?? state })
    }
    for (const [number, { everyMs, event }] of this.samplers) {
      if (this.everyMs(widgets.get(number)) === everyMs) continue
      this.timers.cancel(event)
      this.samplers.delete(number)
    }
    this.noticing.clear()
    for (const widget of widgets.values()) {
      const kind = widgetKind(widget.kind)
      if (kind?.noticed || kind?.wrote)
        for (const cell of widget.cells)
          for (let k = 0; k < cell.words; k++) {
            const at = this.noticing.get(cell.address + k)
            if (at) at.push(widget)
            else this.noticing.set(cell.address + k, [widget])
          }
      const everyMs = this.everyMs(widget)
      if (everyMs && !this.samplers.has(widget.number)) this.sampleAfter(widget.number, everyMs)
    }
  }

  /** The panel has started: what notices looks at what there is. */
  start(): void {
    for (const widget of this.widgets.values()) this.notice(widget)
  }

  /** Words have changed: whoever reads them notices, on whatever page. */
  wordsChanged(address: number, words: number): void {
    for (const widget of this.readersOf(address, words)) this.notice(widget)
  }

  /** The host has written words, be it with what they were. */
  wrote(address: number, words: number): void {
    for (const widget of this.readersOf(address, words)) {
      const kind = widgetKind(widget.kind)
      if (!kind?.wrote) continue
      kind.wrote(this.view.settled(widget), this.of(widget), this.view.live(widget))
      this.view.changed(widget)
    }
  }

  /** Discards the samples of a widget. */
  clear(number: number): void {
    const widget = this.widgets.get(number)
    if (!widget) return
    widgetKind(widget.kind)?.clear?.(this.view.settled(widget), this.of(widget))
    this.view.changed(widget)
  }

  private readersOf(address: number, words: number): Set<BuildWidget> {
    const out = new Set<BuildWidget>()
    for (let k = 0; k < words; k++) for (const widget of this.noticing.get(address + k) ?? []) out.add(widget)
    return out
  }

  private notice(widget: BuildWidget): void {
    const kind = widgetKind(widget.kind)
    if (!kind?.noticed) return
    const effects = kind.noticed(this.view.settled(widget), this.of(widget), this.view.live(widget))
    this.view.changed(widget)
    if (effects.length) this.view.does(widget, effects)
  }

  private everyMs(widget: BuildWidget | undefined): number | null {
    const every = widget && widgetKind(widget.kind)?.samplesEveryMs
    return (every && every(this.view.settled(widget))) ?? null
  }

  private sampleAfter(number: number, everyMs: number): void {
    const event = this.timers.after(everyMs * 1000, () => {
      const widget = this.widgets.get(number)
      if (!widget) return
      widgetKind(widget.kind)?.sample?.(this.view.settled(widget), this.of(widget), this.view.live(widget))
      this.view.changed(widget)
      this.sampleAfter(number, everyMs)
    })
    this.samplers.set(number, { everyMs, event })
  }
}
