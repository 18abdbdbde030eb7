import { sameJson } from '../base/index.ts'
import type { BuildPage, BuildWidget } from '../compile/index.ts'
import type { EventKind } from '../frames/index.ts'
import type { Effect } from '../rules/index.ts'
import { nothingTyped, widgetKind, type Gesture, type TypedNow } from '../widgets/index.ts'
import type { Glass } from './glass.ts'
import type { States } from './states.ts'

/** The widgets of a build as they run: what each kind makes of fingers and keys, by settings, state and the values it shows. */
export class Widgets {
  private byNumber = new Map<number, BuildWidget>()
  private pages: readonly BuildPage[] | null = null

  constructor(
    private glass: () => Glass,
    private states: () => States,
  ) {}

  /** Takes the widgets of another build. */
  become(pages: readonly BuildPage[]): void {
    if (this.pages === pages) return
    this.pages = pages
    this.byNumber = new Map(pages.flatMap((page) => page.widgets.map((w) => [w.number, w])))
  }

  get all(): ReadonlyMap<number, BuildWidget> {
    return this.byNumber
  }

  /** The widget of that number; undefined: there is none, as of 0. */
  of(number: number): BuildWidget | undefined {
    return this.byNumber.get(number)
  }

  /** The effects of a gesture on a widget, whose state may be another afterwards. */
  gesture(widget: BuildWidget, gesture: Gesture): readonly Effect[] | null {
    const kind = widgetKind(widget.kind)
    if (!kind?.touch) return null
    return kind.touch(gesture, widget.place, ...this.ground(widget))
  }

  /** The effects of a kind by itself at a moment of a touch, wherever on the widget that is; none where the place counts. */
  anywhere(widget: BuildWidget, moment: EventKind, nowUs: number): readonly Effect[] {
    const kind = widgetKind(widget.kind)
    const gesture = moment === 'pressed' ? 'down' : moment === 'lifted' ? 'up' : null
    if (!kind?.touch || !gesture) return []
    const { x, y, width, height } = widget.place
    const [settings, state, live] = this.ground(widget)
    const at = (share: number): readonly Effect[] => {
      const copy = structuredClone(state)
      const point = { x: x + width * share, y: y + height * share, inside: true, atUs: nowUs }
      // A finger that is lifted was down before.
      if (gesture === 'up') kind.touch!({ kind: 'down', ...point }, widget.place, settings, copy, live)
      return kind.touch!({ kind: gesture, ...point }, widget.place, settings, copy, live)
    }
    const [first, second] = [at(0.25), at(0.75)]
    return sameJson(first, second) ? first : []
  }

  /** The text that is being typed into a widget, for the keypad above it; of one that tells none, the text it shows. */
  typing(number: number): TypedNow {
    const widget = this.of(number)
    if (!widget) return nothingTyped
    const kind = widgetKind(widget.kind)
    return kind?.typing ? kind.typing(...this.ground(widget)) : { ...nothingTyped, draft: this.glass().shows(widget) ?? '' }
  }

  /** The effects of a key of a keypad on the widget that opened it; null: it hears no keys. */
  key(widget: BuildWidget | undefined, key: string): readonly Effect[] | null {
    const kind = widget && widgetKind(widget.kind)
    return widget && kind?.key ? kind.key(key, ...this.ground(widget)) : null
  }

  hearsKeys(number: number): boolean {
    return widgetKind(this.of(number)?.kind ?? '')?.key !== undefined
  }

  /** The keypad that a widget opened is gone. */
  keypadClosed(number: number): void {
    const widget = this.of(number)
    if (widget) widgetKind(widget.kind)?.closed?.(this.states().of(widget))
  }

  private ground(widget: BuildWidget) {
    return [this.glass().settled(widget), this.states().of(widget), this.glass().liveFor(widget)] as const
  }
}
