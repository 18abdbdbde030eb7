import type { Rect } from '@moth-lamp/core/base'

/** Lines the moved rectangle came to lie on, for drawing. */
export interface Guides {
  x: number[]
  y: number[]
}

const reach = 4

/** Moves a rectangle by up to 4 px onto the edges and middles of its neighbours and of the glass. */
export function snap(rect: Rect, neighbours: readonly Rect[], glass: Rect): { rect: Rect; guides: Guides } {
  const x = nearest(
    [rect.x, rect.x + rect.width / 2, rect.x + rect.width],
    [...neighbours, glass].flatMap((r) => [r.x, r.x + r.width / 2, r.x + r.width]),
  )
  const y = nearest(
    [rect.y, rect.y + rect.height / 2, rect.y + rect.height],
    [...neighbours, glass].flatMap((r) => [r.y, r.y + r.height / 2, r.y + r.height]),
  )
  return {
    rect: { ...rect, x: Math.round(rect.x + (x?.by ?? 0)), y: Math.round(rect.y + (y?.by ?? 0)) },
    guides: { x: x ? [x.line] : [], y: y ? [y.line] : [] },
  }
}

function nearest(mine: number[], theirs: number[]): { by: number; line: number } | null {
  let best: { by: number; line: number } | null = null
  for (const m of mine)
    for (const line of theirs)
      if (Math.abs(line - m) <= reach && (!best || Math.abs(line - m) < Math.abs(best.by))) best = { by: line - m, line }
  return best
}
