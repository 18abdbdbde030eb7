/* global AbortSignal, setInterval */
// `npm start`: everything from a bare clone to a served page, and a clean stop on Ctrl-C. Started twice, the second says
// where the first is; on another port, both use one database. Whoever dies how: nothing stays behind.
import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { alone, build, installPackages, installPrograms, local, root, startPostgres } from './setup.mjs'

const port = Number(process.env.PORT || 4600)
if (!Number.isInteger(port) || port < 1 || port > 65535) {
  console.error(`PORT is “${process.env.PORT}”: a number from 1 to 65535 is wanted, as in PORT=4601 npm start`)
  process.exit(64)
}

/** Server on our port: one of our kind says so. */
async function whoIsThere() {
  try {
    const answer = await fetch(`http://127.0.0.1:${port}/api/health`, { signal: AbortSignal.timeout(2000) })
    const said = await answer.json()
    return said.app === 'Moth Lamp' ? said : null
  } catch {
    return null
  }
}
const there = await whoIsThere()
if (there) {
  console.log(
    `Moth Lamp is already at http://127.0.0.1:${port} (process ${there.pid}, started from ${there.root}). Nothing was started.`,
  )
  console.log('For another one beside it: PORT=4601 npm start')
  process.exit(0)
}

alone(() => {
  installPackages()
  installPrograms({ chromium: false })
  build()
})
const postgres = process.env.DATABASE_URL
  ? null
  : startPostgres(process.env.MOTH_LAMP_PG || join(local, 'pg'), { joining: process.pid })

let stopping = false
let server = null
let served = false
/** When it had to be started again, ms; more often than so many times a minute is no accident. */
let fallsMs = []
const mostFalls = 5

function serve() {
  // The channel tells the server when this process is gone, however it went.
  server = spawn(process.execPath, [join(root, 'packages/server/dist/main.js')], {
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: {
      ...process.env,
      PORT: String(port),
      DATABASE_URL: process.env.DATABASE_URL || postgres.url,
      MOTH_LAMP_ROOT: root,
      NODE_ENV: 'production',
    },
  })
  server.on('message', () => (served = true))
  server.on('exit', (code, signal) => {
    fallsMs = [...fallsMs.filter((ms) => Date.now() - ms < 60_000), Date.now()]
    if (served && !stopping && fallsMs.length <= mostFalls) {
      console.error(`The server ended (${signal ?? `code ${code}`}); it is started again. Nothing that was saved is lost.`)
      return setTimeout(() => (stopping ? end(0) : serve()), 300 * fallsMs.length)
    }
    if (served && !stopping) console.error(`The server ended ${fallsMs.length} times within a minute; it is not started again.`)
    end(stopping ? 0 : (code ?? 1))
  })
}
serve()
function end(code) {
  postgres?.leave()
  process.exit(code)
}
function stop() {
  if (stopping) return
  stopping = true
  server.kill('SIGTERM')
  // One that does not end by itself is ended.
  setTimeout(() => server.kill('SIGKILL'), 10_000).unref()
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, stop)

// npm passes no signal on to what it started: so its going is noticed.
const parentOf = (pid) => {
  try {
    return Number(
      readFileSync(`/proc/${pid}/stat`, 'utf8')
        .replace(/^.*\) /, '')
        .split(' ')[1],
    )
  } catch {
    return 0
  }
}
if (process.env.npm_lifecycle_event === 'start') {
  const [shell, npm] = [process.ppid, parentOf(process.ppid)]
  setInterval(() => (process.ppid !== shell || parentOf(shell) !== npm) && stop(), 500)
}

// A database that someone stopped is started again; the server comes back to it by itself.
let missed = 0
if (postgres)
  setInterval(() => {
    missed = stopping || postgres.isUp() ? 0 : missed + 1
    if (missed < 2) return
    missed = 0
    console.log('The database has stopped; it is started again.')
    if (!postgres.again()) stop()
  }, 3000)
