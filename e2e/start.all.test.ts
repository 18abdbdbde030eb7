import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { createServer } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, test } from 'vitest'
import { root } from './browser.ts'

// `npm start` as a person has it, with a database folder of its own; the processes are found by that folder's name.
const home = mkdtempSync(join(tmpdir(), 'moth-lamp-start-'))
const from = 20_000 + (process.pid % 8000)
const started: ChildProcess[] = []
afterAll(() => {
  for (const child of started) if (child.pid) spawnSync('pkill', ['-9', '-g', String(child.pid)])
  spawnSync(join(root, 'scripts/pg'), ['destroy'], { env: { ...process.env, PGHOME: home } })
  rmSync(home, { recursive: true, force: true })
})

const env = (port: number) => ({ ...process.env, PORT: String(port), MOTH_LAMP_PG: home, DATABASE_URL: '' })
const answers = async (port: number) =>
  fetch(`http://127.0.0.1:${port}/api/health`)
    .then(async (r) => (await r.json()) as { pid: number; app: string })
    .catch(() => null)

/** Starts it in a process group of its own; what it has said so far comes with it. */
function begin(port: number): { child: ChildProcess; said: () => string } {
  const child = spawn('npm', ['start'], { cwd: root, env: env(port), detached: true, stdio: ['ignore', 'pipe', 'pipe'] })
  started.push(child)
  let text = ''
  for (const stream of [child.stdout!, child.stderr!]) stream.on('data', (data: Buffer) => (text += String(data)))
  return { child, said: () => text }
}
const serving = (port: number) =>
  expect.poll(() => answers(port), { timeout: 300_000, interval: 100 }).toMatchObject({ app: 'Moth Lamp' })

/** Everything that runs for this folder: starters, servers, the database, whoever watches it. */
function left(): string[] {
  return readdirSync('/proc').flatMap((pid) => {
    if (!/^\d+$/.test(pid) || Number(pid) === process.pid) return []
    try {
      const args = readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ')
      const mine = args.includes(home) || readFileSync(`/proc/${pid}/environ`, 'utf8').includes(`MOTH_LAMP_PG=${home}`)
      return mine && args ? [args.slice(0, 100)] : []
    } catch {
      return []
    }
  })
}
const nothingLeft = () => expect.poll(left, { timeout: 300_000, interval: 200 }).toEqual([])
const starterOf = (group: number) =>
  Number(
    spawnSync('pgrep', ['-g', String(group), '-f', 'scripts/start.mjs'], { encoding: 'utf8' })
      .stdout.trim()
      .split('\n')
      .at(-1),
  )

describe('npm start', () => {
  test('twice on one port: the second says what is there and starts nothing; beside it: both on one database', async () => {
    const first = begin(from)
    await serving(from)
    const again = spawnSync('npm', ['start'], { cwd: root, env: env(from), encoding: 'utf8' })
    expect(again.status).toBe(0)
    expect(again.stdout).toContain(`already at http://127.0.0.1:${from}`)
    expect(again.stdout).toContain(`process ${(await answers(from))!.pid}`)
    const second = begin(from + 1)
    await serving(from + 1)
    // The first goes; what it started with stays for the second.
    process.kill(starterOf(first.child.pid!), 'SIGTERM')
    await expect.poll(() => answers(from)).toBeNull()
    expect((await fetch(`http://127.0.0.1:${from + 1}/api/projects`)).status).toBe(200)
    process.kill(starterOf(second.child.pid!), 'SIGINT')
    await nothingLeft()
  })
  test.each([
    ['SIGTERM to npm', 'SIGTERM', 'npm'],
    ['kill -9 of the starter', 'SIGKILL', 'starter'],
    ['kill -9 of everything but the database', 'SIGKILL', 'all'],
  ] as const)('%s: nothing stays behind, and it starts again with all there', async (_, signal, who) => {
    const { child } = begin(from + 2)
    await serving(from + 2)
    const before = await (await fetch(`http://127.0.0.1:${from + 2}/api/projects`)).json()
    if (who === 'npm') process.kill(child.pid!, signal)
    else if (who === 'starter') process.kill(starterOf(child.pid!), signal)
    else process.kill(-child.pid!, signal)
    await nothingLeft()
    const again = begin(from + 2)
    await serving(from + 2)
    expect(await (await fetch(`http://127.0.0.1:${from + 2}/api/projects`)).json()).toEqual(before)
    process.kill(starterOf(again.child.pid!), 'SIGTERM')
    await nothingLeft()
  })
  test('kill -9 of the server, twice: its starter says so and starts it again, with all there', async () => {
    const { child, said } = begin(from + 4)
    await serving(from + 4)
    const projects = async () => (await fetch(`http://127.0.0.1:${from + 4}/api/projects`)).json()
    const before = await projects()
    for (const _ of [1, 2]) {
      const { pid } = (await answers(from + 4))!
      process.kill(pid, 'SIGKILL')
      await expect.poll(async () => (await answers(from + 4))?.pid ?? pid, { timeout: 300_000, interval: 100 }).not.toBe(pid)
      expect(await projects()).toEqual(before)
    }
    expect(said()).toContain('The server ended (SIGKILL); it is started again.')
    process.kill(starterOf(child.pid!), 'SIGTERM')
    await nothingLeft()
  })
  test('a port that another program has, and one that is none, are told in a line', async () => {
    const other = createServer((_req, res) => res.end('something else'))
    await new Promise<void>((resolve) => other.listen(from + 3, '127.0.0.1', resolve))
    const { child, said } = begin(from + 3)
    const code = await new Promise((resolve) => child.on('exit', resolve))
    other.close()
    expect([code, said()]).toEqual([1, expect.stringContaining(`Port ${from + 3} is in use by another program`) as string])
    const none = spawnSync('npm', ['start'], { cwd: root, env: { ...env(from), PORT: 'four' }, encoding: 'utf8' })
    expect([none.status, none.stderr]).toEqual([64, expect.stringContaining('a number from 1 to 65535') as string])
    await nothingLeft()
  })
})
