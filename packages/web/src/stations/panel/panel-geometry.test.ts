import { describe, expect, test } from 'vitest'
import { plainLink } from '@moth-lamp/core/frames'
import { pixelsPerMm, plainPanel } from '@moth-lamp/core/project'
import { drawnBy, screenPerMm, steppedBy } from './glass-scale.ts'
import { ladderTimes, toldTry } from './ladder-times.ts'

describe('a report and its done', () => {
  const link = { ...plainLink, baud: 10_000, parity: 'none' as const, stopBits: 1 as const, confirmTimeoutMs: 100 }
  test('take as long as their bytes and the host do', () => {
    // 10 bits a byte at 10 kBd: 1 ms each.
    expect(ladderTimes({ ...link, tries: 3 }, 12, 8)).toEqual({
      report: 12,
      answered: 17,
      settled: 25,
      tries: [0, 112, 224],
      givesUp: 336,
    })
  })
  test('of many tries eight are drawn and the last is told; of few all but the first', () => {
    const told = (tries: number) => {
      const times = ladderTimes({ ...link, tries }, 12, 8)
      return times.tries.map((_, n) => toldTry(times, n))
    }
    expect(told(3)).toEqual([false, true, true])
    expect(told(20)).toEqual([...Array.from({ length: 7 }, () => false), true])
    expect(told(1)).toEqual([false])
  })
})

describe('the glass to scale', () => {
  const panel = { ...plainPanel, width: 800, height: 480, diagonalInches: 5 }
  const scale = screenPerMm(panel, { width: 500, height: 252 })
  test('has room', () => {
    expect(
      Math.max((panel.width / pixelsPerMm(panel)) * scale - 500, (panel.height / pixelsPerMm(panel)) * scale - 252),
    ).toBeCloseTo(0)
  })
  test('an edge that is drawn adds pixels as dense as they were; the corner makes them larger', () => {
    const by = { x: (80 / pixelsPerMm(panel)) * scale, y: 0 }
    expect(drawnBy(panel, 'width', by, scale)).toEqual({ width: 880, diagonalInches: 5.37 })
    expect(drawnBy(panel, 'height', by, scale)).toEqual({ height: 480, diagonalInches: 5 })
    expect(drawnBy(panel, 'corner', by, scale)).toEqual({ diagonalInches: 5.5 })
  })
  test('however far one draws or steps, there is a panel of that size', () => {
    for (const edge of ['width', 'height', 'corner'] as const)
      for (const far of [-1e6, 1e6]) {
        const drawn = { ...panel, ...drawnBy(panel, edge, { x: far, y: far }, scale) }
        const stepped = { ...panel, ...steppedBy(panel, edge, far) }
        for (const { width, height, diagonalInches } of [drawn, stepped]) {
          expect([width, height].every((px) => px >= 16 && px <= 2048)).toBe(true)
          expect(diagonalInches).toBeGreaterThanOrEqual(0.1)
        }
      }
  })
})
