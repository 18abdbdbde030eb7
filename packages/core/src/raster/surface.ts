import { intersect, type Rect } from '../base/index.ts'
import { blend565, type Rgb565 } from './colour.ts'

/** Pixels in rows from the top left. `written` counts every pixel write since the surface was made. */
export class Surface {
  readonly pixels: Uint16Array
  /** Nothing outside is ever written. */
  clip: Rect
  written = 0

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.pixels = new Uint16Array(width * height)
    this.clip = { x: 0, y: 0, width, height }
  }

  /** Draws with `clip` narrowed to `rect`, and puts the clip back. */
  within(rect: Rect, draw: () => void): void {
    const before = this.clip
    this.clip = intersect(before, rect)
    if (this.clip.width && this.clip.height) draw()
    this.clip = before
  }

  fill(rect: Rect, colour: Rgb565): void {
    const { x, y, width, height } = intersect(this.clip, rect)
    for (let row = y; row < y + height; row++) this.pixels.fill(colour, row * this.width + x, row * this.width + x + width)
    this.written += width * height
  }

  /** Part of a row inside the clip in four colours that come again and again: `four[x & 3]`. */
  fillRow(y: number, from: number, to: number, four: readonly [Rgb565, Rgb565, Rgb565, Rgb565]): void {
    const row = y * this.width
    for (let x = from; x < to; x++) this.pixels[row + x] = four[x & 3]!
    if (to > from) this.written += to - from
  }

  /** One pixel, covered to 0–255; outside the clip nothing happens. */
  dab(x: number, y: number, colour: Rgb565, coverage: number): void {
    const { clip } = this
    if (coverage <= 0 || x < clip.x || y < clip.y || x >= clip.x + clip.width || y >= clip.y + clip.height) return
    const at = y * this.width + x
    this.pixels[at] = coverage >= 255 ? colour : blend565(this.pixels[at]!, colour, coverage)
    this.written++
  }

  /** The pixels of a rectangle, row by row. */
  copyOf(rect: Rect): Uint16Array {
    const out = new Uint16Array(rect.width * rect.height)
    for (let row = 0; row < rect.height; row++) {
      const from = (rect.y + row) * this.width + rect.x
      out.set(this.pixels.subarray(from, from + rect.width), row * rect.width)
    }
    return out
  }
}
