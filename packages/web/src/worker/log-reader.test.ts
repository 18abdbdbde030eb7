import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { demo } from '../../../core/src/testing/demo.ts'
import { LogDesk } from './log-desk.ts'
import { LogReader, type LogWorker } from './log-reader.ts'
import type { FromLog, LogReading, ToLog } from './messages.ts'

// The worker answers when it is told to, by the desk that a real one has.

class Made implements LogWorker {
  static all: Made[] = []
  onmessage: LogWorker['onmessage'] = null
  onerror: LogWorker['onerror'] = null
  heard: ToLog[] = []
  ended = false
  private desk = new LogDesk((data: FromLog) => this.onmessage?.({ data } as MessageEvent<FromLog>))
  constructor() {
    Made.all.push(this)
  }
  postMessage(message: ToLog) {
    this.heard.push(structuredClone(message))
  }
  terminate() {
    this.ended = true
  }
  answers() {
    this.desk.hear(this.heard.shift()!)
  }
}

const { project } = demo
const good = '7E 51 12 00 06 09 97 82 7E'
let came: (LogReading | null)[] = []
let failed: string[] = []
const reader = () =>
  new LogReader(
    (reading) => came.push(reading),
    (why) => failed.push(why),
    () => new Made(),
  )
const wanted = (text: string) => ({ project, text, as: undefined })

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance'] })
  Made.all = []
  came = []
  failed = []
})
afterEach(() => vi.useRealTimers())

test('a log is read, as much of it given as is looked at, and more when it is asked for', () => {
  const r = reader()
  r.read(wanted(Array(5).fill(good).join('\n')), 2)
  Made.all[0]!.answers()
  expect([came[0]!.good, came[0]!.of, came[0]!.parts.length]).toEqual([5, 5, 2])
  r.more(4)
  Made.all[0]!.answers()
  expect([came[1]!.of, came[1]!.parts.map(({ line }) => line)]).toEqual([5, [1, 2, 3, 4]])
})

test('while a short one is being read the last that was typed waits, and is the one that is answered', () => {
  const r = reader()
  for (const text of ['7E', '7E 51', good]) r.read(wanted(text), 9)
  const [worker] = Made.all
  expect([Made.all.length, worker!.heard.length]).toEqual([1, 1])
  worker!.answers()
  expect(came).toEqual([])
  worker!.answers()
  expect([came.length, came[0]!.good]).toEqual([1, 1])
})

test('one that is read for long is ended for another, and what it says afterwards counts no more', () => {
  const r = reader()
  r.read(wanted('7E '.repeat(1000)), 9)
  vi.advanceTimersByTime(1000)
  r.read(wanted(good), 9)
  const [first, second] = Made.all
  expect([first!.ended, second!.ended]).toEqual([true, false])
  first!.answers()
  expect(came).toEqual([])
  second!.answers()
  expect(came[0]!.good).toBe(1)
})

test('a worker that ends is told, and the next text has another', () => {
  const r = reader()
  r.read(wanted(good), 9)
  Made.all[0]!.onerror!({ message: 'out of memory' } as ErrorEvent)
  expect(failed).toEqual(['out of memory'])
  r.read(wanted(good), 9)
  Made.all[1]!.answers()
  expect(came[0]!.good).toBe(1)
})
