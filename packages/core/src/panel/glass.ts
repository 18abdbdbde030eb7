import {
  areaOf,
  around,
  holdsRect,
  intersect,
  isEmptyRect,
  noRect,
  overlaps,
  sameJson,
  without,
  type Rect,
} from '../base/index.ts'
import { bitmapsOf, sheetsOf, type Build, type BuildPage, type BuildWidget } from '../compile/index.ts'
import { paintFace, solidOf } from '../faces/index.ts'
import type { Look } from '../palette/index.ts'
import { isCompiledFollow, type Values } from '../describe/index.ts'
import { Surface, type Bitmap, type GlyphSheet } from '../raster/index.ts'
import { CellIndex, formatValue, type Cell, type Value } from '../variables/index.ts'
import { Grounds, type Ground } from './grounds.ts'
import { settledOf, widgetKind, type AnySettled, type Formats, type Live, type TypedNow } from '../widgets/index.ts'

/** Requests of the glass to the panel while painting. */
export interface GlassView {
  read(cell: Cell): { value: Value; inRange: boolean; stale: boolean; written: boolean; known: boolean }
  /** A finger is on it, or it has the keypad. */
  isPressed(widget: BuildWidget): boolean
  /** Its last report was refused or never got through. */
  hasFailed(widget: BuildWidget): boolean
  stateOf(widget: BuildWidget): unknown
  /** Input on the open pop-up. */
  typed(): TypedNow
  /** How values are written. */
  formats(): Formats
  /** Number of the page that is shown. */
  page(): number
  /** The level of whoever works at the panel. */
  level(): number
  /** A widget that was painted looks different again after so long. */
  later(widget: BuildWidget, ms: number): void
  /** The look that is shown, of a build with both. */
  look(): Look
  nowUs(): number
  /** Since when the page or the pop-up that a widget is on is shown, µs. */
  sinceUs(widget: BuildWidget): number
}

/** The outline of a widget whose report has failed: red, and thicker than any selection. */
const failedColour = 0xe0a3
const failedWidth = 3

/** Paints pages of a build, a pop-up over them. Keeps what of what it shows is out of date, and repaints that alone. */
export class Glass {
  surface: Surface
  private sheets: Map<string, GlyphSheet>
  private pictures: Map<string, Bitmap>
  private pages: readonly BuildPage[] = []
  private readers = new CellIndex<{ widget: BuildWidget; cell: Cell }>([], ({ cell }) => cell)
  private dirtyAll = true
  private dirty = new Map<BuildWidget, Rect>()
  /** Places of what is not there any more. */
  private left: Rect[] = []
  /** Where the moving part of a widget was when it was painted last. */
  private moved = new Map<BuildWidget, Rect>()
  /** Number of a page that is painted for itself, whatever is shown. */
  private alone: number | null = null
  private byDay = new WeakMap<BuildWidget, Values>()
  private grounds = new Grounds()

  /** `live`: fingers show on it; the desk's view of a page has none. */
  constructor(
    private build: Build,
    private view: GlassView,
    private live: boolean,
  ) {
    this.surface = new Surface(build.header.width, build.header.height)
    this.sheets = sheetsOf(build)
    this.pictures = bitmapsOf(build)
  }

  /** Shown layers from below: a page, and the pop-up that is open. */
  show(pages: readonly BuildPage[]): void {
    this.pages = pages
    this.dirtyAll = true
    this.dirty.clear()
    this.left = []
    this.moved.clear()
    this.listen()
  }

  private listen(): void {
    this.readers = new CellIndex(
      this.pages.flatMap((page) => page.widgets.flatMap((widget) => widget.cells.map((cell) => ({ widget, cell })))),
      ({ cell }) => cell,
    )
  }

  /** Takes another build, in which the same pages are shown: only what looks different is out of date. */
  become(build: Build, pages: readonly BuildPage[]): void {
    const { width, height } = build.header
    const before = this.pages
    const sheetsBefore = this.build.header.sheets
    const picturesBefore = this.build.header.pictures
    this.build = build
    const sized = this.surface.width === width && this.surface.height === height
    if (!sized) this.surface = new Surface(width, height)
    const alike = sized && before.length === pages.length && before.every((page, i) => this.staysPut(page, pages[i]!))
    this.pictures = bitmapsOf(build)
    this.grounds.forget()
    if (!sameJson(picturesBefore, build.header.pictures)) this.dirtyAll = true
    if (!alike) {
      this.sheets = sheetsOf(build)
      return this.show(pages)
    }
    this.pages = pages
    before.forEach((page, i) => this.follow(page, pages[i]!))
    this.listen()
    this.takeSheets(sheetsBefore)
  }

  /** Other letters: whatever is written with them is out of date. */
  private takeSheets(before: Build['header']['sheets']): void {
    const now = this.build.header.sheets
    const changed = new Set(
      [...Object.keys(before), ...Object.keys(now)].filter((key) => !sameJson(before[key] ?? null, now[key] ?? null)),
    )
    if (!changed.size) return
    this.sheets = sheetsOf(this.build)
    for (const widget of this.pages.flatMap((page) => page.widgets))
      if (Object.values(widget.settings).some((value) => typeof value === 'string' && changed.has(value))) this.mark(widget)
  }

  /** Whether a page has its number and ground, and its widgets, where they are still there, their order. */
  private staysPut(old: BuildPage, now: BuildPage): boolean {
    if (old === now) return true
    const grounds = ({ background, dayBackground }: BuildPage) => JSON.stringify([background, dayBackground])
    if (old.number !== now.number || grounds(old) !== grounds(now)) return false
    const kept = new Set(now.widgets.map((w) => w.number))
    const had = new Set(old.widgets.map((w) => w.number))
    const order = (widgets: readonly BuildWidget[], inBoth: Set<number>) =>
      widgets.flatMap((w) => (inBoth.has(w.number) ? [w.number] : [])).join()
    return order(old.widgets, kept) === order(now.widgets, had)
  }

  private follow(old: BuildPage, now: BuildPage): void {
    if (old === now) return
    const byNumber = new Map(now.widgets.map((w) => [w.number, w]))
    const had = new Set(old.widgets)
    for (const widget of old.widgets) {
      if (byNumber.get(widget.number) === widget) continue
      this.left.push(widget.place)
      this.dirty.delete(widget)
      this.moved.delete(widget)
    }
    for (const widget of now.widgets) if (!had.has(widget)) this.mark(widget)
  }

  /** Words changed: what shows them is out of date. */
  touchWords(address: number, words: number): void {
    if (this.dirtyAll) return
    for (const { widget, cell } of this.readers.in(address, words)) {
      if (widget.followed.includes(cell)) this.mark(widget)
      else this.markMoving(widget)
    }
  }

  /** Marks the moving part of a widget, where it was and where it is, as out of date. */
  markMoving(widget: BuildWidget): void {
    const now = this.movingOf(widget)
    const before = this.moved.get(widget)
    this.mark(widget, before ? around(before, now) : now)
  }

  private movingOf(widget: BuildWidget): Rect {
    const kind = widgetKind(widget.kind)
    if (!kind?.moving) return widget.place
    const settings = this.settled(widget)
    return kind.moving(widget.place, settings, this.liveOf(widget, settings), this.view.stateOf(widget))
  }

  mark(widget: BuildWidget, area: Rect = widget.place): void {
    const before = this.dirty.get(widget)
    this.dirty.set(widget, before ? (holdsRect(before, area) ? before : around(before, area)) : area)
  }

  markAll(): void {
    this.dirtyAll = true
  }

  get isDirty(): boolean {
    return this.dirtyAll || this.dirty.size > 0 || this.left.length > 0
  }

  /** Repaints what is out of date, and says where. */
  paint(): Rect[] {
    const whole = { x: 0, y: 0, width: this.surface.width, height: this.surface.height }
    const areas = this.dirtyAll
      ? [whole]
      : [...this.dirty.values(), ...this.left].map((r) => intersect(r, whole)).filter((r) => !isEmptyRect(r))
    this.dirtyAll = false
    this.dirty.clear()
    this.left = []
    for (const area of areas) this.paintArea(this.surface, this.pages, area)
    return areas
  }

  /** Any page as it is now, on a surface of one's own; nothing is out of date or in date by it. */
  paintPage(page: BuildPage, surface: Surface): void {
    this.alone = page.number
    this.paintArea(surface, [page], { x: 0, y: 0, width: surface.width, height: surface.height })
    this.alone = null
  }

  private paintArea(surface: Surface, pages: readonly BuildPage[], area: Rect): void {
    surface.bitmaps = (key) => this.pictures.get(key) ?? null
    surface.within(area, () => {
      if (!pages.length) return surface.fill(area, 0)
      pages.forEach((page, i) => {
        const ground = i === 0 ? this.groundOf(surface, page, area) : null
        const here = page.widgets.filter((w) => overlaps(w.place, area) && !ground?.fixed.has(w))
        const { first, solid } = this.firstSolid(here, area)
        // Widgets below are painted only where they are visible.
        for (const part of without(area, solid))
          surface.within(part, () => {
            if (i > 0 && page.veil > 0) this.paintVeil(surface, pages[0]!, page.veil, part)
            if (ground) surface.copyFrom(ground.surface)
            else this.paintBackground(surface, page, part, i === 0)
            for (const widget of here.slice(0, first)) if (overlaps(widget.place, part)) this.paintWidget(surface, widget)
          })
        for (const widget of here.slice(first)) this.paintWidget(surface, widget)
      })
    })
  }

  private groundOf(surface: Surface, page: BuildPage, area: Rect): Ground | null {
    const look = this.view.look()
    if (area.width === surface.width && area.height === surface.height)
      this.grounds.painted(page, look, surface, (under, fixed) => {
        under.bitmaps = surface.bitmaps
        this.paintBackground(under, page, area, true)
        for (const widget of fixed) this.paintWidget(under, widget)
      })
    return this.grounds.of(page, look)
  }

  /** The page below a pop-up fades to its background. */
  private paintVeil(surface: Surface, below: BuildPage, veil: number, area: Rect): void {
    const ground = (this.view.look() === 'day' && below.dayBackground) || below.background
    surface.faintly(veil / 100, () => surface.fill(area, Math.max(0, ground.fill)))
  }

  /** Below the first page there is black; below a pop-up, the page. */
  private paintBackground(surface: Surface, page: BuildPage, area: Rect, isFirst: boolean): void {
    const whole = { x: 0, y: 0, width: surface.width, height: surface.height }
    const background = (this.view.look() === 'day' && page.dayBackground) || page.background
    if (isFirst && !holdsRect(solidOf(background, whole), area)) surface.fill(area, 0)
    paintFace(surface, whole, background)
  }

  /** The topmost widget that hides most of the area, which painting can begin with, and what of the area it hides. */
  private firstSolid(widgets: readonly BuildWidget[], area: Rect): { first: number; solid: Rect } {
    for (let i = widgets.length - 1; i >= 0; i--) {
      const widget = widgets[i]!
      const kind = widgetKind(widget.kind)
      if (!kind?.solid || 2 * areaOf(intersect(widget.place, area)) < areaOf(area)) continue
      const settings = this.settled(widget)
      if (settledOf(settings).visible === false) continue
      const solid = kind.solid(widget.place, settings, this.liveOf(widget, settings), this.view.stateOf(widget))
      const hidden = intersect(intersect(solid, widget.place), area)
      if (2 * areaOf(hidden) >= areaOf(area)) return { first: i, solid: hidden }
    }
    return { first: 0, solid: noRect }
  }

  private paintWidget(surface: Surface, widget: BuildWidget): void {
    const kind = widgetKind(widget.kind)
    const settings = this.settled(widget)
    if (!kind || settledOf(settings).visible === false) return
    const live = this.liveOf(widget, settings)
    const state = this.view.stateOf(widget)
    surface.within(widget.place, () => {
      kind.paint(surface, widget.place, settings, live, state)
      if (this.live && this.view.hasFailed(widget)) outline(surface, widget.place)
    })
    const again =
      this.live && surface === this.surface ? (kind.movesEveryMs?.(widget.place, settings, live, state) ?? null) : null
    if (again !== null) this.view.later(widget, again)
    if (kind.moving && surface === this.surface) this.moved.set(widget, kind.moving(widget.place, settings, live, state))
  }

  private liveOf(widget: BuildWidget, settings: Values): Live {
    return {
      read: this.view.read,
      sheet: (key) => this.sheets.get(key) ?? null,
      pressed: this.live && this.view.isPressed(widget),
      enabled: isEnabled(settledOf(settings), this.live ? this.view.level() : 3),
      typed: () => this.view.typed(),
      formats: this.view.formats(),
      page: this.alone ?? (this.live ? this.view.page() : (this.pages[0]?.number ?? 0)),
      onDesk: !this.live,
      nowUs: this.view.nowUs(),
      sinceUs: this.live ? this.view.sinceUs(widget) : this.view.nowUs(),
    }
  }

  /** View of a widget, for others that ask its kind. */
  liveFor(widget: BuildWidget): Live {
    return this.liveOf(widget, this.settled(widget))
  }

  /** The settings with every follower's value of now. */
  settled(widget: BuildWidget): Values {
    const settings = this.lookOf(widget)
    if (!widget.followed.length) return settings
    const out = { ...settings }
    for (const { key, type } of widgetKind(widget.kind)?.settings.list ?? []) {
      const value = out[key]
      if (!isCompiledFollow<Cell>(value)) continue
      const { value: now } = this.view.read(value.follow)
      out[key] = type.name === 'yesNo' ? Number(now) !== 0 : type.name === 'text' ? formatValue(value.follow.holds, now) : now
    }
    return out
  }

  /** The settings of a widget in the look that is shown. */
  private lookOf(widget: BuildWidget): Values {
    if (!widget.day || this.view.look() !== 'day') return widget.settings
    let byDay = this.byDay.get(widget)
    if (!byDay) this.byDay.set(widget, (byDay = { ...widget.settings, ...widget.day }))
    return byDay
  }

  /** Visible text of a widget; null where the kind is unknown. */
  shows(widget: BuildWidget): string | null {
    const kind = widgetKind(widget.kind)
    const settings = this.settled(widget)
    return kind ? kind.shows(settings, this.liveOf(widget, settings), this.view.stateOf(widget)) : null
  }
}

/** Whether a widget takes touches at a level. */
export const isEnabled = ({ enabled, level: asks = 0 }: AnySettled, level: number): boolean => enabled !== false && asks <= level

function outline(surface: Surface, { x, y, width, height }: Rect): void {
  surface.fill({ x, y, width, height: failedWidth }, failedColour)
  surface.fill({ x, y: y + height - failedWidth, width, height: failedWidth }, failedColour)
  surface.fill({ x, y, width: failedWidth, height }, failedColour)
  surface.fill({ x: x + width - failedWidth, y, width: failedWidth, height }, failedColour)
}
