import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { holdsRect, mustHold, type Rect } from '../base/index.ts'
import {
  blend565,
  colourToRgb565,
  drawText,
  expand565,
  fillEllipse,
  fillLine,
  fillArc,
  fillStroke,
  fillPolygon,
  fillRounded,
  gradientInk,
  hasGlyph,
  rgb565,
  Surface,
  textWidth,
} from './index.ts'
import { makeSheet, plainly, readTypeface } from '../artwork/index.ts'
import { compileFace, noFace, paintFace, solidOf } from '../faces/index.ts'

const fontFile = createRequire(import.meta.url).resolve(
  '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff',
)
const typeface = plainly(mustHold(readTypeface(new Uint8Array(readFileSync(fontFile)))))

const named = { colour: (stored: string) => stored, picture: () => null, face: () => null }

test('colours: to RGB565, back, and blended', () => {
  expect(rgb565(255, 255, 255)).toBe(0xffff)
  expect(colourToRgb565('#d98a12')).toBe(((0xd9 >> 3) << 11) | ((0x8a >> 2) << 5) | (0x12 >> 3))
  expect(expand565(0xffff)).toEqual({ red: 255, green: 255, blue: 255 })
  expect([blend565(0x1234, 0xabcd, 0), blend565(0x1234, 0xabcd, 255)]).toEqual([0x1234, 0xabcd])
})

const rectIn = (size: number): fc.Arbitrary<Rect> =>
  fc.record({
    x: fc.integer({ min: -8, max: size }),
    y: fc.integer({ min: -8, max: size }),
    width: fc.integer({ min: 1, max: size }),
    height: fc.integer({ min: 1, max: size }),
  })

test('painting in two clipped halves gives the same pixels as painting at once, for every shape', () => {
  const sheet = makeSheet(typeface, 18)
  const draws: ((s: Surface, r: Rect) => void)[] = [
    (s, r) => fillRounded(s, r, 7, 0x7be0),
    (s, r) => fillRounded(s, r, 5, gradientInk(r, { red: 10, green: 20, blue: 60 }, { red: 90, green: 160, blue: 200 }, 'down')),
    (s, r) => fillEllipse(s, r, 0xf800),
    (s, r) => fillLine(s, r, { x: r.x, y: r.y }, { x: r.x + r.width, y: r.y + r.height }, 3, 0xffff),
    (s, r) => fillArc(s, { cx: r.x + r.width / 2, cy: r.y + r.height / 2, inner: 4, outer: 14.5, from: 230, sweep: 260 }, 0x07e0),
    (s, r) => fillArc(s, { cx: r.x + 9, cy: r.y + 9, inner: 0, outer: 9, from: 20, sweep: 77 }, 0x07e0),
    (s, r) => fillStroke(s, { x: r.x, y: r.y + 3 }, { x: r.x + r.width, y: r.y + r.height }, 2.5, 0xffff),
    (s, r) => fillPolygon(s, [r.x, r.y, r.x + r.width, r.y + r.height / 3, r.x + 4.3, r.y + r.height], 0xf81f),
    (s, r) => s.faintly(0.4, () => fillRounded(s, r, 4, 0xffff)),
    (s, r) => drawText(s, sheet, r.x, r.y + 15, 'Ag°Ω', 0xffff),
    (s, r) => paintFace(s, r, compileFace({ ...noFace, border: '#ff8800', borderWidth: 2, radius: 6 }, named)),
    (s, r) =>
      paintFace(s, r, compileFace({ ...noFace, shape: 'ellipse', fill: '#224466', border: '#ff8800', borderWidth: 3 }, named)),
  ]
  fc.assert(
    fc.property(rectIn(50), fc.nat(60), fc.nat(draws.length - 1), (rect, cut, which) => {
      const whole = new Surface(60, 60)
      draws[which]!(whole, rect)
      const halves = new Surface(60, 60)
      halves.within({ x: 0, y: 0, width: cut, height: 60 }, () => draws[which]!(halves, rect))
      halves.within({ x: cut, y: 0, width: 60 - cut, height: 60 }, () => draws[which]!(halves, rect))
      expect(halves.pixels).toEqual(whole.pixels)
    }),
  )
})

test('nothing is written outside the clip', () => {
  fc.assert(
    fc.property(rectIn(40), rectIn(40), (clip, rect) => {
      const surface = new Surface(40, 40)
      surface.within(clip, () => fillRounded(surface, rect, 6, 0xffff))
      surface.pixels.forEach((p, i) => {
        const [x, y] = [i % 40, Math.floor(i / 40)]
        if (p) expect(x >= clip.x && x < clip.x + clip.width && y >= clip.y && y < clip.y + clip.height).toBe(true)
      })
    }),
  )
})

test('a face that says it covers an area leaves nothing of what was under it', () => {
  fc.assert(
    fc.property(fc.nat(20), fc.nat(3), rectIn(30), (radius, borderWidth, area) => {
      const face = compileFace({ ...noFace, fill: '#123456', border: '#654321', borderWidth, radius }, named)
      const place = { x: 2, y: 2, width: 30, height: 24 }
      if (!holdsRect(solidOf(face, place), area)) return
      const [a, b] = [new Surface(40, 40), new Surface(40, 40)]
      b.pixels.fill(0xffff)
      for (const s of [a, b]) paintFace(s, place, face)
      expect(a.copyOf(area)).toEqual(b.copyOf(area))
    }),
  )
})

describe('letters', () => {
  const sheet = makeSheet(typeface, 24)
  test('a sheet has what panels write, and knows what it lacks', () => {
    for (const c of 'AZaz09°éß−…') expect(hasGlyph(sheet, c.codePointAt(0)!)).toBe(true)
    expect(hasGlyph(sheet, 'Ж'.codePointAt(0)!)).toBe(false)
  })
  test('ink agrees with the area of the outline: an H is about a third full', () => {
    const surface = new Surface(40, 40)
    drawText(surface, sheet, 5, 30, 'H', 0xffff)
    const inked = surface.pixels.filter((p) => p !== 0).length
    expect(inked).toBeGreaterThan(60)
    expect(inked).toBeLessThan(24 * 24)
  })
  test('width grows with each letter, and a letter that is missing still takes its place', () => {
    expect(textWidth(sheet, 'mm')).toBeGreaterThan(textWidth(sheet, 'mi'))
    expect(textWidth(sheet, 'aЖ')).toBeGreaterThan(textWidth(sheet, 'a'))
    expect(textWidth(sheet, '')).toBe(0)
  })
  test('what is no font is a coded problem', () =>
    expect(readTypeface(Uint8Array.of(1, 2, 3))).toMatchObject({ ok: false, problem: { code: 'typeface.unreadable' } }))
})
