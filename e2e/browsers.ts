import type { TestProject } from 'vitest/node'
import { freePort, ownChromium } from './browser.ts'

declare module 'vitest' {
  interface ProvidedContext {
    /** For each that runs tests: where its Chromium listens, and the port of its servers, one after another. */
    browsers: { endpoint: string; port: number }[]
  }
}

/** A Chromium for each of those that run tests side by side, for all their files: to start one costs as much as a test. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const running = await Promise.all(
    Array.from({ length: project.vitest.config.maxWorkers }, async () => ({ ...(await ownChromium()), port: await freePort() })),
  )
  project.provide(
    'browsers',
    running.map(({ browser, port }) => ({ endpoint: browser.wsEndpoint(), port })),
  )
  return async () => void (await Promise.all(running.map(({ end }) => end())))
}
