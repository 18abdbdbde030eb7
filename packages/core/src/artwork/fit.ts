import { sine, type Rect } from '../base/index.ts'
import { turnedAs } from './picture-decode.ts'
import type { Pixels } from './pixels.ts'

/** How a picture is fitted to its size on the glass. */
export const fitWays = ['exact', 'crop', 'inside', 'fill', 'stretch'] as const
/** Texts that are displayed for the ways an original is scaled. */
export const fitTexts = {
  exact: '1:1',
  crop: 'crop',
  inside: 'fit (letterbox)',
  fill: 'cover',
  stretch: 'stretch',
} as const satisfies Record<FitWay, string>
export type FitWay = (typeof fitWays)[number]
export const dithers = ['none', 'ordered', 'spread'] as const
/** Texts that are displayed for the ways of dithering. */
export const ditherTexts = {
  none: 'none',
  ordered: 'ordered (Bayer)',
  spread: 'error diffusion',
} as const satisfies Record<Dither, string>
export type Dither = (typeof dithers)[number]

/** Steps on an original: turned, trimmed, a part of it taken, brought to a size. */
export interface Fitting {
  /** To the right, degrees. */
  turn: 0 | 90 | 180 | 270
  /** Margins of one colour, or of nothing, are left away first. */
  trims: boolean
  way: FitWay
  /** For `crop`: the part that is taken, in pixels after turning and trimming; no width: as much as the size's proportions give. */
  part: Rect
}

/** Part of the picture and its place: a part of it, after turning and trimming, and the place that it takes on the glass. */
export interface FitPlan {
  from: Rect
  to: Rect
  /** How many pixels of the picture one on the glass is made of, along each side; below 1 it is enlarged. */
  across: number
  down: number
  /** How much wider than true it becomes, 0.1: a tenth; below zero: narrower. */
  distortion: number
  /** The share of the picture that is left away. */
  lost: number
}

/** A part inside a picture: whole pixels, at least one. */
const insideOf = (width: number, height: number, part: Rect): Rect => {
  const x = Math.min(Math.max(0, Math.round(part.x)), width - 1)
  const y = Math.min(Math.max(0, Math.round(part.y)), height - 1)
  return {
    x,
    y,
    width: Math.max(1, Math.min(width - x, Math.round(part.width))),
    height: Math.max(1, Math.min(height - y, Math.round(part.height))),
  }
}

/** The largest part with some proportions, in the middle of a picture. */
export function middlePart(size: { width: number; height: number }, like: { width: number; height: number }): Rect {
  const width = Math.min(size.width, Math.max(1, Math.round((size.height * like.width) / like.height)))
  const height = Math.min(size.height, Math.max(1, Math.round((size.width * like.height) / like.width)))
  return { x: Math.floor((size.width - width) / 2), y: Math.floor((size.height - height) / 2), width, height }
}

/** How a picture of some size, turned and trimmed already, comes to another. Sizes in pixels. */
export function fitPlan(
  size: { width: number; height: number },
  target: { width: number; height: number },
  { way, part }: Pick<Fitting, 'way' | 'part'>,
): FitPlan {
  const whole = { x: 0, y: 0, width: size.width, height: size.height }
  const all = { x: 0, y: 0, width: target.width, height: target.height }
  const middle = (width: number, height: number): Rect => ({
    x: Math.floor((target.width - width) / 2),
    y: Math.floor((target.height - height) / 2),
    width,
    height,
  })
  let [from, to] = [whole, all]
  if (way === 'exact') {
    const width = Math.min(size.width, target.width)
    const height = Math.min(size.height, target.height)
    from = { x: Math.floor((size.width - width) / 2), y: Math.floor((size.height - height) / 2), width, height }
    to = middle(width, height)
  } else if (way === 'inside') {
    const scale = Math.min(target.width / size.width, target.height / size.height)
    to = middle(Math.max(1, Math.round(size.width * scale)), Math.max(1, Math.round(size.height * scale)))
  } else if (way === 'fill') from = middlePart(size, target)
  else if (way === 'crop')
    from = part.width > 0 && part.height > 0 ? insideOf(size.width, size.height, part) : middlePart(size, target)
  const across = from.width / to.width
  const down = from.height / to.height
  return {
    from,
    to,
    across,
    down,
    distortion: down / across - 1,
    lost: 1 - (from.width * from.height) / (size.width * size.height),
  }
}

/** The picture without transparent margins, or without those of the colour of the top left corner; the whole where all is margin. */
export function contentOf({ width, height, rgba }: Pixels): Rect {
  const words = new Uint32Array(rgba.buffer, rgba.byteOffset, width * height)
  const corner = words[0]!
  const isEmpty = (at: number) => words[at] === corner || rgba[4 * at + 3] === 0
  const emptyRow = (y: number) => {
    for (let x = 0; x < width; x++) if (!isEmpty(y * width + x)) return false
    return true
  }
  let [top, bottom] = [0, height]
  while (top < height && emptyRow(top)) top++
  if (top === height) return { x: 0, y: 0, width, height }
  while (emptyRow(bottom - 1)) bottom--
  const emptyColumn = (x: number) => {
    for (let y = top; y < bottom; y++) if (!isEmpty(y * width + x)) return false
    return true
  }
  let [left, right] = [0, width]
  while (emptyColumn(left)) left++
  while (emptyColumn(right - 1)) right--
  return { x: left, y: top, width: right - left, height: bottom - top }
}

/** A part of a picture as a picture of its own. */
export function partOf({ width, rgba }: Pixels, part: Rect): Pixels {
  const out = new Uint8Array(4 * part.width * part.height)
  for (let y = 0; y < part.height; y++) {
    const from = 4 * ((part.y + y) * width + part.x)
    out.set(rgba.subarray(from, from + 4 * part.width), 4 * y * part.width)
  }
  return { width: part.width, height: part.height, rgba: out }
}

/** A picture turned and trimmed: what a plan is made for. */
export function prepared(pixels: Pixels, { turn, trims }: Pick<Fitting, 'turn' | 'trims'>): Pixels {
  const turned = turnedAs(pixels, { 0: 1, 90: 6, 180: 3, 270: 8 }[turn])
  if (!trims) return turned
  const content = contentOf(turned)
  return content.width === turned.width && content.height === turned.height ? turned : partOf(turned, content)
}

/** Light of an 8-bit sRGB value, 0–1 (IEC 61966-2-1): below 0.04045 linear, else ((v + 0.055) / 1.055)^2.4. */
const lightOf = (value: number): number => {
  const v = value / 255
  if (v <= 0.04045) return v / 12.92
  const x = (v + 0.055) / 1.055
  const root = fifthRoot(x)
  return x * x * root * root
}

/** The fifth root of a number in 0–1 by Newton's steps: x^0.2 on + − × ÷ alone. */
function fifthRoot(x: number): number {
  let r = 1
  for (let k = 0; k < 40; k++) r = (4 * r + x / (r * r * r * r)) / 5
  return r
}

interface LightTables {
  /** The light of each 8-bit value. */
  light: Float64Array
  /** The 8-bit value for so much light, in steps of 1/16384: the one whose light is nearest as the eye has it. */
  valueFor: Uint8Array
}
let tables: LightTables | undefined

/** Made when the first picture is fitted. */
function lightTables(): LightTables {
  if (tables) return tables
  const valueFor = new Uint8Array(16_385)
  let v = 0
  for (let step = 0; step < valueFor.length; step++) {
    while (v < 255 && step / 16_384 > lightOf(v + 0.5)) v++
    valueFor[step] = v
  }
  return (tables = { light: Float64Array.from({ length: 256 }, (_, value) => lightOf(value)), valueFor })
}

interface Weights {
  /** The first that counts for each of the new, and how many. */
  first: Int32Array
  count: Int32Array
  /** `most` for each. */
  weight: Float64Array
  most: number
}

/** sin(πx) / πx, windowed to three lobes. */
function lanczos(x: number): number {
  if (x === 0) return 1
  if (x <= -3 || x >= 3) return 0
  const px = 3.141592653589793 * x
  return (3 * sine(180 * x) * sine(60 * x)) / (px * px)
}

/**
 * Weights of `from` pixels in a row for each of `to` new ones: going down the average of what lies under it, each by how much
 * of it does; going up a Lanczos window of three lobes. Weights sum to 1; at the ends the last pixel stands for what is not there.
 */
function weightsFor(from: number, to: number): Weights {
  const scale = from / to
  const most = scale >= 1 ? Math.ceil(scale) + 1 : 7
  const first = new Int32Array(to)
  const count = new Int32Array(to)
  const weight = new Float64Array(to * most)
  for (let k = 0; k < to; k++) {
    const [low, high] = scale >= 1 ? [k * scale, (k + 1) * scale] : [(k + 0.5) * scale - 3, (k + 0.5) * scale + 3]
    const begin = Math.max(0, Math.floor(low))
    const end = Math.min(from, Math.ceil(high))
    let sum = 0
    for (let i = Math.floor(low); i < Math.ceil(high); i++) {
      const w = scale >= 1 ? Math.min(i + 1, high) - Math.max(i, low) : lanczos(i + 0.5 - (k + 0.5) * scale)
      // A pixel outside counts for the last one inside.
      const at = Math.min(end - 1, Math.max(begin, i)) - begin
      if (at < most) weight[k * most + at]! += w
      sum += w
    }
    first[k] = begin
    count[k] = Math.min(most, end - begin)
    for (let i = 0; i < count[k]!; i++) weight[k * most + i]! /= sum
  }
  return { first, count, weight, most }
}

/**
 * A part of a picture brought to a size: in linear light, with alpha multiplied in. Every step is on + − × ÷, so that the same bits
 * come out wherever it runs.
 */
export function resampled(pixels: Pixels, from: Rect, width: number, height: number): Pixels {
  if (from.width === width && from.height === height) return partOf(pixels, from)
  const across = weightsFor(from.width, width)
  const down = weightsFor(from.height, height)
  const rgba = new Uint8Array(4 * width * height)
  const rows = new Map<number, Float64Array>()
  const spare: Float64Array[] = []
  const line = new Float64Array(4 * from.width)
  const { light, valueFor } = lightTables()
  const rowOf = (y: number): Float64Array => {
    const known = rows.get(y)
    if (known) return known
    const made = spare.pop() ?? new Float64Array(4 * width)
    lightRow(pixels, from, y, light, line)
    acrossRow(line, across, width, made)
    rows.set(y, made)
    return made
  }
  const sum = new Float64Array(4 * width)
  for (let y = 0; y < height; y++) {
    const first = down.first[y]!
    for (const key of rows.keys())
      if (key < first) {
        spare.push(rows.get(key)!)
        rows.delete(key)
      }
    sum.fill(0)
    for (let i = 0; i < down.count[y]!; i++) {
      const w = down.weight[y * down.most + i]!
      if (w === 0) continue
      const row = rowOf(first + i)
      for (let k = 0; k < sum.length; k++) sum[k]! += w * row[k]!
    }
    putRow(sum, valueFor, rgba, 4 * y * width)
  }
  return { width, height, rgba }
}

/** A row of a part as light times alpha, and alpha, 0–1. */
function lightRow({ width, rgba }: Pixels, from: Rect, y: number, light: Float64Array, line: Float64Array): void {
  let at = 4 * ((from.y + y) * width + from.x)
  for (let k = 0; k < line.length; k += 4, at += 4) {
    const alpha = rgba[at + 3]!
    if (alpha === 255) {
      line[k] = light[rgba[at]!]!
      line[k + 1] = light[rgba[at + 1]!]!
      line[k + 2] = light[rgba[at + 2]!]!
      line[k + 3] = 1
      continue
    }
    const a = alpha / 255
    line[k] = light[rgba[at]!]! * a
    line[k + 1] = light[rgba[at + 1]!]! * a
    line[k + 2] = light[rgba[at + 2]!]! * a
    line[k + 3] = a
  }
}

function acrossRow(line: Float64Array, { first, count, weight, most }: Weights, width: number, out: Float64Array): void {
  for (let x = 0; x < width; x++) {
    let [red, green, blue, alpha] = [0, 0, 0, 0]
    let at = 4 * first[x]!
    const end = x * most + count[x]!
    for (let i = x * most; i < end; i++, at += 4) {
      const w = weight[i]!
      red += w * line[at]!
      green += w * line[at + 1]!
      blue += w * line[at + 2]!
      alpha += w * line[at + 3]!
    }
    out[4 * x] = red
    out[4 * x + 1] = green
    out[4 * x + 2] = blue
    out[4 * x + 3] = alpha
  }
}

const step = (l: number): number => (l <= 0 ? 0 : l >= 1 ? 16_384 : Math.floor(l * 16_384 + 0.5))

function putRow(sum: Float64Array, valueFor: Uint8Array, rgba: Uint8Array, to: number): void {
  for (let k = 0; k < sum.length; k += 4) {
    const alpha = sum[k + 3]!
    // A nearly transparent pixel has no colour.
    if (alpha < 1 / 1024) continue
    rgba[to + k] = valueFor[step(sum[k]! / alpha)]!
    rgba[to + k + 1] = valueFor[step(sum[k + 1]! / alpha)]!
    rgba[to + k + 2] = valueFor[step(sum[k + 2]! / alpha)]!
    rgba[to + k + 3] = alpha >= 1 ? 255 : Math.floor(alpha * 255 + 0.5)
  }
}

/** A decoded picture fitted to a size: what its recipe leaves free is transparent. */
export function fitted(pixels: Pixels, target: { width: number; height: number }, fitting: Fitting): Pixels {
  const ready = prepared(pixels, fitting)
  const { from, to } = fitPlan(ready, target, fitting)
  const part = resampled(ready, from, to.width, to.height)
  if (part.width === target.width && part.height === target.height) return part
  const rgba = new Uint8Array(4 * target.width * target.height)
  for (let y = 0; y < to.height; y++)
    rgba.set(part.rgba.subarray(4 * y * to.width, 4 * (y + 1) * to.width), 4 * ((to.y + y) * target.width + to.x))
  return { width: target.width, height: target.height, rgba }
}
