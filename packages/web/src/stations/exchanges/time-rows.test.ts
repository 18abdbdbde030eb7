import { describe, expect, test } from 'vitest'
import type { WireEntry } from '../../worker/messages.ts'
import { framesOf, placeInTime, type Item } from './time-rows.ts'

const frame = (id: number, us: number, change: Partial<WireEntry> = {}): WireEntry =>
  ({
    id,
    kind: 'frame',
    direction: 'to panel',
    fromUs: us,
    toUs: us + 5000,
    answers: null,
    answeredBy: null,
    message: { operation: 'write' },
    ...change,
  }) as WireEntry

describe('a run as rows', () => {
  const step = (id: string, atUs: number, height = 40): Item => ({ kind: 'step', key: id, id, atUs, height })
  test('time goes down, and no two steps cover one another', () => {
    const { items, height } = placeInTime([step('b', 20_000), step('a', 10_000, 70), step('c', 21_000)])
    const steps = items.filter((i) => i.kind === 'step')
    expect(steps.map((s) => s.key)).toEqual(['a', 'b', 'c'])
    for (const [i, s] of steps.entries()) {
      const next = steps[i + 1]
      expect(s.y + s.height).toBeLessThanOrEqual(next ? next.y : height)
    }
  })
  test('a long pause is a break, not a long way', () => {
    const { breaks, items } = placeInTime([step('a', 0, 20), step('b', 60_000_000, 20)])
    expect(breaks).toEqual([{ y: expect.any(Number), us: 60_000_000 }])
    expect(items[1]!.y).toBeLessThan(120)
  })
  test('a moment between two things stands between them', () => {
    const rows = placeInTime([step('a', 0, 20), step('b', 100_000, 20)])
    const y = rows.yOf(50_000)
    expect(y).toBeGreaterThan(rows.items[0]!.y)
    expect(y).toBeLessThan(rows.items[1]!.y)
  })
})

describe('the frames of a run', () => {
  const many = Array.from({ length: 9 }, (_, i) => frame(i + 1, i * 200_000))
  test('what only goes on is folded, what matters stands alone, and nothing is lost', () => {
    const items = framesOf(many, [], (e) => e.id === 5, new Set())
    expect(items.map((i) => i.kind)).toEqual(['folded', 'frame', 'folded'])
    const seen = items.flatMap((i) => (i.kind === 'folded' ? i.entries.map((e) => e.id) : i.kind === 'frame' ? [i.entry.id] : []))
    expect(seen).toEqual(many.map((e) => e.id))
  })
  test('a fold that was opened shows its frames', () => {
    expect(framesOf(many, [], () => false, new Set(['folded 1'])).length).toBe(9)
  })
  test('an answer stands with what it answers', () => {
    const asked = frame(1, 0, { answeredBy: 2 })
    const done = frame(2, 9000, { direction: 'to host', answers: 1, message: { operation: 'done' } as never })
    const items = framesOf([asked, done], [], () => true, new Set())
    expect(items).toMatchObject([{ kind: 'frame', entry: { id: 1 }, answer: { id: 2 } }])
  })
  test('a touch keeps what came before it apart from what came after', () => {
    const touch = { id: 1, atUs: 700_000, of: 'to host' as const, what: 'touched' as const, words: '' }
    expect(framesOf(many, [touch], () => false, new Set()).map((i) => i.kind)).toEqual(['mark', 'folded', 'folded'])
  })
})
