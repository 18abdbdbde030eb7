// `npm run speed`: ratios against named references, all in one run.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build, installPackages, installPrograms, root, startPostgres } from './setup.mjs'

installPackages()
installPrograms({ chromium: true })
build()
const run = (file, env) =>
  spawnSync(process.execPath, ['--expose-gc', '--import', 'tsx', file], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  }).status ?? 1
const home = mkdtempSync(join(tmpdir(), 'moth-lamp-speed-'))
const postgres = startPostgres(home)
try {
  const database = { TEST_DATABASE_URL: postgres.url }
  process.exitCode =
    run('scripts/speed.ts') ||
    run('scripts/speed-pictures.ts') ||
    run('scripts/speed-server.ts', database) ||
    run('scripts/speed-desk.ts', database)
} finally {
  postgres.destroy()
  rmSync(home, { recursive: true, force: true })
}
