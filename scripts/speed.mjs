// `npm run speed`: ratios against named references, all in one run.
import { spawnSync } from 'node:child_process'
import { bin, installPackages, root } from './setup.mjs'

installPackages()
process.exit(spawnSync(bin('tsx'), ['scripts/speed.ts'], { cwd: root, stdio: 'inherit' }).status ?? 1)
