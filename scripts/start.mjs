// `npm start`: everything from a bare clone to a served page, and a clean stop on Ctrl-C.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { build, installPackages, installPrograms, local, root, startPostgres } from './setup.mjs'

installPackages()
installPrograms({ chromium: false })
build()
const postgres = process.env.DATABASE_URL ? null : await startPostgres(process.env.MOTH_LAMP_PG ?? join(local, 'pg'))
const server = spawn(process.execPath, [join(root, 'packages/server/dist/main.js')], {
  stdio: 'inherit',
  env: { ...process.env, DATABASE_URL: process.env.DATABASE_URL ?? postgres.url, MOTH_LAMP_ROOT: root, NODE_ENV: 'production' },
})
let stopping = false
const stop = (signal) => {
  if (stopping) return
  stopping = true
  server.kill(signal === 'SIGINT' ? 'SIGTERM' : signal)
}
process.on('SIGINT', () => stop('SIGINT'))
process.on('SIGTERM', () => stop('SIGTERM'))
process.on('SIGHUP', () => stop('SIGTERM'))
server.on('exit', (code) => {
  postgres?.stop()
  process.exit(stopping ? 0 : (code ?? 1))
})
