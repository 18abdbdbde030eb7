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
const expect = { poll: { timeout: Number(process.env['PATIENCE'] ?? 120_000) } }

/** Room for what lives a moment: most of what tests make does. */
const roomy = ['--max-semi-space-size=64']

/**
 * Everything, or what a change is likely to break: files called `….all.test.ts` are left to `npm run test:all`. A file that is named
 * on the command line is run by TESTS=all whatever it is called.
 */
const isAll = process.env['TESTS'] === 'all'
const tests = (...folders: string[]) => ({
  include: folders.map((folder) => `${folder}/**/*.test.{ts,tsx}`),
  exclude: ['**/node_modules/**', ...(isAll ? [] : ['**/*.all.test.{ts,tsx}'])],
})

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
          ...tests('packages/core/src', 'packages/contract/src', 'packages/web/src'),
          testTimeout: 600_000,
          setupFiles: ['scripts/core-tests.ts'],
        },
      },
      {
        test: {
          name: 'server',
          execArgv: roomy,
          globalSetup: ['scripts/built-server.mjs'],
          ...tests('packages/server/src'),
          testTimeout: 600_000,
          expect,
          hookTimeout: 300_000,
        },
      },
      {
        test: {
          name: 'interface',
          isolate: false,
          globalSetup: ['e2e/browsers.ts'],
          ...tests('e2e'),
          testTimeout: 600_000,
          expect,
          hookTimeout: 600_000,
        },
      },
    ],
  },
})
