import { channelsOf } from '../raster/index.ts'
import type { Dither } from './fit.ts'
import type { Pixels } from './pixels.ts'

/** A picture as the panel keeps it: RGB565 in rows from the top left; alpha 0–255 for each pixel, or none: it covers all. */
export interface PanelPicture {
  width: number
  height: number
  pixels: Uint16Array
  alpha: Uint8Array | null
}

/** An 8 × 8 threshold matrix, 0–63, each value once (Bayer 1973). */
const thresholds = (() => {
  const out = new Uint8Array(64)
  for (let y = 0; y < 8; y++)
    for (let x = 0; x < 8; x++) {
      let value = 0
      for (let bit = 0; bit < 3; bit++) value |= ((((x ^ y) >> bit) & 1) << (5 - 2 * bit)) | (((y >> bit) & 1) << (4 - 2 * bit))
      out[8 * y + x] = value
    }
  return out
})()

/** A channel as a display shows the top bits of a channel: 5 or 6 of them repeated into the low ones. */
const shown5 = Uint8Array.from({ length: 32 }, (_, v) => (v << 3) | (v >> 2))
const shown6 = Uint8Array.from({ length: 64 }, (_, v) => (v << 2) | (v >> 4))

/** The step whose shown value is nearest, of so many bits, for every 8-bit value. */
const nearest = (shown: Uint8Array): Uint8Array =>
  Uint8Array.from({ length: 256 }, (_, value) => {
    let best = 0
    for (let k = 1; k < shown.length; k++) if (Math.abs(shown[k]! - value) < Math.abs(shown[best]! - value)) best = k
    return best
  })
const nearest5 = nearest(shown5)
const nearest6 = nearest(shown6)

/** Puts what is transparent onto a colour; whole pixels, 8 bits, each channel rounded to the nearest. */
function ontoGround({ rgba }: Pixels, ground: string): Uint8Array {
  const { red, green, blue } = channelsOf(ground) ?? { red: 0, green: 0, blue: 0 }
  const under = [red, green, blue]
  const out = new Uint8Array(rgba.length)
  for (let at = 0; at < rgba.length; at += 4) {
    const alpha = rgba[at + 3]!
    for (let k = 0; k < 3; k++)
      out[at + k] = alpha === 255 ? rgba[at + k]! : Math.floor((rgba[at + k]! * alpha + under[k]! * (255 - alpha) + 127) / 255)
    out[at + 3] = 255
  }
  return out
}

/**
 * A fitted picture in the colours of the glass. `ground` is `#rrggbb` for what is transparent; `keepsAlpha` keeps it instead.
 *
 * Without dither each channel becomes its top bits, as every colour of the project does, so that a flat area in a picture is the same
 * as that colour drawn. Ordered adds the threshold of a matrix of 8 × 8; spread hands on what a pixel is off by to its neighbours
 * (Floyd and Steinberg 1976: 7, 3, 5 and 1 sixteenths), from left to right.
 */
export function toPanel(picture: Pixels, dither: Dither, ground: string, keepsAlpha: boolean): PanelPicture {
  const { width, height } = picture
  const rgba = keepsAlpha ? picture.rgba : ontoGround(picture, ground)
  const pixels = new Uint16Array(width * height)
  let alpha: Uint8Array | null = null
  if (keepsAlpha) {
    alpha = new Uint8Array(width * height)
    let isWhole = true
    for (let i = 0; i < alpha.length; i++) {
      alpha[i] = rgba[4 * i + 3]!
      if (alpha[i] !== 255) isWhole = false
    }
    if (isWhole) alpha = null
  }
  if (dither === 'none')
    for (let i = 0, at = 0; i < pixels.length; i++, at += 4)
      pixels[i] = ((rgba[at]! >> 3) << 11) | ((rgba[at + 1]! >> 2) << 5) | (rgba[at + 2]! >> 3)
  else if (dither === 'ordered') ordered(rgba, width, pixels)
  else spread(rgba, width, height, pixels)
  return { width, height, pixels, alpha }
}

/** Between two steps of a channel the matrix decides, by how far between them the value is. */
function ordered(rgba: Uint8Array, width: number, pixels: Uint16Array): void {
  const split = (value: number, most: number, threshold: number) => {
    const scaled = (value * most * 64 + 127) / 255
    return Math.min(most, Math.floor((scaled + threshold) / 64))
  }
  for (let i = 0, at = 0; i < pixels.length; i++, at += 4) {
    const x = i % width
    const threshold = thresholds[8 * (((i - x) / width) & 7) + (x & 7)]!
    pixels[i] =
      (split(rgba[at]!, 31, threshold) << 11) | (split(rgba[at + 1]!, 63, threshold) << 5) | split(rgba[at + 2]!, 31, threshold)
  }
}

function spread(rgba: Uint8Array, width: number, height: number, pixels: Uint16Array): void {
  // Sixteenths that the pixels of this row and the next still lack, three channels a pixel, one pixel of room at both ends.
  let [here, below] = [new Int32Array(3 * (width + 2)), new Int32Array(3 * (width + 2))]
  for (let y = 0, i = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++, at += 4) {
      let out = 0
      for (let k = 0; k < 3; k++) {
        const slot = 3 * (x + 1) + k
        const value = Math.min(255, Math.max(0, rgba[at + k]! + Math.round(here[slot]! / 16)))
        const level = k === 1 ? nearest6[value]! : nearest5[value]!
        const off = value - (k === 1 ? shown6[level]! : shown5[level]!)
        here[slot + 3]! += 7 * off
        below[slot - 3]! += 3 * off
        below[slot]! += 5 * off
        below[slot + 3]! += off
        out = k === 1 ? (out << 6) | level : (out << 5) | level
      }
      pixels[i] = out
    }
    ;[here, below] = [below, here]
    below.fill(0)
  }
}
