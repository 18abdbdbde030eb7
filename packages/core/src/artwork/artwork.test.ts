import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { mustHold } from '../base/index.ts'
import { textWidth } from '../raster/index.ts'
import { testAssets, testTypefaces } from '../testing/fonts.ts'
import {
  coverageOf,
  flatten,
  lettersLacking,
  makeSheet,
  measureText,
  plainly,
  readTypeface,
  usualCharacters,
  type OutlineCommand,
} from './index.ts'

const typeface = plainly(mustHold(readTypeface(testAssets.get(testTypefaces[0]!.asset)!)))
const box = (x: number, y: number, width: number, height: number): OutlineCommand[] => [
  { type: 'M', x, y },
  { type: 'L', x: x + width, y },
  { type: 'L', x: x + width, y: y + height },
  { type: 'L', x, y: y + height },
  { type: 'Z' },
]
const sum = (coverage: Uint8Array) => coverage.reduce((all, c) => all + c, 0) / 255

describe('coverage of outlines', () => {
  test('is the exact area of a box, wherever it lies between the pixels', () => {
    const part = fc.integer({ min: 0, max: 255 }).map((n) => n / 256)
    fc.assert(
      fc.property(
        part,
        part,
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 12 }),
        part,
        part,
        (x, y, w, h, dw, dh) => {
          const [width, height] = [w + dw, h + dh]
          const coverage = coverageOf(flatten(box(1 + x, 1 + y, width, height)), 18, 18)
          expect(Math.abs(sum(coverage) - width * height)).toBeLessThan(0.004 * 18 * 18)
        },
      ),
    )
  })
  test('whole pixels are full, the others empty', () => {
    const coverage = coverageOf(flatten(box(2, 3, 4, 5)), 10, 10)
    coverage.forEach((c, i) =>
      expect(c).toBe(i % 10 >= 2 && i % 10 < 6 && Math.floor(i / 10) >= 3 && Math.floor(i / 10) < 8 ? 255 : 0),
    )
  })
  test('a hole is empty, and the way round makes no difference', () => {
    const hole = [...box(3, 3, 4, 4)].map((c) => c)
    const turned: OutlineCommand[] = [
      { type: 'M', x: 3, y: 3 },
      { type: 'L', x: 3, y: 7 },
      { type: 'L', x: 7, y: 7 },
      { type: 'L', x: 7, y: 3 },
      { type: 'Z' },
    ]
    const ring = coverageOf(flatten([...box(1, 1, 8, 8), ...turned]), 10, 10)
    expect(ring[5 * 10 + 5]).toBe(0)
    expect(ring[2 * 10 + 2]).toBe(255)
    expect(sum(ring)).toBeCloseTo(64 - 16, 5)
    expect(coverageOf(flatten(hole), 10, 10)).toEqual(coverageOf(flatten(turned), 10, 10))
  })
  test('a curve bulges: more than its chord, less than its control', () => {
    const curved: OutlineCommand[] = [{ type: 'M', x: 0, y: 10 }, { type: 'Q', x1: 5, y1: 0, x: 10, y: 10 }, { type: 'Z' }]
    // The area under a parabola is two thirds of its box: height 5, width 10.
    const area = sum(coverageOf(flatten(curved), 10, 10))
    expect(area).toBeLessThanOrEqual((2 / 3) * 50)
    expect(area).toBeGreaterThan((2 / 3) * 50 * 0.98)
  })
})

describe('sheets of letters', () => {
  test('measuring gives what a sheet of that size draws', () => {
    const sheet = makeSheet(typeface, 21)
    const letters = usualCharacters.filter((c) => c < 0x7f).map((c) => String.fromCharCode(c))
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...letters), { maxLength: 30 }).map((l) => l.join('')),
        (text) => {
          expect(Math.abs(measureText(typeface, 21, text) - textWidth(sheet, text))).toBeLessThanOrEqual(1 + text.length * 0.25)
        },
      ),
    )
  })
  test('letters grow with their size', () => {
    const [small, large] = [makeSheet(typeface, 12), makeSheet(typeface, 48)]
    expect(large.capHeight / small.capHeight).toBeGreaterThan(3)
    expect(textWidth(large, 'Heron') / textWidth(small, 'Heron')).toBeCloseTo(4, 0)
    expect(large.metrics.length).toBe(small.metrics.length)
  })
  test('what a typeface lacks is named, each letter once', () => {
    expect(lettersLacking(typeface, 'Open')).toEqual([])
    expect(lettersLacking(typeface, 'ЖaЖb漢')).toEqual(['Ж', '漢'])
  })
  test('the same font gives the same sheet', () => expect(makeSheet(typeface, 17)).toEqual(makeSheet(typeface, 17)))
})
