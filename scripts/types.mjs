// Type checks of every package: each exactly as it will run.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { local, root } from './setup.mjs'

// The compiler that checks: five times as fast as the one that lint and the editor know, and of the same mind.
const tsc = join(root, 'node_modules/ts7/bin/tsc')

const projects = [
  'packages/core/tsconfig.json',
  'packages/core/tsconfig.test.json',
  'packages/contract/tsconfig.json',
  'packages/server/tsconfig.json',
  'packages/web/tsconfig.json',
  'packages/web/tsconfig.test.json',
]
/** Files that passed and have not changed are skipped. */
const kept = (project) => join(local, 'types', project.replaceAll('/', '-'))
const check = (project) =>
  new Promise((resolve) => {
    const args = [tsc, '-p', project, '--incremental', '--tsBuildInfoFile', kept(project)]
    spawn(process.execPath, args, { cwd: root, stdio: 'inherit' }).on('exit', resolve)
  })
// Two at a time: the machines have two cores.
const waiting = [...projects]
const codes = []
const work = async () => {
  for (let next = waiting.shift(); next; next = waiting.shift()) codes.push(await check(next))
}
await Promise.all([work(), work()])
process.exit(codes.some((code) => code !== 0) ? 1 : 0)
