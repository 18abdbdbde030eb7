import { spawnSync } from 'node:child_process'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { strToU8, zipSync } from 'fflate'
import { sha256Hex } from '@moth-lamp/core/base'
import { assetsOf, currentForm, packProject, type Project } from '@moth-lamp/core/project'
import type { ApiProblem, OpenedProject } from '@moth-lamp/contract'
import { demo } from '../../core/src/testing/demo.ts'
import { hangingFont, hostileFont } from '../../core/src/testing/hostile-fonts.ts'
import { testAssets, testTypefaces } from '../../core/src/testing/fonts.ts'
import { serverForTest } from './testing.ts'
import type { Running } from './server.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest()))
afterAll(() => running.stop())

const url = (path: string) => `http://127.0.0.1:${running.port}/api${path}`
const woff = testAssets.get(testTypefaces[0]!.asset)!

/** The demo with another font file in place of one of its own. */
function withFont(font: Uint8Array): Uint8Array {
  const sha = sha256Hex(font)
  const first = Object.values(demo.project.typefaces)[0]!
  const project = { ...demo.project, typefaces: { ...demo.project.typefaces, [first.id]: { ...first, asset: sha } } } as Project
  return packProject(project, new Map([...demo.assets, [sha, font]]))
}

const sent = async (file: Uint8Array, accept = 'application/json') =>
  fetch(url('/projects/import'), {
    method: 'POST',
    headers: { 'content-type': 'application/zip', accept },
    body: Buffer.from(file),
  })

/** Reads a file while someone else asks again and again; the longest that one had to wait, ms, and the process's memory. */
async function meanwhile(file: Uint8Array): Promise<{ status: number; problem: ApiProblem; slowest: number; tookMs: number }> {
  let over = false
  let slowest = 0
  const asking = (async () => {
    while (!over) {
      const from = performance.now()
      await (await fetch(url('/health'))).json()
      slowest = Math.max(slowest, performance.now() - from)
      await new Promise((resolve) => setTimeout(resolve, 2))
    }
  })()
  const from = performance.now()
  const answer = await sent(file)
  const problem = (await answer.json()) as ApiProblem
  const tookMs = performance.now() - from
  over = true
  await asking
  return { status: answer.status, problem, slowest, tookMs }
}

const zipped = (text: string) => zipSync({ 'project.json': strToU8(text) }, { level: 9 })
const filled = (part: string, bytes: number) => part.repeat(Math.ceil(bytes / part.length)).slice(0, bytes)
const document = (more: object) => JSON.stringify({ ...demo.project, ...more })
const MiB = 1024 * 1024

describe('a file that is made to stop others', () => {
  test.each([
    ['a font that hangs whoever reads it', () => withFont(hangingFont(woff)), 'file.slow, work.failed'],
    ['120 MiB of numbers in a small ZIP', () => zipped(`[${filled('0,', 120 * MiB)}0]`), 'file.large'],
    ['16 MiB of empty objects', () => zipped(`[${filled('{},', 15 * MiB)}0]`), 'file.many'],
    ['16 MiB of lists in lists', () => zipped(filled('[', 15 * MiB)), 'file.many'],
    ['20 000 deep', () => zipped(`{"format":${'['.repeat(20_000)}`), 'file.many'],
    [
      '100 000 variables',
      () =>
        zipped(document({ variables: Object.fromEntries(Array.from({ length: 100_000 }, (_, i) => [`variable:v${i}`, {}])) })),
      'gate.many',
    ],
    [
      '100 000 steps',
      () => {
        const [id, exchange] = Object.entries(demo.project.exchanges)[0]!
        const steps = Object.fromEntries(Array.from({ length: 100_000 }, (_, i) => [`step:s${i}`, 0]))
        return zipped(document({ exchanges: { [id]: { ...exchange, steps } } }))
      },
      'gate.many',
    ],
    ['a name of 10 MiB', () => zipped(document({ name: filled('x', 10 * MiB) })), 'gate.schema'],
    ['two pages of one number', () => zipped(document({ pages: twice(demo.project.pages) })), 'gate.numbers'],
    ['two widgets of one number', () => zipped(document({ widgets: twice(demo.project.widgets) })), 'gate.numbers'],
    ['a document that says it is small', () => lying(zipped(document({ note: 'x'.repeat(3000) }))), 'file.zip'],
  ])('%s is refused in words, and others are answered meanwhile', async (_, make, code) => {
    const file = make()
    const { status, problem, slowest, tookMs } = await meanwhile(file)
    expect(status).toBe(422)
    expect(code.split(', ')).toContain(problem.code)
    expect(problem.message.length).toBeLessThan(600)
    // Far above what it takes, far below what a stopped server would take: the figures are those of `npm run speed`.
    expect(slowest).toBeLessThan(1500)
    // A piece of work has at most four seconds of the processor, and on a machine with much else to do five times that by the clock.
    expect(tookMs).toBeLessThan(25_000)
  })
  test('fifteen fonts with flipped bits whose check values are right: each is taken or refused, none stays', async () => {
    let refused = 0
    for (let seed = 1; seed <= 15; seed++) {
      const answer = await sent(withFont(hostileFont(woff, seed)))
      expect([201, 422]).toContain(answer.status)
      if (answer.status === 422) {
        refused++
        expect(((await answer.json()) as ApiProblem).code).toMatch(/^(file\.(font|slow)|work\.failed)$/)
      }
    }
    expect(refused).toBeGreaterThan(0)
    expect((await fetch(url('/projects'))).status).toBe(200)
  }, 120_000)
  test('one flipped bit anywhere in a project file: refused in words, or the very same project', async () => {
    const whole = packProject(demo.project, demo.assets)
    let refused = 0
    for (let i = 0; i < 30; i++) {
      const file = whole.slice()
      const at = Math.floor((i * file.length) / 30)
      file[at] = file[at]! ^ (1 << (i % 8))
      const answer = await sent(file)
      if (answer.status === 201) {
        const { id } = (await answer.json()) as { id: string }
        expect(((await (await fetch(url(`/projects/${id}`))).json()) as OpenedProject).project).toEqual(demo.project)
      } else {
        refused++
        expect([answer.status, ((await answer.json()) as ApiProblem).message.length > 20]).toEqual([422, true])
      }
    }
    expect(refused).toBeGreaterThan(25)
  }, 60_000)
})

describe('a font that came in before fonts were checked', () => {
  test('hangs no picture: the shelf is served, and says why there is none', async () => {
    const font = hangingFont(woff)
    const sha = sha256Hex(font)
    const first = Object.values(demo.project.typefaces)[0]!
    const id = await running.store.create(
      { ...demo.project, typefaces: { ...demo.project.typefaces, [first.id]: { ...first, asset: sha } } } as Project,
      new Map([[sha, font]]),
    )
    const [picture, health] = await Promise.all([fetch(url(`/projects/${id}/picture`)), fetch(url('/health'))])
    expect([picture.status, health.status]).toEqual([422, 200])
    expect(((await picture.json()) as ApiProblem).message).toMatch(/longer than 5 s|the memory there is for it/)
    // It is kept that there is none: asked again, nobody waits.
    const from = performance.now()
    expect((await fetch(url(`/projects/${id}/picture`))).status).toBe(422)
    expect(performance.now() - from).toBeLessThan(2000)
    const good = (await (await fetch(url('/projects'))).json()) as { id: string; name: string }[]
    expect((await fetch(url(`/projects/${good.at(-1)!.id}/picture`))).status).toBe(200)
  }, 30_000)
})

test('a process of the workroom that is killed, idle or at work, takes nothing with it', async () => {
  const file = packProject(demo.project, demo.assets)
  const kill = () => spawnSync('pkill', ['-9', '-P', String(process.pid), '-f', 'tinypool'])
  for (let round = 0; round < 3; round++) {
    expect((await sent(file)).status).toBe(201)
    kill()
    const struck = sent(file)
    setTimeout(kill, 40 * round)
    expect([201, 422]).toContain((await struck).status)
  }
  expect((await sent(file)).status).toBe(201)
})

describe('reading a file', () => {
  test('tells how far it is, line by line, when asked to', async () => {
    const answer = await sent(packProject(demo.project, demo.assets), 'application/x-ndjson')
    const lines = (await answer.text())
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Record<string, unknown>)
    expect(lines.slice(0, -1)).toEqual(assetsOf(demo.project).map((_, done, all) => ({ done, of: all.length })))
    expect(lines.at(-1)).toHaveProperty('id')
    const bad = await sent(withFont(strToU8('no font at all, but long enough to be looked into')), 'application/x-ndjson')
    expect((await bad.text()).trim().split('\n').at(-1)).toContain('file.font')
  })
  test('the picture is made once a revision', async () => {
    const { id } = (await (await sent(packProject(demo.project, demo.assets))).json()) as { id: string }
    const bytes = async () => Buffer.from(await (await fetch(url(`/projects/${id}/picture`))).arrayBuffer())
    const first = await bytes()
    const row = () => running.db.selectFrom('pictures').selectAll().where('project_id', '=', id).executeTakeFirstOrThrow()
    expect((await row()).revision).toBe(0)
    await running.db
      .updateTable('pictures')
      .set({ png: Buffer.from('kept') })
      .where('project_id', '=', id)
      .execute()
    expect(String(await bytes())).toBe('kept')
    await fetch(url(`/projects/${id}/changes`), {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        form: currentForm,
        base: 0,
        changes: [{ changeId: 'change:p', edit: 'set project', args: { values: { note: 'x' } } }],
      }),
    })
    expect((await bytes()).equals(first)).toBe(true)
    expect((await row()).revision).toBe(1)
  })
})

/** A map with its first record once more under another id. */
function twice(records: Record<string, { id: string }>): Record<string, unknown> {
  const [first] = Object.values(records)
  const id = `${first!.id}2`
  return { ...records, [id]: { ...first, id } }
}

/** A ZIP whose directory says that its first file has ten bytes. */
function lying(zip: Uint8Array): Uint8Array {
  const out = zip.slice()
  const view = new DataView(out.buffer)
  for (let at = out.length - 22; at >= 0; at--) if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 10, true)
  return out
}

describe('a font file sent into an open project', () => {
  const put = (sha: string, bytes: Uint8Array) => fetch(url(`/assets/${sha}`), { method: 'PUT', body: bytes as BodyInit })
  test('comes in when it is what its name says and can be drawn, and is there for everyone', async () => {
    const font = woff.slice()
    const sha = sha256Hex(font)
    expect((await put(sha, font)).status).toBe(204)
    expect((await put(sha, font)).status).toBe(204)
    expect(new Uint8Array(await (await fetch(url(`/assets/${sha}`))).arrayBuffer())).toEqual(font)
  })
  test.each([
    ['under another name', 'a'.repeat(64), woff, 422],
    ['no font', sha256Hex(Uint8Array.of(1, 2, 3)), Uint8Array.of(1, 2, 3), 422],
    ['empty', sha256Hex(new Uint8Array(0)), new Uint8Array(0), 422],
    ['no SHA-256', 'xyz', woff, 400],
    ['too large', 'b'.repeat(64), new Uint8Array(22_000_000), 413],
  ])('%s: refused in words, and nothing is kept', async (_what, sha, bytes, status) => {
    const answer = await put(sha, bytes)
    expect(answer.status).toBe(status)
    expect(((await answer.json()) as ApiProblem).message).toMatch(/[a-z].*\.$/)
    if (status === 422) expect((await fetch(url(`/assets/${sha}`))).status).toBe(404)
  })
  test('one that hangs whoever draws it stops nobody', async () => {
    const font = hangingFont(woff)
    const began = put(sha256Hex(font), font)
    expect((await fetch(url('/projects'))).status).toBe(200)
    expect((await began).status).toBe(422)
  })
})
