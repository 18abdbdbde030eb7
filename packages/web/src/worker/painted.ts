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

/** A surface made so wide, px: each pixel is the mean of the pixels it stands for, of one at least. */
export function shrunk(surface: Surface, width: number): PaintedRect {
  const height = Math.max(1, Math.round((surface.height * width) / surface.width))
  const rect = { x: 0, y: 0, width, height }
  if (width === surface.width) return paintedRect(surface, rect)
  const { pixels } = surface
  /** Where the pixels begin that each one stands for, and where they end. */
  const spans = (from: number, to: number) =>
    Array.from({ length: to }, (_, k) => {
      const first = Math.floor((k * from) / to)
      return [first, Math.max(Math.floor(((k + 1) * from) / to), first + 1)] as const
    })
  const columns = spans(surface.width, width)
  const out = new Uint8ClampedArray(width * height * 4)
  let at = 0
  for (const [top, bottom] of spans(surface.height, height))
    for (const [left, right] of columns) {
      let [red, green, blue] = [0, 0, 0]
      for (let y = top; y < bottom; y++)
        for (let k = y * surface.width + left, end = y * surface.width + right; k < end; k++) {
          const rgba = rgbaOf[pixels[k]!]!
          red += rgba & 255
          green += (rgba >>> 8) & 255
          blue += (rgba >>> 16) & 255
        }
      const count = (bottom - top) * (right - left)
      out[at++] = red / count
      out[at++] = green / count
      out[at++] = blue / count
      out[at++] = 255
    }
  return { rect, rgba: out }
}
