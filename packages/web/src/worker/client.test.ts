import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { demo } from '../../../core/src/testing/demo.ts'
import { NearWorker, withChunks } from '../testing/parts.ts'
import { BenchClient, WorkerPool, type WorkerState } from './client.ts'
import type { PanelUpdate } from './messages.ts'

// The page's end of the worker, with workers in this process that are well, stuck or broken.

let pool: WorkerPool
let updates: PanelUpdate[]
let states: WorkerState['is'][]
let restarts: string[]
const clients: BenchClient[] = []

beforeEach(() => {
  vi.useFakeTimers()
  withChunks()
  vi.spyOn(console, 'error').mockImplementation(() => undefined)
  NearWorker.all = []
  pool = new WorkerPool(() => new NearWorker())
  ;[updates, states, restarts] = [[], [], []]
})
afterEach(() => {
  for (const client of clients.splice(0)) client.close()
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
  vi.useRealTimers()
})

function started(): BenchClient {
  const client = new BenchClient(
    () => demo.project,
    new Map(demo.assets),
    () => 0,
    { update: (f) => updates.push(f), state: ({ is }) => states.push(is), restarted: (why) => restarts.push(why) },
    { workers: pool, nextFrame: (go) => void setTimeout(go, 16) },
  )
  clients.push(client)
  return client
}
const passes = (ms: number) => vi.advanceTimersByTimeAsync(ms)
const worker = () => NearWorker.all.at(-1)!

test('is told what there is at once, and no more than one update before the last was taken', async () => {
  const client = started()
  await passes(0)
  expect(updates.length).toBe(1)
  client.send({ type: 'look at', page: demo.project.pageOrder[0]! })
  client.send({ type: 'preview', request: { changeId: 'change:p', edit: 'set project', args: { values: { note: 'x' } } } })
  await passes(0)
  expect(updates.length).toBe(1)
  await passes(200)
  expect(updates.length).toBeGreaterThan(1)
  expect((await answered(client.thumbnail(demo.project.pageOrder[0]!, 80)))!.rect.width).toBe(80)
})
/** The answer to a question, once time has passed for it. */
async function answered<T>(asked: Promise<T>): Promise<T> {
  await passes(100)
  return asked
}

test('one that does not answer is told, then started again with the page and the clock it had; who asked hears that nothing came', async () => {
  const client = started()
  await passes(100)
  client.send({ type: 'clock', run: true, speed: 10 })
  client.send({ type: 'look at', page: 'page:x' })
  worker().stuck = true
  const asked = client.thumbnail(demo.project.pageOrder[0]!, 80)
  await passes(3_000)
  expect([states, restarts]).toEqual([['silent'], []])
  await passes(17_000)
  expect(await asked).toBeNull()
  expect([restarts.length, NearWorker.all.length, states.at(-1)]).toEqual([1, 2, 'well'])
  const told = worker().heard.map((m) =>
    m.type === 'clock' ? `clock ${m.speed}` : m.type === 'look at' ? `page ${m.page}` : m.type,
  )
  expect(told).toEqual(expect.arrayContaining(['open', 'clock 10', 'page page:x']))
})

test('one that breaks three times in a row is given up, and starts again with the next change, or when it is asked to', async () => {
  const client = started()
  await passes(100)
  for (const n of [1, 2, 3]) {
    worker().breaks(`broke ${n}`)
    await passes(10)
  }
  expect([restarts.length, states.at(-1)]).toEqual([2, 'given up'])
  // A change may be the undo of what broke it.
  client.send({ type: 'change', patches: [], count: 1 })
  await passes(100)
  expect(states.at(-1)).toBe('well')
  for (const n of [4, 5, 6]) {
    worker().breaks(`broke ${n}`)
    await passes(10)
  }
  expect(states.at(-1)).toBe('given up')
  client.startAgain()
  await passes(100)
  expect(states.at(-1)).toBe('well')
  expect(await answered(client.widthFor(Object.keys(demo.project.widgets)[0]!, 'mmm'))).not.toBeUndefined()
})

test('one that is well is handed on to the next project; one that is stuck goes with its own', async () => {
  const first = started()
  await passes(100)
  first.close()
  await passes(100)
  const second = started()
  await passes(100)
  expect(NearWorker.all.length).toBe(1)
  worker().stuck = true
  second.close()
  await passes(1_000)
  expect(NearWorker.all[0]!.ended).toBe(true)
  started()
  await passes(100)
  expect(NearWorker.all.length).toBe(2)
})

test('a step that was lost is made good by the whole document', async () => {
  const client = started()
  await passes(100)
  client.send({ type: 'change', patches: [{ op: 'replace', path: '/widgets/widget:none/name', value: 'x' }] as never, count: 3 })
  await passes(100)
  expect(worker().heard.map((m) => m.type)).toContain('take')
  expect(restarts).toEqual([])
})
