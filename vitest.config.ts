import { availableParallelism } from 'node:os'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** What waits most comes first, and what never waits fills the cores at the end; within a project the longest first. */
class WaitingFirst extends BaseSequencer {
  private order = ['interface', 'server', 'core']

  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const longestFirst = await super.sort(files)
    return this.order.flatMap((name) => longestFirst.filter(({ project }) => project.name === name))
  }
}

/** What is waited for comes on a slow machine too: a second, the default, is two looks at a glass. */
const expect = { poll: { timeout: 40_000 } }

/** Room for what lives a moment: most of what tests make does. */
const roomy = ['--max-semi-space-size=64']

export default defineConfig({
  test: {
    // One more than there are cores: tests of the interface wait for the browser and for the clock, a fifth of their time.
    maxWorkers: Math.min(8, 1 + Math.max(2, availableParallelism())),
    // What was made of a source is kept for the next run.
    experimental: { fsModuleCache: true, fsModuleCachePath: '.local/modules' },
    sequence: { sequencer: WaitingFirst },
    projects: [
      {
        test: {
          name: 'core',
          // One world for all files of a worker: what a test registers it takes out again.
          isolate: false,
          execArgv: ['--expose-gc', ...roomy],
          include: ['packages/core/src/**/*.test.ts', 'packages/contract/src/**/*.test.ts', 'packages/web/src/**/*.test.ts'],
          testTimeout: 120_000,
          setupFiles: ['scripts/core-tests.ts'],
        },
      },
      {
        test: {
          name: 'server',
          execArgv: roomy,
          globalSetup: ['scripts/built-server.mjs'],
          include: ['packages/server/src/**/*.test.ts'],
          testTimeout: 120_000,
          expect,
          hookTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'interface',
          isolate: false,
          globalSetup: ['e2e/browsers.ts'],
          include: ['e2e/**/*.test.ts'],
          testTimeout: 240_000,
          expect,
          hookTimeout: 120_000,
        },
      },
    ],
  },
})
