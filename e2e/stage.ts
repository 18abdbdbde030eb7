import { afterAll, afterEach, beforeAll, beforeEach, expect, inject } from 'vitest'
import { freshDatabase } from '../packages/server/src/testing.ts'
import { Chromium, ServerProcess } from './browser.ts'

/**
 * A server on a database of its own and Chromium, for the tests of a file; no test may leave a fault in the console. `folder`:
 * where the server and the interface are built, if it is not where they are for users.
 */
export function stage(
  database: () => Promise<string> = freshDatabase,
  folder?: string,
): { server: ServerProcess; chromium: Chromium } {
  const { endpoint, port } = inject('browsers')[Number(process.env['VITEST_POOL_ID']) - 1]!
  const server = new ServerProcess(database, port, folder)
  const chromium = new Chromium()
  beforeAll(async () => {
    await server.start()
    await chromium.join(endpoint, server.url)
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
