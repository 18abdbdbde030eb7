import { expect, test } from 'vitest'
import fc from 'fast-check'
import { sized, snap, snapSize } from './snap.ts'

const glass = { x: 0, y: 0, width: 800, height: 480 }
const rect = fc.record({
  x: fc.integer({ min: 0, max: 700 }),
  y: fc.integer({ min: 0, max: 400 }),
  width: fc.integer({ min: 1, max: 90 }),
  height: fc.integer({ min: 1, max: 70 }),
})

test('moves by four pixels at most, never sizes, and a guide stands where it came to lie', () => {
  fc.assert(
    fc.property(rect, fc.array(rect, { maxLength: 8 }), (moved, others) => {
      const { rect: at, guides } = snap(moved, others, glass)
      expect([at.width, at.height]).toEqual([moved.width, moved.height])
      expect(Math.abs(at.x - moved.x)).toBeLessThanOrEqual(4)
      expect(Math.abs(at.y - moved.y)).toBeLessThanOrEqual(4)
      for (const line of guides.x)
        expect(Math.min(...[at.x, at.x + at.width / 2, at.x + at.width].map((x) => Math.abs(x - line)))).toBeLessThanOrEqual(0.5)
      if (!guides.x.length) expect(at.x).toBe(moved.x)
      if (!guides.y.length) expect(at.y).toBe(moved.y)
    }),
  )
})

test('the middle of the glass, and the edge of a neighbour', () => {
  expect(snap({ x: 348, y: 100, width: 100, height: 20 }, [], glass)).toEqual({
    rect: { x: 350, y: 100, width: 100, height: 20 },
    guides: { x: [400], y: [] },
  })
  expect(snap({ x: 203, y: 97, width: 50, height: 33 }, [{ x: 100, y: 100, width: 100, height: 10 }], glass).rect).toMatchObject({
    x: 200,
    y: 100,
  })
})

test('stands with the same gap as its neighbours have', () => {
  const row = [
    { x: 103, y: 50, width: 37, height: 31 },
    { x: 163, y: 50, width: 41, height: 31 },
  ]
  // 23 px lie between the two: a third one lands 23 px after them.
  expect(snap({ x: 225, y: 53, width: 90, height: 17 }, row, glass).rect.x).toBe(227)
})

test('a side that is pulled snaps, the others stay; nothing gets smaller than 4 px', () => {
  const east = { west: false, east: true, north: false, south: false }
  const other = { x: 300, y: 200, width: 60, height: 20 }
  const start = { x: 100, y: 100, width: 80, height: 40 }
  const { rect: at, guides } = snapSize(sized(start, east, 118, 30), east, [other], glass)
  expect([at, guides.x]).toEqual([{ ...start, width: 200 }, [300]])
  fc.assert(
    fc.property(rect, fc.integer({ min: -900, max: 900 }), fc.integer({ min: -900, max: 900 }), (from, dx, dy) => {
      const to = sized(from, { west: true, east: false, north: true, south: false }, dx, dy)
      expect([to.x + to.width, to.y + to.height]).toEqual([from.x + from.width, from.y + from.height])
      expect(Math.min(to.width, to.height)).toBeGreaterThanOrEqual(4)
    }),
  )
})

test('keeps the margin that the others keep from the opposite edge', () => {
  const left = { x: 24, y: 40, width: 200, height: 60 }
  expect(snap({ x: 577, y: 230, width: 200, height: 60 }, [left], glass)).toEqual({
    rect: { x: 576, y: 230, width: 200, height: 60 },
    guides: { x: [776], y: [] },
  })
  expect(snap({ x: 577, y: 379, width: 200, height: 60 }, [left], glass).rect.y).toBe(380)
})
