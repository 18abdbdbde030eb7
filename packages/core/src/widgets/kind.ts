import type { Rect } from '../base/index.ts'
import type { Described, Fields, RawOf, SettledOf } from '../describe/index.ts'
import type { GlyphSheet, Surface } from '../raster/index.ts'
import type { CompileContext } from '../settings/index.ts'
import type { Cell, Value } from '../variables/index.ts'

/** What a widget sees of the running panel. */
export interface Live {
  read(cell: Cell): { value: Value; inRange: boolean; stale: boolean }
  sheet(key: string): GlyphSheet | null
  pressed: boolean
  enabled: boolean
}

/** A kind of widget. The functions get settings as they are compiled, with every follower's value of now. */
export interface KindOf<F extends Fields<CompileContext>> {
  kind: string
  label: string
  meaning: string
  size: { width: number; height: number }
  touchable: boolean
  settings: Described<CompileContext, F>
  paint(surface: Surface, place: Rect, settings: SettledOf<F>, live: Live): void
  /** What a person reads off it. */
  shows(settings: SettledOf<F>, live: Live): string
  /** The part of its place that a changed value can change; without this, all of it. */
  moving?(place: Rect, settings: SettledOf<F>): Rect
  /** Whether it hides everything below `area`. */
  covers?(place: Rect, settings: SettledOf<F>, area: Rect): boolean
  /** Of the texts it may show, those to be measured: for findings. Settings as they are stored. */
  widest?(raw: RawOf<F>, holdsOf: (variable: string) => Cell['holds'] | null): string[]
}

/** A kind in the table, where any has its own settings. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what stands in the settings is the kind's own business
export type WidgetKind = KindOf<any>

/** Declares a kind, so that its functions know the types of its settings. */
export const kindOf = <const F extends Fields<CompileContext>>(kind: KindOf<F>): KindOf<F> => kind
