// `npm run speed`: ratios against named references, all in one run.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildServer, installPackages, root, startPostgres } from './setup.mjs'

installPackages()
buildServer()
const run = (file, env) =>
  spawnSync(process.execPath, ['--expose-gc', '--import', 'tsx', file], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  }).status ?? 1
const home = mkdtempSync(join(tmpdir(), 'moth-lamp-speed-'))
const postgres = startPostgres(home)
try {
  process.exitCode = run('scripts/speed.ts') || run('scripts/speed-server.ts', { TEST_DATABASE_URL: postgres.url })
} finally {
  postgres.destroy()
  rmSync(home, { recursive: true, force: true })
}
