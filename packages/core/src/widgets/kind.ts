import type { Rect } from '../base/index.ts'
import type { GlyphSheet, Surface } from '../raster/index.ts'
import type { Setting, SettingValues } from '../settings/index.ts'
import type { Cell, Value } from '../variables/index.ts'

/** What a widget sees of the running panel. */
export interface Live {
  read(cell: Cell): { value: Value; inRange: boolean; stale: boolean }
  sheet(key: string): GlyphSheet | null
  pressed: boolean
  enabled: boolean
}

/** A kind of widget. `settings` given to the functions are compiled, and followers already have their values. */
export interface WidgetKind {
  kind: string
  label: string
  meaning: string
  size: { width: number; height: number }
  settings: Setting[]
  touchable: boolean
  paint(surface: Surface, place: Rect, settings: SettingValues, live: Live): void
  /** What a person reads off it. */
  shows(settings: SettingValues, live: Live): string
  /** The part of its place that a changed value can change; without this, all of it. */
  moving?(place: Rect, settings: SettingValues): Rect
  /** Whether it hides everything below `area`. */
  covers?(place: Rect, settings: SettingValues, area: Rect): boolean
  /** Of the texts it may show, those to be measured: for findings. Raw settings of the project. */
  widest?(settings: SettingValues, holdsOf: (variable: string) => Cell['holds'] | null): string[]
}
