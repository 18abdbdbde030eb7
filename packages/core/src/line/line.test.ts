import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { VirtualClock } from '../base/index.ts'
import { bitsPerByte, byteEndUs, linkInWords, plainLink, type Direction, type LinkSettings } from '../frames/index.ts'
import { Line, type Passed } from './index.ts'

const link = (change: Partial<LinkSettings>): LinkSettings => ({ ...plainLink, ...change })

function makeLine(settings = plainLink, seed = 1) {
  const clock = new VirtualClock()
  const passed: Passed<null>[] = []
  const line = new Line<null>(clock, settings, seed, (p) => passed.push(p))
  return { clock, line, passed }
}
const bytes = (n: number) => Uint8Array.from({ length: n }, (_, i) => i)

describe('time on the line', () => {
  test('a byte is start, eight bits, parity, stop', () => {
    expect(
      [link({}), link({ parity: 'even' }), link({ stopBits: 2 }), link({ parity: 'odd', stopBits: 2 })].map(bitsPerByte),
    ).toEqual([10, 11, 11, 12])
    expect(linkInWords(link({ baud: 115_200, parity: 'even', stopBits: 2 }))).toBe('115 200 Bd 8E2')
  })
  test('byte k ends at ceil(t0 + k · bits · 10⁶ / baud)', () => {
    expect(byteEndUs(plainLink, 0, 1)).toBe(521)
    expect(byteEndUs(plainLink, 0, 9)).toBe(4688)
    fc.assert(
      fc.property(
        fc.constantFrom(9600, 19_200, 115_200, 921_600),
        fc.nat(1e9),
        fc.integer({ min: 1, max: 300 }),
        (baud, t0, k) => {
          const at = byteEndUs(link({ baud }), t0, k)
          const exact = t0 + (k * 10 * 1e6) / baud
          expect(Number.isInteger(at)).toBe(true)
          expect(at - exact).toBeGreaterThanOrEqual(-1e-6)
          expect(at - exact).toBeLessThan(1)
        },
      ),
    )
  })
  test('bursts of one direction wait for each other; the other direction is free', () => {
    const { clock, line, passed } = makeLine()
    line.send('to panel', bytes(9), null)
    line.send('to panel', bytes(9), null)
    line.send('to host', bytes(9), null)
    clock.runUntil(20_000)
    expect(passed.map((p) => [p.direction, p.fromUs, p.toUs])).toEqual([
      ['to panel', 0, 4688],
      ['to host', 0, 4688],
      ['to panel', 4688, 9376],
    ])
  })
  test('byte by byte, each arrives at its own instant', () => {
    const { clock, line, passed } = makeLine()
    line.send('to panel', bytes(3), null, true)
    clock.runUntil(1041)
    expect(passed.length).toBe(1)
    clock.runUntil(2000)
    expect(passed.map((p) => p.toUs)).toEqual([521, 1042, 1563])
    expect(passed.flatMap((p) => Array.from(p.arrived!))).toEqual([0, 1, 2])
  })
  test('what is sent later begins later, and nothing overtakes within a direction', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(5000), fc.integer({ min: 1, max: 20 }), fc.boolean()), { maxLength: 20 }), (sends) => {
        const { clock, line, passed } = makeLine()
        for (const [wait, n, up] of sends) {
          clock.runUntil(clock.nowUs + wait)
          line.send(up ? 'to host' : 'to panel', bytes(n), null)
        }
        clock.runUntil(1e9)
        expect(passed.length).toBe(sends.length)
        for (const direction of ['to panel', 'to host'] as Direction[]) {
          const mine = passed.filter((p) => p.direction === direction)
          mine.forEach((p, i) => expect(p.fromUs).toBeGreaterThanOrEqual(mine[i - 1]?.toUs ?? 0))
        }
      }),
    )
  })
})

describe('trouble', () => {
  test('loses as many frames as asked for, in that direction only', () => {
    const { clock, line, passed } = makeLine()
    line.trouble.lose['to panel'] = 2
    for (let i = 0; i < 4; i++) line.send('to panel', bytes(4), null)
    line.send('to host', bytes(4), null)
    clock.runUntil(1e6)
    expect(passed.filter((p) => p.direction === 'to panel').map((p) => p.arrived === null)).toEqual([true, true, false, false])
    expect(passed.find((p) => p.direction === 'to host')!.arrived).toEqual(bytes(4))
  })
  test('flips bits and loses bytes by its seed: the same twice, another with another seed', () => {
    const run = (seed: number) => {
      const { clock, line, passed } = makeLine(plainLink, seed)
      line.trouble.flipOneBitIn = 40
      line.trouble.loseOneByteIn = 30
      for (let i = 0; i < 30; i++) line.send('to panel', bytes(20), null)
      clock.runUntil(1e9)
      return passed.map((p) => Array.from(p.arrived ?? []))
    }
    expect(run(5)).toEqual(run(5))
    expect(run(5)).not.toEqual(run(6))
    const hurt = run(5)
    expect(hurt.some((b) => b.length < 20)).toBe(true)
    expect(hurt.some((b) => b.length === 20 && b.some((x, i) => x !== i))).toBe(true)
  })
  test('a quiet line changes nothing', () => {
    const { clock, line, passed } = makeLine()
    const sent = bytes(9)
    line.send('to host', sent, null)
    clock.runUntil(1e6)
    expect(passed[0]!.arrived).toBe(sent)
  })
})
