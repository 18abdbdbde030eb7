import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { expand565, Surface } from '@moth-lamp/core/raster'
import { paintedRect, shrunk, wholeOf } from './painted.ts'

const surfaces = fc
  .record({ width: fc.integer({ min: 1, max: 40 }), height: fc.integer({ min: 1, max: 40 }), seed: fc.nat() })
  .map(({ width, height, seed }) => {
    const surface = new Surface(width, height)
    for (let k = 0, pixel = seed; k < surface.pixels.length; k++) surface.pixels[k] = pixel = (pixel * 25173 + 13849) & 0xffff
    return surface
  })

describe('a surface made smaller', () => {
  test('has in each pixel the mean of those it stands for, and each of the surface counts in one', () => {
    fc.assert(
      fc.property(surfaces, fc.integer({ min: 1, max: 50 }), (surface, wide) => {
        const { rect, rgba } = shrunk(surface, wide)
        expect(rect.width).toBe(Math.min(wide, surface.width))
        expect(rect.height).toBeGreaterThanOrEqual(1)
        for (let row = 0; row < rect.height; row++)
          for (let column = 0; column < rect.width; column++) {
            const mine = { red: 0, green: 0, blue: 0, count: 0 }
            for (let y = 0; y < surface.height; y++)
              for (let x = 0; x < surface.width; x++) {
                if (Math.floor((x * rect.width) / surface.width) !== column) continue
                if (Math.floor((y * rect.height) / surface.height) !== row) continue
                const { red, green, blue } = expand565(surface.pixels[y * surface.width + x]!)
                mine.red += red
                mine.green += green
                mine.blue += blue
                mine.count++
              }
            const means = [mine.red, mine.green, mine.blue].map((sum) => sum / mine.count)
            const at = 4 * (row * rect.width + column)
            const isMean = means.every((mean, part) => Math.abs(rgba[at + part]! - mean) <= 0.5)
            if (!isMean || rgba[at + 3] !== 255) expect([...rgba.subarray(at, at + 4)]).toEqual([...means, 255])
          }
      }),
    )
  })
  test('as wide as it is, it is what a canvas shows of it', () => {
    fc.assert(
      fc.property(surfaces, (surface) => {
        expect(shrunk(surface, 100)).toEqual(paintedRect(surface, wholeOf(surface)))
      }),
    )
  })
})
