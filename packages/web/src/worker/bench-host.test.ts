import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { SimulatedHost } from '@moth-lamp/core/host'
import { Workbench } from '@moth-lamp/core/workbench'
import { demo, edited, otherDemo, widgetNamed } from '../../../core/src/testing/demo.ts'
import { withChunks } from '../testing/parts.ts'
import { BenchHost } from './bench-host.ts'
import type { PanelUpdate, FromWorker, PaintedRect } from './messages.ts'

let told: FromWorker[]
let host: BenchHost
beforeEach(() => {
  vi.useFakeTimers()
  withChunks()
  told = []
})
afterEach(() => {
  host.end()
  vi.unstubAllGlobals()
  vi.useRealTimers()
})
const opens = ({ project, assets } = demo) =>
  (host = new BenchHost({ type: 'open', project, count: 0, assets: new Map(assets), conversation: 1 }, (message) =>
    told.push(message),
  ))
const updates = () => told.filter((m): m is PanelUpdate => m.type === 'update')
/** Takes what is told as the page does, for so long. */
async function passes(ms: number) {
  for (let at = 0; at < ms; at += 20) {
    await vi.advanceTimersByTimeAsync(20)
    host.hear({ type: 'taken' })
  }
}

test('the glass is told first, all of it; what the check finds comes after; then only what is new', async () => {
  opens()
  expect(updates().map((f) => [f.painted.length, f.findings])).toEqual([[1, null]])
  expect(updates()[0]!.painted[0]!.rect).toEqual({ x: 0, y: 0, width: 800, height: 480 })
  await passes(400)
  expect(updates().find((f) => f.findings !== null)!.findings).toEqual([])
  expect(updates().at(-1)!.making).toBe(false)
  const before = updates().length
  await passes(1000)
  // The clock stands: nothing is told.
  expect(updates().length).toBe(before)
})

test('a touch that comes and goes at once still counts, and its report is in the conversation', async () => {
  opens()
  await passes(300)
  host.hear({ type: 'clock', run: true, speed: 1 })
  await passes(3000)
  const { x, y } = widgetNamed(demo.project, 'Stop shutter').place
  host.hear({ type: 'touch', phase: 'down', x: x + 5, y: y + 5 })
  host.hear({ type: 'touch', phase: 'up', x: x + 5, y: y + 5 })
  await passes(500)
  host.hear({ type: 'conversation', since: 0, events: 0, ask: 1 })
  const answer = told.findLast((m) => m.type === 'answer') as { value: { entries: { said: unknown; direction: string }[] } }
  const reports = answer.value.entries.filter(
    ({ direction, said }) => direction === 'to host' && JSON.stringify(said).includes('shutter_order'),
  )
  expect(reports.length).toBeGreaterThan(0)
})

test('an exchange runs in slices, hears that it is stopped, and has no result then; a page asked for is drawn small', async () => {
  opens(otherDemo)
  await passes(300)
  const id = otherDemo.project.exchangeOrder[0]!
  host.hear({ type: 'run exchange', id, ask: 5 })
  await passes(2000)
  const resultOf = (ask: number) => told.find((m) => m.type === 'answer' && m.ask === ask) as { value: unknown } | undefined
  expect(resultOf(5)?.value).toMatchObject({ id, passed: true })
  host.hear({ type: 'stop exchange', ask: 6 })
  host.hear({ type: 'run exchange', id, ask: 6 })
  await passes(2000)
  expect(resultOf(6)?.value).toBeNull()
  host.hear({ type: 'thumbnail', page: otherDemo.project.pageOrder[0]!, width: 64, ask: 7 })
  expect((resultOf(7)!.value as PaintedRect).rect.width).toBe(64)
  let nowMs = 0
  const clock = vi.spyOn(performance, 'now').mockImplementation(() => (nowMs += 5))
  host.hear({ type: 'glass of exchange', id, atUs: 30_000_000, ask: 8 })
  host.hear({ type: 'are you there', ask: 9 })
  // The picture takes slices: who asks after it is answered before it.
  expect([resultOf(8), resultOf(9)?.value]).toEqual([undefined, true])
  clock.mockRestore()
  await passes(2000)
  expect(resultOf(8)!.value).toMatchObject({ atUs: 30_000_000 })
})

test('a restart is another conversation; a change that does not fit is told, and the whole document mends it', async () => {
  opens()
  await passes(300)
  const before = updates().at(-1)!.conversation
  host.hear({ type: 'restart' })
  await passes(100)
  expect(updates().at(-1)!.conversation).toBe(before + 1)
  host.hear({
    type: 'change',
    patches: [{ op: 'replace', path: '/variables/variable:none/name', value: 'x' }] as never,
    count: 4,
  })
  expect(told).toContainEqual({ type: 'lost step', count: 4 })
  host.hear({ type: 'take', project: otherDemo.project, count: 5 })
  await passes(200)
  expect([updates().at(-1)!.width, updates().at(-1)!.count]).toEqual([320, 5])
})

test('a long step passes in slices, is told how far it is, hears what else is asked, and is stopped at will', async () => {
  opens()
  await passes(300)
  const before = updates().at(-1)!.nowUs
  // Ten milliseconds go by with every look at the clock.
  let clock = 0
  vi.spyOn(performance, 'now').mockImplementation(() => (clock += 10))
  host.hear({ type: 'step', us: 200_000 })
  const parts = () => updates().flatMap((f) => (f.stepping ? [f.stepping.doneUs] : []))
  for (let n = 0; n < 400 && parts().length < 3; n++) await passes(20)
  expect(parts().length).toBeGreaterThanOrEqual(3)
  host.hear({ type: 'are you there', ask: 9 })
  expect(told).toContainEqual({ type: 'answer', ask: 9, value: true })
  for (let n = 0; n < 20_000 && updates().at(-1)!.stepping; n++) await passes(20)
  expect(updates().at(-1)!.nowUs - before).toBe(200_000)
  host.hear({ type: 'step', us: 600_000_000 })
  host.hear({ type: 'stop step' })
  await passes(100)
  expect(updates().at(-1)!.stepping).toBeNull()
  expect(updates().at(-1)!.nowUs - before).toBeLessThan(600_000_000)
  vi.restoreAllMocks()
})

test('of many variables an idle panel reads and tells what is another value, and nothing else', async () => {
  const many = 1200
  let project = demo.project
  for (let k = 0; k < many; k += 300) {
    const variables = Array.from({ length: 300 }, (_, n) => ({ id: `variable:many-${k + n}`, name: `many_${k + n}` }))
    project = edited(project, 'add widgets', {
      page: project.startPage,
      after: '',
      variables,
      widgets: [{ id: `widget:many-${k}`, kind: 'label', place: { x: 0, y: 0, width: 20, height: 20 } }],
    })
  }
  opens({ ...demo, project })
  await passes(300)
  const [first] = updates()
  expect([first!.values!.all, Object.keys(first!.values!.of).length]).toEqual([true, project.variableOrder.length])
  expect([first!.host!.all, first!.host!.of.length]).toEqual([true, project.variableOrder.length])
  host.hear({ type: 'clock', run: true, speed: 1 })
  await passes(3000)
  const all = [vi.spyOn(Workbench.prototype, 'values'), vi.spyOn(SimulatedHost.prototype, 'values')]
  const before = updates().length
  await passes(2000)
  const since = updates().slice(before)
  const told = since.map((f) => Object.keys(f.values?.of ?? {}).length)
  expect(since.length).toBeGreaterThan(20)
  expect(Math.max(...told)).toBeLessThan(12)
  expect(Math.max(...since.map((f) => f.host?.of.length ?? 0))).toBeLessThan(12)
  // Nobody reads all of them.
  expect(all.map((one) => one.mock.calls.length)).toEqual([0, 0])
  for (const one of all) one.mockRestore()
})
