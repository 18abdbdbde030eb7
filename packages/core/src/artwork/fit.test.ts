import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { seededRandom } from '../base/index.ts'
import { colourToRgb565, expand565 } from '../raster/index.ts'
import { softPicture } from '../testing/pictures.ts'
import { contentOf, fitPlan, fitted, fitWays, middlePart, toPanel, type Fitting, type Pixels } from './index.ts'

const plain: Fitting = { turn: 0, trims: false, way: 'stretch', part: { x: 0, y: 0, width: 0, height: 0 } }

const noise = (width: number, height: number, seed: number, hasAlpha = false): Pixels => {
  const random = seededRandom(seed)
  const rgba = Uint8Array.from({ length: 4 * width * height }, (_, i) => ((i & 3) < 3 || hasAlpha ? random.below(256) : 255))
  return { width, height, rgba }
}

/** The average of light under each new pixel, or a window of three lobes, as one would write it down: slow and plain. */
function reference({ width, height, rgba }: Pixels, to: { width: number; height: number }): Float64Array {
  const light = (v: number) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4)
  const value = (l: number) => 255 * (l <= 0.0031308 ? 12.92 * l : 1.055 * l ** (1 / 2.4) - 0.055)
  const sinc = (x: number) => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x))
  const weight = (from: number, size: number, k: number, i: number) => {
    const scale = from / size
    if (scale >= 1) return Math.max(0, Math.min(i + 1, (k + 1) * scale) - Math.max(i, k * scale))
    const x = i + 0.5 - (k + 0.5) * scale
    return Math.abs(x) < 3 ? sinc(x) * sinc(x / 3) : 0
  }
  const taps = (from: number, size: number, k: number) => {
    const list: [number, number][] = []
    for (let i = -4; i < from + 4; i++) {
      const w = weight(from, size, k, i)
      if (w !== 0) list.push([Math.min(from - 1, Math.max(0, i)), w])
    }
    const sum = list.reduce((all, [, w]) => all + w, 0)
    return list.map(([i, w]) => [i, w / sum] as const)
  }
  const out = new Float64Array(4 * to.width * to.height)
  for (let y = 0; y < to.height; y++)
    for (let x = 0; x < to.width; x++) {
      const sum = [0, 0, 0, 0]
      for (const [j, v] of taps(height, to.height, y))
        for (const [i, u] of taps(width, to.width, x)) {
          const at = 4 * (j * width + i)
          const alpha = rgba[at + 3]! / 255
          for (let k = 0; k < 3; k++) sum[k]! += u * v * light(rgba[at + k]!) * alpha
          sum[3]! += u * v * alpha
        }
      const at = 4 * (y * to.width + x)
      const alpha = Math.min(1, Math.max(0, sum[3]!))
      for (let k = 0; k < 3; k++) out[at + k] = alpha < 1 / 1024 ? 0 : value(Math.min(1, Math.max(0, sum[k]! / sum[3]!)))
      out[at + 3] = alpha < 1 / 1024 ? 0 : 255 * alpha
    }
  return out
}

describe('a picture brought to another size', () => {
  test.each([
    ['half', 24, 18, 12, 9],
    ['a little smaller', 23, 17, 20, 16],
    ['to a single pixel', 19, 11, 1, 1],
    ['larger', 9, 7, 31, 20],
    ['wider and lower', 12, 20, 30, 6],
  ] as const)('%s: as a plain reference has it', (_, width, height, toWidth, toHeight) => {
    for (const [seed, hasAlpha] of [
      [3, false],
      [4, true],
    ] as const) {
      const from = noise(width, height, seed, hasAlpha)
      const made = fitted(from, { width: toWidth, height: toHeight }, plain)
      const wanted = reference(from, { width: toWidth, height: toHeight })
      for (let i = 0; i < made.rgba.length; i++) {
        // Where next to nothing is seen its colour may be anything.
        if ((i & 3) < 3 && wanted[i | 3]! < 6) continue
        expect(Math.abs(made.rgba[i]! - wanted[i]!), `at ${i}`).toBeLessThan(1.6)
      }
    }
  })
  test('one of a single colour stays it, and one of its own size stays itself', () => {
    const flat = { width: 50, height: 40, rgba: new Uint8Array(8000).map((_, i) => [180, 33, 90, 255][i & 3]!) }
    for (const size of [
      { width: 7, height: 3 },
      { width: 120, height: 77 },
    ]) {
      const { rgba } = fitted(flat, size, plain)
      expect([...new Set(rgba)].sort((a, b) => a - b)).toEqual([33, 90, 180, 255])
    }
    const own = noise(20, 10, 8, true)
    expect(fitted(own, own, plain).rgba).toEqual(own.rgba)
  })
  test('black and white lines become the grey of half the light, not of half the number', () => {
    const lines = {
      width: 64,
      height: 4,
      rgba: new Uint8Array(1024).map((_, i) => ((i & 3) === 3 ? 255 : (i >> 2) % 2 ? 255 : 0)),
    }
    expect(fitted(lines, { width: 32, height: 2 }, plain).rgba[0]).toBe(188)
  })
})

describe('the ways to fit', () => {
  const wide = { width: 1600, height: 1067 }
  const glass = { width: 800, height: 480 }
  const at = (way: Fitting['way'], part = plain.part) => fitPlan(wide, glass, { way, part })
  test('crop and fill lose what does not fit and keep round things round', () => {
    expect(at('fill')).toMatchObject({ from: { x: 0, y: 53, width: 1600, height: 960 }, across: 2, down: 2, distortion: 0 })
    expect(at('fill').lost).toBeCloseTo(0.1, 2)
    expect(at('crop', { x: 100, y: 10, width: 800, height: 480 })).toMatchObject({ from: { x: 100, y: 10 }, across: 1 })
  })
  test('inside leaves bars, stretch is told by how much, exact is cut in the middle', () => {
    expect(at('inside').to).toEqual({ x: 40, y: 0, width: 720, height: 480 })
    expect(at('stretch').distortion).toBeCloseTo(0.111, 3)
    expect(at('exact')).toMatchObject({
      from: { x: 400, y: 293, width: 800, height: 480 },
      across: 1,
      lost: expect.any(Number) as never,
    })
  })
  test('whatever is asked for, what is taken lies in the picture and where it goes on the glass', () => {
    const side = fc.integer({ min: 1, max: 400 })
    const number = fc.integer({ min: -50, max: 500 })
    fc.assert(
      fc.property(
        side,
        side,
        side,
        side,
        fc.constantFrom(...fitWays),
        number,
        number,
        number,
        number,
        (w, h, tw, th, way, x, y, pw, ph) => {
          const { from, to } = fitPlan(
            { width: w, height: h },
            { width: tw, height: th },
            { way, part: { x, y, width: pw, height: ph } },
          )
          expect(from.x >= 0 && from.y >= 0 && from.width > 0 && from.height > 0).toBe(true)
          expect(from.x + from.width <= w && from.y + from.height <= h).toBe(true)
          expect(to.x >= 0 && to.y >= 0 && to.x + to.width <= tw && to.y + to.height <= th).toBe(true)
        },
      ),
    )
    expect(middlePart({ width: 10, height: 10 }, { width: 1, height: 1000 })).toEqual({ x: 4, y: 0, width: 1, height: 10 })
  })
  test('turned and trimmed first', () => {
    const picture = { width: 6, height: 4, rgba: new Uint8Array(96).fill(255) }
    picture.rgba.set([200, 0, 0, 255], 4 * (2 * 6 + 3))
    expect(contentOf(picture)).toEqual({ x: 3, y: 2, width: 1, height: 1 })
    const { width, height, rgba } = fitted(picture, { width: 4, height: 6 }, { ...plain, turn: 90 })
    expect([width, height]).toEqual([4, 6])
    expect([...rgba.subarray(4 * (3 * 4 + 1), 4 * (3 * 4 + 1) + 4)]).toEqual([200, 0, 0, 255])
    expect(fitted(picture, { width: 1, height: 1 }, { ...plain, trims: true }).rgba).toEqual(Uint8Array.of(200, 0, 0, 255))
  })
})

describe('in the colours of the glass', () => {
  const soft = softPicture(96, 64)
  const average = (pixels: Uint16Array) => {
    let sum = 0
    for (const pixel of pixels) sum += expand565(pixel).red + expand565(pixel).green + expand565(pixel).blue
    return sum / pixels.length / 3
  }
  test('without dither a colour is the one that is drawn', () => {
    const one = { width: 1, height: 1, rgba: Uint8Array.of(0x7b, 0xc3, 0xff, 255) }
    expect(toPanel(one, 'none', '#000000', false).pixels[0]).toBe(colourToRgb565('#7bc3ff'))
  })
  test('dither keeps the light of a flat area that lies between two steps', () => {
    const flat = { width: 64, height: 64, rgba: new Uint8Array(4 * 64 * 64).map((_, i) => ((i & 3) === 3 ? 255 : 103)) }
    for (const dither of ['ordered', 'spread'] as const)
      expect(Math.abs(average(toPanel(flat, dither, '#000000', false).pixels) - 103), dither).toBeLessThan(0.6)
    expect(Math.abs(average(toPanel(flat, 'none', '#000000', false).pixels) - 103)).toBeGreaterThan(0.6)
    expect(new Set(toPanel(flat, 'spread', '#000000', false).pixels).size).toBeGreaterThan(1)
  })
  test('black stays black and white white', () => {
    for (const [value, pixel] of [
      [0, 0],
      [255, 0xffff],
    ] as const)
      // prettier-ignore
      for (const dither of ['none', 'ordered', 'spread'] as const) {
        const flat = { width: 16, height: 16, rgba: new Uint8Array(1024).map((_, i) => ((i & 3) === 3 ? 255 : value)) }
        expect(new Set(toPanel(flat, dither, '#000000', false).pixels)).toEqual(new Set([pixel]))
      }
  })
  test('what is transparent takes the ground, or is kept', () => {
    const clear = { width: 2, height: 1, rgba: Uint8Array.of(255, 0, 0, 128, 255, 255, 255, 255) }
    expect(toPanel(clear, 'none', '#0000ff', false)).toMatchObject({
      alpha: null,
      pixels: Uint16Array.of(colourToRgb565('#80007f'), 0xffff),
    })
    expect(toPanel(clear, 'none', '#0000ff', true).alpha).toEqual(Uint8Array.of(128, 255))
    expect(toPanel(soft, 'none', '#0000ff', true).alpha).toBe(null)
  })
})
