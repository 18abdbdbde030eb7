import type { Rect } from '@moth-lamp/core/base'
import { expand565, type Surface } from '@moth-lamp/core/raster'
import type { PaintedRect } from './messages.ts'

/** Each RGB565 value as the RGBA a display shows, least significant byte first. */
const rgbaOf = new Uint32Array(65536)
for (let pixel = 0; pixel < 65536; pixel++) {
  const { red, green, blue } = expand565(pixel)
  rgbaOf[pixel] = (0xff000000 | (blue << 16) | (green << 8) | red) >>> 0
}

/** A part of a surface as a canvas takes it. */
export function paintedRect(surface: Surface, rect: Rect): PaintedRect {
  const out = new Uint32Array(rect.width * rect.height)
  let at = 0
  for (let y = rect.y; y < rect.y + rect.height; y++) {
    const row = y * surface.width
    for (let x = rect.x; x < rect.x + rect.width; x++) out[at++] = rgbaOf[surface.pixels[row + x]!]!
  }
  return { rect, rgba: new Uint8ClampedArray(out.buffer) }
}

export const wholeOf = (surface: Surface): Rect => ({ x: 0, y: 0, width: surface.width, height: surface.height })

/** A surface made so wide, px, and no wider than it is: each pixel is the mean of the pixels it stands for. */
export function shrunk(surface: Surface, wide: number): PaintedRect {
  const width = Math.min(wide, surface.width)
  const height = Math.max(1, Math.round((surface.height * width) / surface.width))
  const rect = { x: 0, y: 0, width, height }
  if (width === surface.width) return paintedRect(surface, rect)
  const { pixels, width: columns, height: rows } = surface
  /** Where in a row of sums, red, green and blue, each column of the surface belongs. */
  const sumOf = new Uint32Array(columns)
  const columnsOf = new Uint32Array(width)
  for (let x = 0; x < columns; x++) {
    const column = Math.floor((x * width) / columns)
    sumOf[x] = column * 3
    columnsOf[column]!++
  }
  const sums = new Uint32Array(width * 3)
  const out = new Uint8ClampedArray(width * height * 4)
  let row = 0
  let rowsOf = 0
  for (let y = 0, from = 0, to = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      const rgba = rgbaOf[pixels[from++]!]!
      const at = sumOf[x]!
      sums[at]! += rgba & 255
      sums[at + 1]! += (rgba >>> 8) & 255
      sums[at + 2]! += (rgba >>> 16) & 255
    }
    rowsOf++
    const next = Math.floor(((y + 1) * height) / rows)
    if (next === row) continue
    for (let column = 0; column < width; column++) {
      const count = rowsOf * columnsOf[column]!
      for (let part = 0; part < 3; part++) out[to++] = sums[column * 3 + part]! / count
      out[to++] = 255
    }
    sums.fill(0)
    row = next
    rowsOf = 0
  }
  return { rect, rgba: out }
}
