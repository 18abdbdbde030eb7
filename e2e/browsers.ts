import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { freePort, launchChromium } from './browser.ts'

declare module 'vitest' {
  interface ProvidedContext {
    /** For each that runs tests: where its Chromium listens, and the port of its servers, one after another. */
    browsers: { endpoint: string; port: number }[]
  }
}

/** A Chromium for each of those that run tests side by side, for all their files: to start one costs as much as a test. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const running = await Promise.all(
    Array.from({ length: project.vitest.config.maxWorkers }, async () => {
      const profile = mkdtempSync(join(tmpdir(), 'moth-lamp-chromium-'))
      return { profile, browser: await launchChromium(profile), port: await freePort() }
    }),
  )
  project.provide(
    'browsers',
    running.map(({ browser, port }) => ({ endpoint: browser.wsEndpoint(), port })),
  )
  return async () => {
    for (const { browser, profile } of running) {
      await browser.close()
      rmSync(profile, { recursive: true, force: true, maxRetries: 5 })
    }
  }
}
