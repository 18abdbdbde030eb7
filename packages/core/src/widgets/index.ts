import type { Values } from '../describe/index.ts'
import { alarms } from './alarms.ts'
import { bar } from './bar.ts'
import { button } from './button.ts'
import { clock } from './clock.ts'
import { dial } from './dial.ts'
import { digits } from './digits.ts'
import { entry, typedText } from './entry.ts'
import { gauge } from './gauge.ts'
import { icon } from './icon.ts'
import { indicator } from './indicator.ts'
import type { WidgetKind } from './kind.ts'
import { label } from './label.ts'
import { level } from './level.ts'
import { list } from './list.ts'
import { number } from './number.ts'
import { shape } from './shape.ts'
import { slider } from './slider.ts'
import { tabs } from './tabs.ts'
import { text } from './text.ts'
import { touchArea } from './touch-area.ts'
import { trend } from './trend.ts'

const kinds: WidgetKind[] = [
  label,
  shape,
  number,
  text,
  indicator,
  button,
  slider,
  entry,
  typedText,
  trend,
  clock,
  bar,
  gauge,
  level,
  touchArea,
  dial,
  digits,
  tabs,
  list,
  alarms,
  icon,
]
const table = new Map<string, WidgetKind>(kinds.map((kind) => [kind.kind, kind]))

/** The kinds there are, in the order they are offered. */
export const widgetKinds = (): WidgetKind[] => [...table.values()]

/** The kind of that name, or undefined: a document of a later version may have others. */
export const widgetKind = (kind: string): WidgetKind | undefined => table.get(kind)

/**
 * The setting by which a kind is bound to what it shows, and that a variable made for a new one goes into: its first essential
 * variable, else the one called `variable`; null where it has neither.
 */
export function boundKey(kind: string): string | null {
  const list = widgetKind(kind)?.settings.list.filter(({ type }) => type.name === 'variable') ?? []
  return (list.find(({ essential }) => essential) ?? list.find(({ key }) => key === 'variable'))?.key ?? null
}

/** The id of the variable that a widget is bound to; '' where it is bound to none. */
export function boundTo({ kind, settings }: { kind: string; settings: Values }): string {
  const key = boundKey(kind)
  return key === null ? '' : String(settings[key] ?? '')
}

/** Adds a kind; a test registers one of its own and takes it out again with the function it gets back. */
export function registerWidgetKind(kind: WidgetKind): () => void {
  table.set(kind.kind, kind)
  return () => void table.delete(kind.kind)
}

export {
  kindOf,
  plainFormats,
  nothingTyped,
  purposes,
  type Formats,
  type KindOf,
  type Purpose,
  type WidgetKind,
  type Live,
  type Gesture,
  type TypedNow,
} from './kind.ts'
export { rawOf, settledOf, type AnyRaw, type AnySettled } from './any.ts'
export { faceType, iconType, statesType, type State, type StateWhen, type CompiledState } from './setting-types.ts'
export { nextState, statesFromWords } from './fresh-states.ts'
export { textMargin } from './text-box.ts'
