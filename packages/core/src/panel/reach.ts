import { holdsPoint } from '../base/index.ts'
import type { BuildPage, BuildWidget } from '../compile/index.ts'
import type { Values } from '../describe/index.ts'
import { settledOf } from '../widgets/index.ts'
import { widgetAt } from './touch.ts'

/** A point of a widget that a finger can reach, or why there is none. */
export type Reached =
  { x: number; y: number } | { why: 'not on this page' | 'hidden' | 'outside the glass' | 'covered'; by: number | null }

/** The middle first, then the middles of the four quarters. */
const pointsOf = ({ place: { x, y, width, height } }: BuildWidget): { x: number; y: number }[] =>
  [
    [0.5, 0.5],
    [0.25, 0.25],
    [0.75, 0.25],
    [0.25, 0.75],
    [0.75, 0.75],
  ].map(([u, v]) => ({ x: Math.floor(x + width * u!), y: Math.floor(y + height * v!) }))

/** Where a finger finds the widget of a number on a page that takes touches; `settled`: settings as they stand now. */
export function reach(
  page: BuildPage | null,
  number: number,
  glass: { width: number; height: number },
  settled: (widget: BuildWidget) => Values,
): Reached {
  const widget = page?.widgets.find((w) => w.number === number)
  if (!page || !widget) return { why: 'not on this page', by: null }
  if (settledOf(settled(widget)).visible === false) return { why: 'hidden', by: null }
  const points = pointsOf(widget).filter((p) => holdsPoint({ x: 0, y: 0, ...glass }, p.x, p.y))
  if (!points.length) return { why: 'outside the glass', by: null }
  const reached = points.map((p) => ({ p, top: widgetAt(page, p.x, p.y, settled) }))
  const free = reached.find(({ top }) => top === widget || top === null)
  return free ? free.p : { why: 'covered', by: reached[0]!.top!.number }
}
