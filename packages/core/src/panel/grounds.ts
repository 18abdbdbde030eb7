import { LRUCache } from 'lru-cache'
import type { BuildPage, BuildWidget } from '../compile/index.ts'
import type { Look } from '../palette/index.ts'
import { Surface } from '../raster/index.ts'
import { widgetKind } from '../widgets/index.ts'

/** Background of a page with what stands at the bottom of it and never changes: painted once. */
export interface Ground {
  surface: Surface
  fixed: ReadonlySet<BuildWidget>
  look: Look
}

/** Pages whose ground is kept: those shown last. */
const most = 3

/** Whether a widget looks the same as long as its build runs: it reads nothing, is not touched, and keeps and plays nothing. */
function isFixed({ kind: name, cells, followed }: BuildWidget): boolean {
  const kind = widgetKind(name)
  if (!kind || kind.touchable || kind.showsTyping || cells.length || followed.length) return false
  return !kind.state && !kind.movesEveryMs && !kind.samplesEveryMs
}

/** The grounds of pages that are painted whole more than once; one that is painted a single time is not worth its memory. */
export class Grounds {
  private kept = new LRUCache<BuildPage, Ground>({ max: most })
  private seen = new WeakSet<BuildPage>()

  /** The ground of a page in a look; null where there is none. */
  of(page: BuildPage, look: Look): Ground | null {
    const ground = this.kept.get(page)
    return ground?.look === look ? ground : null
  }

  /** All of a page is to be painted: its ground is made the second time. `paint` puts background and widgets on a surface. */
  painted(
    page: BuildPage,
    look: Look,
    { width, height }: Surface,
    paint: (surface: Surface, fixed: BuildWidget[]) => void,
  ): void {
    if (this.of(page, look)) return
    if (!this.seen.has(page)) return void this.seen.add(page)
    const end = page.widgets.findIndex((widget) => !isFixed(widget))
    const fixed = end < 0 ? [...page.widgets] : page.widgets.slice(0, end)
    const surface = new Surface(width, height)
    paint(surface, fixed)
    this.kept.set(page, { surface, fixed: new Set(fixed), look })
  }

  /** Letters or pictures are others than they were. */
  forget(): void {
    this.kept.clear()
    this.seen = new WeakSet()
  }
}
