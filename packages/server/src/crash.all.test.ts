import { afterAll, beforeAll, expect, test } from 'vitest'
import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { currentForm } from '@moth-lamp/core/project'
import type { OpenedProject, SaveAnswer } from '@moth-lamp/contract'
import { serverForTest } from './testing.ts'
import type { Running } from './server.ts'

/** A port nobody listens on, from there up. */
async function freePort(from: number): Promise<number> {
  const free = await new Promise<boolean>((resolve) => {
    const probe = createServer().once('error', () => resolve(false))
    probe.listen(from, '127.0.0.1', () => probe.close(() => resolve(true)))
  })
  return free ? from : freePort(from + 1)
}

// A PostgreSQL of its own, since it is killed again and again.
const home = mkdtempSync(join(tmpdir(), 'moth-lamp-crash-'))
const script = new URL('../../../scripts/pg', import.meta.url).pathname
const env = {
  ...process.env,
  PGHOME: home,
  PGPORT_APP: String(await freePort(17_000 + (process.pid % 9000))),
  PGDB: 'crash',
  PGFSYNC: 'on',
}
const pg = (command: string) =>
  execFileSync(script, [command], { env, encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }).trim()

const kill = () => {
  const pid = readFileSync(join(home, 'data/postmaster.pid'), 'utf8').split('\n')[0]!
  // The postmaster and its children, as when the power of the machine goes.
  spawnSync('sh', ['-c', `kill -9 ${pid} $(cat /proc/${pid}/task/${pid}/children)`])
}

let running: Running
let strike: (() => void) | null = null

beforeAll(async () => {
  const url = pg('start')
  running = await serverForTest({ databaseUrl: url, demos: [], hooks: { beforeCommit: async () => strike?.() } })
})
afterAll(async () => {
  await running.stop()
  pg('destroy')
  rmSync(home, { recursive: true, force: true })
})

const url = (path: string) => `http://127.0.0.1:${running.port}/api/projects${path}`
const post = (path: string, body: unknown) =>
  fetch(url(path), { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })

test('killed -9 between request and commit, 20 times: exactly the acknowledged revisions are there', async () => {
  const { id } = (await (await post('', { name: 'Crash', width: 320, height: 240, diagonalInches: 3 })).json()) as { id: string }
  let base = 0
  const acknowledged: string[] = []
  for (let round = 0; round < 20; round++) {
    const changes = [
      { changeId: `change:r${round}`, edit: 'add variable', args: { id: `variable:r${round}`, name: `r${round}` } },
    ]
    strike = kill
    const lost = await post(`/${id}/changes`, { form: currentForm, base, changes })
    expect([lost.status, ((await lost.json()) as { code: string }).code]).toEqual([503, 'api.database-away'])
    strike = null
    const away = await fetch(url(''))
    expect(away.status).toBe(503)
    await away.arrayBuffer()
    pg('start')
    const opened = (await (await fetch(url(`/${id}`))).json()) as OpenedProject
    expect([opened.revision, Object.keys(opened.project.variables).sort()]).toEqual([
      acknowledged.length,
      [...acknowledged].sort(),
    ])
    const answer = (await (await post(`/${id}/changes`, { form: currentForm, base, changes })).json()) as SaveAnswer
    expect(answer).toEqual({ outcome: 'saved', revision: base + 1 })
    base++
    acknowledged.push(`variable:r${round}`)
  }
  const { project } = (await (await fetch(url(`/${id}`))).json()) as OpenedProject
  expect(
    Object.values(project.variables)
      .map((v) => v.address)
      .sort((a, b) => a - b),
  ).toEqual(Array.from({ length: 20 }, (_, i) => 16 + i))
}, 1_800_000)
