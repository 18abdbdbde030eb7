/** Pixels; x to the right, y down; `x + width` and `y + height` are the first pixel outside. */
export interface Rect {
  x: number
  y: number
  width: number
  height: number
}

export const intersect = (a: Rect, b: Rect): Rect => {
  const x = Math.max(a.x, b.x)
  const y = Math.max(a.y, b.y)
  return {
    x,
    y,
    width: Math.max(0, Math.min(a.x + a.width, b.x + b.width) - x),
    height: Math.max(0, Math.min(a.y + a.height, b.y + b.height) - y),
  }
}

/** A place that has no pixel. */
export const noRect: Rect = { x: 0, y: 0, width: 0, height: 0 }

export const isEmptyRect = (r: Rect): boolean => r.width <= 0 || r.height <= 0

export const overlaps = (a: Rect, b: Rect): boolean => !isEmptyRect(intersect(a, b))

export const holdsPoint = (r: Rect, x: number, y: number): boolean =>
  x >= r.x && y >= r.y && x < r.x + r.width && y < r.y + r.height

export const holdsRect = (outer: Rect, inner: Rect): boolean =>
  inner.x >= outer.x &&
  inner.y >= outer.y &&
  inner.x + inner.width <= outer.x + outer.width &&
  inner.y + inner.height <= outer.y + outer.height

export const sameRect = (a: Rect, b: Rect): boolean => a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height

export const around = (a: Rect, b: Rect): Rect => {
  if (isEmptyRect(a)) return b
  if (isEmptyRect(b)) return a
  const x = Math.min(a.x, b.x)
  const y = Math.min(a.y, b.y)
  return { x, y, width: Math.max(a.x + a.width, b.x + b.width) - x, height: Math.max(a.y + a.height, b.y + b.height) - y }
}

export const inset = (r: Rect, by: number): Rect => ({
  x: r.x + by,
  y: r.y + by,
  width: Math.max(0, r.width - 2 * by),
  height: Math.max(0, r.height - 2 * by),
})

/** Pixels in it. */
export const areaOf = (r: Rect): number => (isEmptyRect(r) ? 0 : r.width * r.height)

/** Parts of `a` outside `b`: at most four rectangles that do not overlap. */
export function without(a: Rect, b: Rect): Rect[] {
  const hole = intersect(a, b)
  if (isEmptyRect(hole)) return isEmptyRect(a) ? [] : [a]
  const [right, bottom] = [hole.x + hole.width, hole.y + hole.height]
  return [
    { x: a.x, y: a.y, width: a.width, height: hole.y - a.y },
    { x: a.x, y: hole.y, width: hole.x - a.x, height: hole.height },
    { x: right, y: hole.y, width: a.x + a.width - right, height: hole.height },
    { x: a.x, y: bottom, width: a.width, height: a.y + a.height - bottom },
  ].filter((rect) => !isEmptyRect(rect))
}
