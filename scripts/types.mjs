// Type checks of every package: each exactly as it will run.
import { spawnSync } from 'node:child_process'
import { bin, root } from './setup.mjs'

const projects = [
  'packages/core/tsconfig.json',
  'packages/core/tsconfig.test.json',
  'packages/contract/tsconfig.json',
  'packages/server/tsconfig.json',
  'packages/web/tsconfig.json',
  'packages/web/tsconfig.test.json',
]
let failed = 0
for (const project of projects) if (spawnSync(bin('tsc'), ['-p', project], { cwd: root, stdio: 'inherit' }).status !== 0) failed++
process.exit(failed ? 1 : 0)
