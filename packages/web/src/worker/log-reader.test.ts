import { beforeEach, expect, test } from 'vitest'
import { demo } from '../../../core/src/testing/demo.ts'
import type { LogPart } from '@moth-lamp/core/explain'
import { LogDesk } from './log-desk.ts'
import { LogReader, type LogWorker } from './log-reader.ts'
import type { FromLog, LogReading, LogView, ToLog } from './messages.ts'

// The worker answers when it is told to, by the desk that a real one has.

class Made implements LogWorker {
  static all: Made[] = []
  onmessage: LogWorker['onmessage'] = null
  onerror: LogWorker['onerror'] = null
  heard: ToLog[] = []
  ended = false
  private later: (() => void)[] = []
  private desk = new LogDesk(
    (data: FromLog) => this.onmessage?.({ data } as MessageEvent<FromLog>),
    (run) => void this.later.push(run),
  )
  constructor() {
    Made.all.push(this)
  }
  postMessage(message: ToLog) {
    this.heard.push(structuredClone(message))
  }
  terminate() {
    this.ended = true
  }
  /** Hears all that it was told, and does its work to the end, or one step of it. */
  answers(steps = Infinity) {
    for (const message of this.heard.splice(0)) this.desk.hear(message)
    for (let k = 0; k < steps && this.later.length; k++) this.later.shift()!()
  }
}

const { project } = demo
const good = '7E 51 12 00 06 09 97 82 7E'
const wrong = '7E 51 12 00 06 09 97 83 7E'
let came: (LogReading & { parts: readonly LogPart[] })[] = []
let next: (number | null)[] = []
let failed: string[] = []
let verdicts: unknown[] = []
const reader = () =>
  new LogReader(
    {
      // Null: the rows are those of before.
      came: (reading) => came.push({ ...reading!, parts: reading!.parts ?? came.at(-1)!.parts }),
      nextWrong: (at) => next.push(at),
      judged: (exchange, judged) => verdicts.push([exchange, judged?.passed]),
      failed: (why) => failed.push(why),
    },
    () => new Made(),
  )
const wanted = (text: string) => ({ project, text, as: null })
const view = (from: number, count: number, filter: Partial<LogView['filter']> = {}): LogView => ({
  from,
  count,
  filter: { direction: null, isWrong: false, text: '', ...filter },
})

beforeEach(() => {
  Made.all = []
  came = []
  next = []
  failed = []
  verdicts = []
})

test('a log is read, as much of it given as is looked at, and more when it is asked for', () => {
  const r = reader()
  r.read(wanted(Array(5).fill(good).join('\n')), view(0, 2))
  Made.all[0]!.answers()
  expect([came.at(-1)!.good, came.at(-1)!.passing, came.at(-1)!.parts.length, came.at(-1)!.share]).toEqual([5, 5, 2, 1])
  r.look(view(2, 4))
  Made.all[0]!.answers()
  expect([came.at(-1)!.from, came.at(-1)!.parts.map(({ line }) => line)]).toEqual([2, [3, 4, 5]])
})

test('a filter lets through what it names, and the next that is wrong is found, round and round', () => {
  const r = reader()
  const target = good
  const humidity = '7E 51 33 00 47 00 5D 20 7E'
  r.read(wanted([target, wrong, target, humidity, wrong].join('\n')), view(0, 9))
  r.look(view(0, 9, { text: 'dome_target' }))
  Made.all[0]!.answers()
  expect(came.at(-1)!.parts.map(({ line }) => line)).toEqual([1, 3])
  r.look(view(0, 9, { isWrong: true }))
  Made.all[0]!.answers()
  expect(came.at(-1)!.parts.map(({ good: isGood }) => isGood)).not.toContain(true)
  r.look(view(0, 9, { text: '06 09 97' }))
  Made.all[0]!.answers()
  expect(came.at(-1)!.passing).toBe(4)
  r.look(view(0, 9))
  for (const from of [0, 2, 5]) r.nextWrong(from)
  Made.all[0]!.answers()
  expect([next[0], next[2]]).toEqual([1, 1])
  expect(next[1]).toBeGreaterThan(1)
})

test('only what was asked for last is answered', () => {
  const r = reader()
  for (const text of ['7E', '7E 51', good]) r.read(wanted(text), view(0, 9))
  Made.all[0]!.answers()
  expect(came.map((reading) => reading.good)).toEqual([1])
})

test('a long one is looked at while it is read, and ended at once for another', () => {
  const r = reader()
  const long = Array(30_000).fill(good).join('\n')
  r.read(wanted(long), view(0, 3))
  Made.all[0]!.answers(1)
  expect(came[0]!.parts.length).toBe(3)
  expect(came[0]!.share).toBeLessThan(1)
  r.look(view(5, 2))
  Made.all[0]!.answers(0)
  expect(came.at(-1)!.parts.map(({ line }) => line)).toEqual([6, 7])
  r.stop()
  Made.all[0]!.answers()
  expect([came.at(-1)!.isDone, came.at(-1)!.share < 1]).toEqual([true, true])
  r.read(wanted(good), view(0, 9))
  expect(Made.all.map(({ ended }) => ended)).toEqual([true, false])
  Made.all[0]!.answers()
  const before = came.length
  Made.all[1]!.answers()
  expect(came.slice(before).map((reading) => reading.good)).toEqual([1])
})

test('a worker that ends is told, and the next text has another', () => {
  const r = reader()
  r.read(wanted(good), view(0, 9))
  Made.all[0]!.onerror!({ message: 'out of memory' } as ErrorEvent)
  expect(failed).toEqual(['out of memory'])
  r.read(wanted(good), view(0, 9))
  Made.all[1]!.answers()
  expect(came[0]!.good).toBe(1)
})

test('an exchange is judged once the log is read, and none that is gone', () => {
  const r = reader()
  r.read(wanted(good), view(0, 9))
  const [id] = project.exchangeOrder
  r.judge(project, id!)
  r.judge(project, 'exchange:gone')
  Made.all[0]!.answers()
  r.judge(project, id!)
  Made.all[0]!.answers()
  expect(verdicts.at(-1)).toEqual([id, false])
})
