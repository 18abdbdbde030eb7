import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { chunkKey, type LetterRequest } from '@moth-lamp/core/artwork'
import { good, type Result } from '@moth-lamp/core/base'
import { ChunkMaker } from './chunk-maker.ts'
import type { ToChunks } from './messages.ts'

// The worker is one that answers when it is told to, with the files that it had when it was asked.

class Made {
  static all: Made[] = []
  onmessage: (event: { data: unknown }) => void = () => undefined
  files: string[] = []
  asked: { key: string; files: string[] }[] = []
  stopped = false
  constructor() {
    Made.all.push(this)
  }
  postMessage(message: ToChunks) {
    if (message.type === 'asset') this.files.push(message.sha)
    else this.asked.push({ key: message.key, files: [...this.files] })
  }
  terminate() {
    this.stopped = true
  }
  answers() {
    const { key, files } = this.asked.shift()!
    this.onmessage({ data: { key, made: good(files.join()) } })
  }
}

const request: LetterRequest = {
  make: 'letters',
  asset: 'face',
  fallbacks: ['other'],
  px: 20,
  weight: 0,
  bits: 8,
  kerns: false,
  letters: 'ab',
}
const file = new Uint8Array(1)
let told: (readonly [string, Result<unknown>])[] = []
let maker: ChunkMaker
const worker = () => Made.all.at(-1)!
/** Whether it is kept is known a moment later. */
const asks = async (...requests: LetterRequest[]) => {
  maker.make(requests)
  await Promise.resolve().then(() => undefined)
  await Promise.resolve()
}

beforeEach(() => {
  vi.useFakeTimers()
  vi.stubGlobal('Worker', Made)
  Made.all = []
  told = []
  maker = new ChunkMaker((came) => void told.push(...came))
  maker.asset('face', file)
})
afterEach(() => {
  maker.close()
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

test('what was made without a file that comes while it is made is not told, but made again with it', async () => {
  await asks(request)
  maker.asset('other', file)
  worker().answers()
  expect(told).toEqual([])
  expect(maker.isIdle).toBe(false)
  worker().answers()
  expect(told).toEqual([[chunkKey(request), good('face,other')]])
  expect(maker.isIdle).toBe(true)
})

test('what was made without a file is told, and once more when the file has come', async () => {
  await asks(request)
  worker().answers()
  expect(told).toEqual([[chunkKey(request), good('face')]])
  maker.asset('other', file)
  worker().answers()
  expect(told.at(-1)).toEqual([chunkKey(request), good('face,other')])
  maker.asset('a third', file)
  expect(worker().asked).toEqual([])
})

test('what takes too long is tried once more after the others, with more time, and then given up in words', async () => {
  const next = { ...request, letters: 'c' }
  await asks(request, next)
  const first = worker()
  vi.advanceTimersByTime(5_000)
  expect([first.stopped, told]).toEqual([true, []])
  expect(worker().asked.map(({ key }) => key)).toEqual([chunkKey(next)])
  worker().answers()
  expect(told.map(([key]) => key)).toEqual([chunkKey(next)])
  vi.advanceTimersByTime(14_999)
  expect(told.length).toBe(1)
  vi.advanceTimersByTime(1)
  const [key, made] = told[1]!
  expect(key).toBe(chunkKey(request))
  expect(made).toMatchObject({
    ok: false,
    problem: { code: 'chunk.slow', facts: { reason: expect.stringContaining('15 s') as string } },
  })
  expect(maker.isIdle).toBe(true)
})
