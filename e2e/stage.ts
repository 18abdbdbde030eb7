import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest'
import { freshDatabase } from '../packages/server/src/testing.ts'
import { Chromium, ServerProcess } from './browser.ts'

/** A server on a database of its own and Chromium, for the tests of a file; no test may leave a fault in the console. */
export function stage(database: () => Promise<string> = freshDatabase): { server: ServerProcess; chromium: Chromium } {
  const server = new ServerProcess(database)
  const chromium = new Chromium()
  beforeAll(async () => {
    await server.start()
    await chromium.start()
  })
  afterAll(async () => {
    await chromium.stop()
    await server.stop()
  })
  beforeEach(() => chromium.testBegins())
  afterEach(async () => {
    await chromium.testEnds()
    expect(chromium.faults.join('\n')).toBe('')
  })
  return { server, chromium }
}
