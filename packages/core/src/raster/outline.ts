import { intersect, type Rect } from '../base/index.ts'
import type { Rgb565 } from './colour.ts'
import type { Ink } from './shapes.ts'
import type { Surface } from './surface.ts'

/** Straight pieces of a closed outline in pixels, y down: x0 y0 x1 y1 for each. */
export type Edges = number[]

/** A path of the sort fonts give: move, line, quadratic and cubic curve, close; pixels, y down. */
export type OutlineCommand =
  | { type: 'M'; x: number; y: number }
  | { type: 'L'; x: number; y: number }
  | { type: 'Q'; x1: number; y1: number; x: number; y: number }
  | { type: 'C'; x1: number; y1: number; x2: number; y2: number; x: number; y: number }
  | { type: 'Z' }

const stepsOf = (...lengths: number[]): number => Math.max(2, Math.min(24, Math.ceil(Math.sqrt(Math.max(...lengths)) * 2.5)))

/** Curves into straight pieces, finer the longer they are. */
export function flatten(commands: readonly OutlineCommand[]): Edges {
  const edges: Edges = []
  let [x, y, startX, startY] = [0, 0, 0, 0]
  const line = (toX: number, toY: number) => {
    if (y !== toY) edges.push(x, y, toX, toY)
    x = toX
    y = toY
  }
  for (const c of commands) {
    if (c.type === 'M') {
      line(startX, startY)
      ;[x, y, startX, startY] = [c.x, c.y, c.x, c.y]
    } else if (c.type === 'L') line(c.x, c.y)
    else if (c.type === 'Z') line(startX, startY)
    else {
      const [fromX, fromY] = [x, y]
      const steps = stepsOf(Math.abs(c.x - fromX), Math.abs(c.y - fromY), Math.abs(c.x1 - fromX), Math.abs(c.y1 - fromY))
      for (let k = 1; k <= steps; k++) {
        const t = k / steps
        const u = 1 - t
        if (c.type === 'C')
          line(
            u * u * u * fromX + 3 * u * u * t * c.x1 + 3 * u * t * t * c.x2 + t * t * t * c.x,
            u * u * u * fromY + 3 * u * u * t * c.y1 + 3 * u * t * t * c.y2 + t * t * t * c.y,
          )
        else line(u * u * fromX + 2 * u * t * c.x1 + t * t * c.x, u * u * fromY + 2 * u * t * c.y1 + t * t * c.y)
      }
    }
  }
  line(startX, startY)
  return edges
}

/**
 * Exact area coverage of an outline over a grid whose top left is (0, 0): each edge adds the signed area to its right,
 * row by row; the running sum along a row is the coverage (non-zero winding, clipped to 1). 0–255 a pixel.
 */
export function coverageOf(edges: Edges, width: number, height: number): Uint8Array {
  const sums = new Float64Array((width + 2) * height)
  for (let i = 0; i < edges.length; i += 4) addEdge(sums, width, height, edges[i]!, edges[i + 1]!, edges[i + 2]!, edges[i + 3]!)
  const out = new Uint8Array(width * height)
  for (let row = 0; row < height; row++) {
    let sum = 0
    for (let column = 0; column < width; column++) {
      sum += sums[row * (width + 2) + column]!
      out[row * width + column] = Math.floor(Math.min(1, Math.abs(sum)) * 255 + 0.5)
    }
  }
  return out
}

function addEdge(sums: Float64Array, width: number, height: number, x0: number, y0: number, x1: number, y1: number): void {
  const down = y0 < y1 ? 1 : -1
  const [topX, topY, endX, endY] = down > 0 ? [x0, y0, x1, y1] : [x1, y1, x0, y0]
  const slope = (endX - topX) / (endY - topY)
  const last = Math.min(height, Math.ceil(endY))
  for (let row = Math.max(0, Math.floor(topY)); row < last; row++) {
    const from = Math.max(topY, row)
    const to = Math.min(endY, row + 1)
    if (to <= from) continue
    const share = (to - from) * down
    const xa = topX + (from - topY) * slope
    const xb = topX + (to - topY) * slope
    addRun(sums, row * (width + 2), width, Math.min(xa, xb), Math.max(xa, xb), share)
  }
}

/** Spreads a piece of an edge that goes from column `left` to `right` within one row over the pixels it crosses. */
function addRun(sums: Float64Array, at: number, width: number, left: number, right: number, share: number): void {
  const a = Math.min(Math.max(left, 0), width)
  const b = Math.min(Math.max(right, 0), width)
  const first = Math.floor(a)
  if (Math.floor(b) === first || b - a < 1e-9) {
    const middle = (a + b) / 2 - first
    sums[at + first]! += share * (1 - middle)
    sums[at + first + 1]! += share * middle
    return
  }
  const perColumn = share / (b - a)
  for (let column = first; column < b; column++) {
    const from = Math.max(a, column)
    const to = Math.min(b, column + 1)
    const part = perColumn * (to - from)
    const middle = (from + to) / 2 - column
    sums[at + column]! += part * (1 - middle)
    sums[at + column + 1]! += part * middle
  }
}

/** The box of whole pixels around some edges. */
function boxOf(edges: Edges): Rect {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < edges.length; i += 2) {
    left = Math.min(left, edges[i]!)
    right = Math.max(right, edges[i]!)
    top = Math.min(top, edges[i + 1]!)
    bottom = Math.max(bottom, edges[i + 1]!)
  }
  if (left > right) return { x: 0, y: 0, width: 0, height: 0 }
  const [x, y] = [Math.floor(left), Math.floor(top)]
  return { x, y, width: Math.ceil(right) - x + 1, height: Math.ceil(bottom) - y + 1 }
}

/** The largest box that is filled at once, px: what is larger lies outside every glass. */
const mostPixels = 4096 * 4096

/** Fills an outline. What it covers of a pixel does not depend on the clip, so that parts painted later meet the rest. */
export function fillOutline(surface: Surface, edges: Edges, ink: Rgb565 | Ink): void {
  const box = boxOf(edges)
  const seen = intersect(surface.clip, box)
  if (!seen.width || !seen.height || box.width * box.height > mostPixels) return
  const moved = edges.map((at, i) => at - (i % 2 ? box.y : box.x))
  const coverage = coverageOf(moved, box.width, box.height)
  for (let y = seen.y; y < seen.y + seen.height; y++)
    for (let x = seen.x; x < seen.x + seen.width; x++) {
      const covered = coverage[(y - box.y) * box.width + x - box.x]!
      if (covered) surface.dab(x, y, typeof ink === 'number' ? ink : ink(x, y), covered)
    }
}

/** A closed shape of straight sides through points x0 y0 x1 y1 …, px. */
export function fillPolygon(surface: Surface, points: readonly number[], ink: Rgb565 | Ink): void {
  const edges: Edges = []
  for (let i = 0; i < points.length; i += 2) {
    const next = (i + 2) % points.length
    if (points[i + 1] !== points[next + 1]) edges.push(points[i]!, points[i + 1]!, points[next]!, points[next + 1]!)
  }
  fillOutline(surface, edges, ink)
}

const parsed = new Map<string, OutlineCommand[]>()

/** An outline written as an SVG path of absolute M, L, C and Z alone. */
function commandsOf(path: string): OutlineCommand[] {
  let found = parsed.get(path)
  if (!found) {
    found = [...path.matchAll(/([MLCZ])([^MLCZ]*)/g)].map(([, type, rest]): OutlineCommand => {
      const n = rest!.trim()
        ? rest!
            .trim()
            .split(/[\s,]+/)
            .map(Number)
        : []
      if (type === 'C') return { type, x1: n[0]!, y1: n[1]!, x2: n[2]!, y2: n[3]!, x: n[4]!, y: n[5]! }
      return type === 'Z' ? { type } : { type: type as 'M' | 'L', x: n[0]!, y: n[1]! }
    })
    // A build has a few of them; who edits passes through more.
    if (parsed.size > 400) parsed.clear()
    parsed.set(path, found)
  }
  return found
}

/** An outline on a square grid, drawn as large as fits in the middle of a box. */
export function fillPath(surface: Surface, box: Rect, path: string, grid: number, ink: Rgb565 | Ink): void {
  const size = Math.min(box.width, box.height)
  const scale = size / grid
  const [left, top] = [box.x + (box.width - size) / 2, box.y + (box.height - size) / 2]
  const [x, y] = [(n: number) => left + n * scale, (n: number) => top + n * scale]
  const placed = commandsOf(path).map((c): OutlineCommand => {
    if (c.type === 'Z') return c
    if (c.type === 'C') return { type: 'C', x1: x(c.x1), y1: y(c.y1), x2: x(c.x2), y2: y(c.y2), x: x(c.x), y: y(c.y) }
    return { type: c.type === 'M' ? 'M' : 'L', x: x(c.x), y: y(c.y) }
  })
  fillOutline(surface, flatten(placed), ink)
}
