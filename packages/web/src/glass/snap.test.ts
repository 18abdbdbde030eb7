import { expect, test } from 'vitest'
import fc from 'fast-check'
import { snap } from './snap.ts'

const glass = { x: 0, y: 0, width: 800, height: 480 }
const rect = fc.record({
  x: fc.integer({ min: 0, max: 700 }),
  y: fc.integer({ min: 0, max: 400 }),
  width: fc.integer({ min: 1, max: 90 }),
  height: fc.integer({ min: 1, max: 70 }),
})

test('moves by four pixels at most, never sizes, and a guide stands where something lies', () => {
  fc.assert(
    fc.property(rect, fc.array(rect, { maxLength: 8 }), (moved, others) => {
      const { rect: at, guides } = snap(moved, others, glass)
      expect([at.width, at.height]).toEqual([moved.width, moved.height])
      expect(Math.abs(at.x - moved.x)).toBeLessThanOrEqual(4)
      expect(Math.abs(at.y - moved.y)).toBeLessThanOrEqual(4)
      for (const line of guides.x)
        expect([...others, glass].flatMap((r) => [r.x, r.x + r.width / 2, r.x + r.width])).toContain(line)
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
