import type { Rect } from '@moth-lamp/core/base'

/** Lines the moved rectangle came to lie on, for drawing. */
export interface Guides {
  x: number[]
  y: number[]
}

const reach = 4

/** Which sides of a rectangle a handle moves. */
export interface Sides {
  west: boolean
  east: boolean
  north: boolean
  south: boolean
}

const linesX = (rects: readonly Rect[]) => rects.flatMap((r) => [r.x, r.x + r.width / 2, r.x + r.width])
const linesY = (rects: readonly Rect[]) => rects.flatMap((r) => [r.y, r.y + r.height / 2, r.y + r.height])

/** Where a rectangle would stand with the same gap as between two neighbours of its row (or column), from one side to the other. */
function sameGaps(rect: Rect, neighbours: readonly Rect[], axis: 'x' | 'y'): number[] {
  const [size, cross, crossSize] = axis === 'x' ? (['width', 'y', 'height'] as const) : (['height', 'x', 'width'] as const)
  const row = neighbours
    .filter((r) => r[cross] < rect[cross] + rect[crossSize] && rect[cross] < r[cross] + r[crossSize])
    .sort((a, b) => a[axis] - b[axis])
  const places: number[] = []
  row.forEach((b, i) => {
    const a = row[i - 1]
    const gap = a ? b[axis] - (a[axis] + a[size]) : -1
    if (a && gap > 0) places.push(b[axis] + b[size] + gap, a[axis] - gap - rect[size])
  })
  return places
}

/** The margins of a page: as far from each edge of the glass as what stands nearest to the other one. */
function margins(neighbours: readonly Rect[], glass: Rect): Guides {
  const inside = neighbours.filter((r) => r.x > 0 && r.y > 0 && r.x + r.width < glass.width && r.y + r.height < glass.height)
  if (!inside.length) return { x: [], y: [] }
  // A distance over a quarter of the glass is no margin.
  const kept = (whole: number, from: (r: Rect) => number) => {
    const least = Math.min(...inside.map(from))
    return least <= whole / 4 ? [least] : []
  }
  return {
    x: [...kept(glass.width, (r) => r.x).map((m) => glass.width - m), ...kept(glass.width, (r) => glass.width - r.x - r.width)],
    y: [
      ...kept(glass.height, (r) => r.y).map((m) => glass.height - m),
      ...kept(glass.height, (r) => glass.height - r.y - r.height),
    ],
  }
}

/** Moves a rectangle by up to 4 px onto the edges and middles of its neighbours and of the glass, to a margin, or to an equal gap. */
export function snap(rect: Rect, neighbours: readonly Rect[], glass: Rect): { rect: Rect; guides: Guides } {
  const all = [...neighbours, glass]
  const margin = margins(neighbours, glass)
  const x =
    nearest([rect.x, rect.x + rect.width / 2, rect.x + rect.width], linesX(all)) ??
    nearest([rect.x, rect.x + rect.width], margin.x) ??
    nearest([rect.x], sameGaps(rect, neighbours, 'x'))
  const y =
    nearest([rect.y, rect.y + rect.height / 2, rect.y + rect.height], linesY(all)) ??
    nearest([rect.y, rect.y + rect.height], margin.y) ??
    nearest([rect.y], sameGaps(rect, neighbours, 'y'))
  return {
    rect: { ...rect, x: Math.round(rect.x + (x?.by ?? 0)), y: Math.round(rect.y + (y?.by ?? 0)) },
    guides: { x: x ? [x.line] : [], y: y ? [y.line] : [] },
  }
}

/** Sizes a rectangle by some of its sides, which move by up to 4 px onto edges and middles of its neighbours. */
export function snapSize(rect: Rect, sides: Sides, neighbours: readonly Rect[], glass: Rect): { rect: Rect; guides: Guides } {
  const all = [...neighbours, glass]
  const x = nearest(sides.west ? [rect.x] : sides.east ? [rect.x + rect.width] : [], linesX(all))
  const y = nearest(sides.north ? [rect.y] : sides.south ? [rect.y + rect.height] : [], linesY(all))
  const [dx, dy] = [Math.round(x?.by ?? 0), Math.round(y?.by ?? 0)]
  const out = {
    x: sides.west ? rect.x + dx : rect.x,
    y: sides.north ? rect.y + dy : rect.y,
    width: rect.width + (sides.west ? -dx : dx),
    height: rect.height + (sides.north ? -dy : dy),
  }
  return out.width < 4 || out.height < 4
    ? { rect, guides: { x: [], y: [] } }
    : { rect: out, guides: { x: x ? [x.line] : [], y: y ? [y.line] : [] } }
}

/** A rectangle pulled by some of its sides; never smaller than 4 px. */
export function sized(start: Rect, { west, east, north, south }: Sides, dx: number, dy: number): Rect {
  const width = Math.max(4, start.width + (west ? -dx : east ? dx : 0))
  const height = Math.max(4, start.height + (north ? -dy : south ? dy : 0))
  return {
    width,
    height,
    x: west ? start.x + start.width - width : start.x,
    y: north ? start.y + start.height - height : start.y,
  }
}

function nearest(mine: number[], theirs: number[]): { by: number; line: number } | null {
  let best: { by: number; line: number } | null = null
  for (const m of mine)
    for (const line of theirs)
      if (Math.abs(line - m) <= reach && (!best || Math.abs(line - m) < Math.abs(best.by))) best = { by: line - m, line }
  return best
}
