import { holdsRect, intersect, isEmptyRect, overlaps, type Rect } from '../base/index.ts'
import { sheetsOf, type Build, type BuildPage, type BuildWidget } from '../compile/index.ts'
import { faceCovers, paintFace } from '../faces/index.ts'
import { isCompiledFollow, type Values } from '../describe/index.ts'
import { Surface, type GlyphSheet } from '../raster/index.ts'
import { formatValue, type Cell, type Value } from '../variables/index.ts'
import { settledOf, widgetKind, type Live } from '../widgets/index.ts'

/** What the glass asks of the panel while painting. */
export interface GlassView {
  read(cell: Cell): { value: Value; inRange: boolean; stale: boolean }
  isPressed(widget: BuildWidget): boolean
}

/** Paints pages of a build. Keeps what of the shown page is out of date, and repaints that alone. */
export class Glass {
  readonly surface: Surface
  private sheets: Map<string, GlyphSheet>
  private page: BuildPage | null = null
  private byAddress = new Map<number, Set<BuildWidget>>()
  private dirtyAll = true
  private dirty = new Map<BuildWidget, Rect>()

  constructor(
    build: Build,
    private view: GlassView,
  ) {
    this.surface = new Surface(build.header.width, build.header.height)
    this.sheets = sheetsOf(build)
  }

  show(page: BuildPage | null): void {
    this.page = page
    this.dirtyAll = true
    this.dirty.clear()
    this.byAddress.clear()
    for (const widget of page?.widgets ?? [])
      for (const cell of widget.cells)
        for (let word = 0; word < cell.words; word++) {
          const at = cell.address + word
          const list = this.byAddress.get(at)
          if (list) list.add(widget)
          else this.byAddress.set(at, new Set([widget]))
        }
  }

  /** Words changed: what shows them is out of date. */
  touchWords(address: number, words: number): void {
    if (this.dirtyAll) return
    for (let word = address; word < address + words; word++)
      for (const widget of this.byAddress.get(word) ?? []) this.markFor(widget, word)
  }

  private markFor(widget: BuildWidget, word: number): void {
    const follows = widget.followed.some((cell) => word >= cell.address && word < cell.address + cell.words)
    const kind = widgetKind(widget.kind)
    this.mark(widget, follows || !kind?.moving ? widget.place : kind.moving(widget.place, this.settled(widget)))
  }

  mark(widget: BuildWidget, area: Rect = widget.place): void {
    const before = this.dirty.get(widget)
    this.dirty.set(widget, before && holdsRect(before, area) ? before : area)
  }

  markAll(): void {
    this.dirtyAll = true
  }

  get isDirty(): boolean {
    return this.dirtyAll || this.dirty.size > 0
  }

  /** Repaints what is out of date, and says where. */
  paint(): Rect[] {
    const whole = { x: 0, y: 0, width: this.surface.width, height: this.surface.height }
    const areas = this.dirtyAll
      ? [whole]
      : [...this.dirty.values()].map((r) => intersect(r, whole)).filter((r) => !isEmptyRect(r))
    this.dirtyAll = false
    this.dirty.clear()
    for (const area of areas) this.paintArea(this.surface, this.page, area, true)
    return areas
  }

  /** Any page as it is now, on a surface of one's own; nothing is out of date or in date by it. */
  paintPage(page: BuildPage, surface: Surface): void {
    this.paintArea(surface, page, { x: 0, y: 0, width: surface.width, height: surface.height }, page === this.page)
  }

  private paintArea(surface: Surface, page: BuildPage | null, area: Rect, live: boolean): void {
    surface.within(area, () => {
      if (!page) return surface.fill(area, 0)
      const here = page.widgets.filter((w) => overlaps(w.place, area))
      const first = this.firstCovering(here, area)
      if (first < 0) this.paintBackground(surface, page, area)
      for (const widget of first < 0 ? here : here.slice(first)) this.paintWidget(surface, widget, live)
    })
  }

  private paintBackground(surface: Surface, page: BuildPage, area: Rect): void {
    const whole = { x: 0, y: 0, width: surface.width, height: surface.height }
    if (!faceCovers(page.background, whole, area)) surface.fill(area, 0)
    paintFace(surface, whole, page.background)
  }

  /** The topmost widget that hides everything below the area, so that painting can begin with it; −1 for none. */
  private firstCovering(widgets: readonly BuildWidget[], area: Rect): number {
    for (let i = widgets.length - 1; i >= 0; i--) {
      const widget = widgets[i]!
      const kind = widgetKind(widget.kind)
      if (!kind?.covers || !holdsRect(widget.place, area)) continue
      const settings = this.settled(widget)
      if (settledOf(settings).visible !== false && kind.covers(widget.place, settings, area)) return i
    }
    return -1
  }

  private paintWidget(surface: Surface, widget: BuildWidget, live: boolean): void {
    const kind = widgetKind(widget.kind)
    const settings = this.settled(widget)
    if (!kind || settledOf(settings).visible === false) return
    surface.within(widget.place, () => kind.paint(surface, widget.place, settings, this.live(widget, settings, live)))
  }

  private live(widget: BuildWidget, settings: Values, live: boolean): Live {
    return {
      read: this.view.read,
      sheet: (key) => this.sheets.get(key) ?? null,
      pressed: live && this.view.isPressed(widget),
      enabled: settledOf(settings).enabled !== false,
    }
  }

  /** The settings with every follower's value of now. */
  settled(widget: BuildWidget): Values {
    if (!widget.followed.length) return widget.settings
    const out = { ...widget.settings }
    for (const { key, type } of widgetKind(widget.kind)?.settings.list ?? []) {
      const value = out[key]
      if (!isCompiledFollow<Cell>(value)) continue
      const { value: now } = this.view.read(value.follow)
      out[key] = type.name === 'yesNo' ? Number(now) !== 0 : type.name === 'text' ? formatValue(value.follow.holds, now) : now
    }
    return out
  }

  /** What a person reads off a widget; null where the kind is unknown. */
  shows(widget: BuildWidget): string | null {
    const kind = widgetKind(widget.kind)
    const settings = this.settled(widget)
    return kind ? kind.shows(settings, this.live(widget, settings, true)) : null
  }
}
