import { afterAll, beforeAll, test } from 'vitest'
import { serverForTest } from './testing.ts'
import { interleavings, onTwoServers } from './testing-windows.ts'
import type { Running } from './server.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest({ demos: [] })))
afterAll(() => running.stop())

test('12 seeded interleavings of two windows, with delays, lost and repeated answers, end with one document', async () =>
  void (await interleavings(running, 12)))
test('60 interleaved edits by windows on two servers: one document, and each hears of the other’s commits', () =>
  onTwoServers(running, 60))
