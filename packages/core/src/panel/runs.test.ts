import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { flags, Job, whole } from '../testing/job.ts'
import type { Cause, Doer } from './doer.ts'

// The law of a run: it reads its own writes; then memory, the glass, one report a cell, and what comes of it, in its order.

const names = ['a', 'b', 'c'] as const
type Name = (typeof names)[number]
type Line = { action: string; with: Record<string, unknown> }
const at: Record<Name, number> = { a: 0x20, b: 0x21, c: 0x22 }
const set = (name: Name, to: unknown): Line => ({ action: 'set', with: { variable: `variable:${name}`, to } })

/** Three values, a page two that on opening copies the first into `seen`, and a key that does some lines. */
function made(lines: Line[], more: (job: Job) => Job = (job) => job): Job {
  const job = new Job()
  for (const name of names) job.variable(name, whole(0, 999), { address: at[name] })
  job.variable('bits', flags('one', 'two', 'three'), { address: 0x30 }).variable('seen', whole(0, 999), { address: 0x31 })
  job.page('two')
  job.edit('set page', {
    id: 'page:two',
    values: {
      rules: [
        {
          on: { moment: 'opened', everyMs: 0 },
          lines: [{ action: 'set', with: { variable: 'variable:seen', to: { follows: 'variable:a' } } }],
        },
      ],
    },
  })
  job.widget('button', 'go', [0, 0, 100, 60], { rules: [{ on: { moment: 'pressed', everyMs: 0 }, lines }] })
  return more(job).wait(400)
}

/** A line that chance makes, and what it makes of three values. */
const chance = fc.oneof(
  fc.record({ is: fc.constant('set' as const), name: fc.constantFrom(...names), to: fc.integer({ min: 0, max: 999 }) }),
  fc.record({ is: fc.constant('step' as const), name: fc.constantFrom(...names), by: fc.integer({ min: -30, max: 30 }) }),
  fc.record({ is: fc.constant('copy' as const), name: fc.constantFrom(...names), from: fc.constantFrom(...names) }),
  fc.record({ is: fc.constant('page' as const) }),
)
type Chance = typeof chance extends fc.Arbitrary<infer T> ? T : never
const lineOf = (one: Chance): Line =>
  one.is === 'set'
    ? set(one.name, one.to)
    : one.is === 'copy'
      ? set(one.name, { follows: `variable:${one.from}` })
      : one.is === 'step'
        ? { action: 'step', with: { variable: `variable:${one.name}`, by: one.by, atEnd: 'stop' } }
        : { action: 'go to page', with: { page: 'page:two' } }

describe('a run of a touch', () => {
  test('reads its own writes, tells each cell once, as it stands at the end, and then does what comes of it', () => {
    fc.assert(
      fc.property(fc.array(chance, { minLength: 1, maxLength: 8 }), (lines) => {
        const now: Record<Name, number> = { a: 0, b: 0, c: 0 }
        const order: Name[] = []
        for (const one of lines) {
          if (one.is === 'page') continue
          const next = one.is === 'set' ? one.to : one.is === 'copy' ? now[one.from] : now[one.name] + one.by
          now[one.name] = Math.min(999, Math.max(0, next))
          order.splice(0, order.length, ...order.filter((name) => name !== one.name), one.name)
        }
        const job = made(lines.map(lineOf))
        const since = job.mark
        job.press('go').wait(200)
        expect(Object.fromEntries(names.map((name) => [name, job.value(name)]))).toEqual(now)
        const opens = lines.some(({ is }) => is === 'page')
        const told = order.map((name) => [at[name], now[name]])
        // The page that opens sees the end of the run; it tells only of what it makes another value.
        const seen = opens && now.a !== 0 ? [[0x31, now.a]] : []
        expect(job.reports(since)).toEqual([...told, ...seen])
        expect([job.page_, job.value('seen')]).toEqual(opens ? ['two', now.a] : ['Page 1', 0])
      }),
      { numRuns: 60 },
    )
  })
  test('a page that opens first in a run sees what the run sets after it', () => {
    const job = made([{ action: 'go to page', with: { page: 'page:two' } }, set('a', 7)])
    expect([job.press('go').wait(100).value('seen'), job.page_]).toEqual([7, 'two'])
  })
  test('bits of one word leave both in one report, and a value that stands there already is told all the same', () => {
    const bits = (mask: number): Line => ({ action: 'set bits', with: { variable: 'variable:bits', mask } })
    const job = made([bits(1), bits(4), set('b', 0)])
    const since = job.mark
    job.press('go').wait(100)
    expect(job.reports(since)).toEqual([
      [0x30, 5],
      [0x21, 0],
    ])
  })
})

test('what time does by itself is told only where it makes another value', () => {
  const job = made([], (one) =>
    one.edit('set conduct', {
      values: { rules: [{ on: { moment: 'time', everyMs: 100 }, lines: [set('b', { follows: 'variable:a' })] }] },
    }),
  )
  const since = job.mark
  expect(job.wait(1000).reports(since)).toEqual([])
  job.host('a', 5).wait(1000)
  expect(job.reports(since)).toEqual([[0x21, 5]])
})

test('a run knows what it came of: a page that a touch opens, one that the host opens', () => {
  const job = made([{ action: 'go to page', with: { page: 'page:two' } }])
  const { panel } = job.bench.rig
  const { doer } = panel as unknown as { doer: Doer }
  const seen: string[] = []
  const said = (cause: Cause): string[] => (cause ? [cause.by, ...('cause' in cause ? said(cause.cause) : [])] : [])
  const run = doer.run.bind(doer)
  doer.run = (origin, what) =>
    run(origin, (world) => {
      seen.push(said(doer.causes).join(' of '))
      what(world)
    })
  job.press('go').wait(100)
  expect(seen.splice(0)).toEqual(['touch', 'page of touch'])
  panel.memory.setOwn('page', 1)
  const { ownFrom } = panel.build.header.memory
  const frame = panel['protocol'].encode('to panel', { operation: 'write', sequence: 3, address: ownFrom, payload: [2, 0] })
  job.bench.sendRaw('to panel', frame.ok ? frame.value : new Uint8Array())
  job.wait(100)
  expect(seen).toEqual(['page of host'])
})
