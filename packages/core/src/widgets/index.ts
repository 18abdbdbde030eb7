import { button } from './button.ts'
import { indicator } from './indicator.ts'
import type { WidgetKind } from './kind.ts'
import { entry, typedText } from './entry.ts'
import { label } from './label.ts'
import { number } from './number.ts'
import { shape } from './shape.ts'
import { slider } from './slider.ts'
import { text } from './text.ts'
import { trend } from './trend.ts'

const table = new Map<string, WidgetKind>(
  [label, shape, number, text, indicator, button, slider, entry, typedText, trend].map((kind) => [kind.kind, kind]),
)

/** The kinds there are, in the order they are offered. */
export const widgetKinds = (): WidgetKind[] => [...table.values()]

/** The kind of that name, or undefined: a document of a later version may have others. */
export const widgetKind = (kind: string): WidgetKind | undefined => table.get(kind)

/** Adds a kind; a test registers one of its own and takes it out again with the function it gets back. */
export function registerWidgetKind(kind: WidgetKind): () => void {
  table.set(kind.kind, kind)
  return () => void table.delete(kind.kind)
}

export { kindOf, type KindOf, type WidgetKind, type Live, type Gesture } from './kind.ts'
export { rawOf, settledOf, type AnyRaw, type AnySettled } from './any.ts'
export { faceType, statesType, type State, type StateWhen, type CompiledState } from './setting-types.ts'
export { textMargin } from './text-box.ts'
