import { intersect, type Rect } from '../base/index.ts'
import { blend565, type Rgb565 } from './colour.ts'

/** A picture in the colours of the glass, rows from the top left; `alpha` 0–255 a pixel, null where it covers all. */
export interface Bitmap {
  width: number
  height: number
  pixels: Uint16Array
  alpha: Uint8Array | null
}

/** Pixels in rows from the top left. `written` counts every pixel write since the surface was made. */
export class Surface {
  readonly pixels: Uint16Array
  /** Nothing outside is ever written. */
  clip: Rect
  written = 0
  /** The pictures there are, by the keys that faces name them by. */
  bitmaps: (key: string) => Bitmap | null = () => null
  /** How much of what is drawn is put over what is there, 0–255. */
  private strength = 255

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

  /** Draws so that only a share of it, 0–1, is seen over what is there: what is stale or out of use. */
  faintly(share: number, draw: () => void): void {
    const before = this.strength
    this.strength = Math.floor(before * share + 0.5)
    draw()
    this.strength = before
  }

  fill(rect: Rect, colour: Rgb565): void {
    const { x, y, width, height } = intersect(this.clip, rect)
    if (this.strength < 255) {
      for (let row = y; row < y + height; row++)
        for (let column = x; column < x + width; column++) this.dab(column, row, colour, 255)
      return
    }
    for (let row = y; row < y + height; row++) this.pixels.fill(colour, row * this.width + x, row * this.width + x + width)
    this.written += width * height
  }

  /** Part of a row inside the clip in four colours that come again and again: `four[x & 3]`. */
  fillRow(y: number, from: number, to: number, four: readonly [Rgb565, Rgb565, Rgb565, Rgb565]): void {
    const row = y * this.width
    if (this.strength < 255) {
      for (let x = from; x < to; x++) this.dab(x, y, four[x & 3]!, 255)
      return
    }
    for (let x = from; x < to; x++) this.pixels[row + x] = four[x & 3]!
    if (to > from) this.written += to - from
  }

  /** One pixel, covered to 0–255; outside the clip nothing happens. */
  dab(x: number, y: number, colour: Rgb565, coverage: number): void {
    const { clip } = this
    if (coverage <= 0 || x < clip.x || y < clip.y || x >= clip.x + clip.width || y >= clip.y + clip.height) return
    const at = y * this.width + x
    const share = this.strength < 255 ? Math.floor((coverage * this.strength + 127) / 255) : coverage
    this.pixels[at] = share >= 255 ? colour : blend565(this.pixels[at]!, colour, share)
    this.written++
  }

  /** A picture with its top left corner there. */
  put(left: number, top: number, { width, height, pixels, alpha }: Bitmap): void {
    const area = intersect(this.clip, { x: left, y: top, width, height })
    const isPlain = !alpha && this.strength === 255
    if (isPlain) this.written += area.width * area.height
    if (isPlain && area.width === width && width === this.width) {
      // Whole rows of both stand one after another.
      const from = (area.y - top) * width
      return this.pixels.set(pixels.subarray(from, from + area.height * width), area.y * width)
    }
    for (let y = area.y; y < area.y + area.height; y++) {
      const from = (y - top) * width + area.x - left
      const to = y * this.width + area.x
      if (!isPlain)
        for (let k = 0; k < area.width; k++) this.dab(area.x + k, y, pixels[from + k]!, alpha ? alpha[from + k]! : 255)
      else this.pixels.set(pixels.subarray(from, from + area.width), to)
    }
  }

  /** Inside the clip the pixels of another surface as large as this one. */
  copyFrom({ pixels }: Surface): void {
    const { x, y, width, height } = this.clip
    this.written += width * height
    const rows = width === this.width ? 1 : height
    const run = width === this.width ? width * height : width
    for (let row = y; row < y + rows; row++) {
      const at = row * this.width + x
      this.pixels.set(pixels.subarray(at, at + run), at)
    }
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
