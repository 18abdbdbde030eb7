import { afterAll, beforeAll, expect, test } from 'vitest'
import { serverForTest } from './testing.ts'
import { interleavings, onTwoServers } from './testing-windows.ts'
import type { Running } from './server.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest({ demos: [] })))
afterAll(() => running.stop())

test(
  '200 seeded interleavings of two windows, with delays, lost and repeated answers, end with one document',
  async () => expect(await interleavings(running, 200)).toBeGreaterThan(0),
  2_400_000,
)
test(
  '500 interleaved edits by windows on two servers: one document, and each hears of the other’s commits',
  () => onTwoServers(running, 500),
  2_400_000,
)
