import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { strToU8 } from 'fflate'
import { sha256Hex } from '@moth-lamp/core/base'
import { assetsOf, currentForm, packProject } from '@moth-lamp/core/project'
import type { ApiProblem, OpenedProject } from '@moth-lamp/contract'
import { demo } from '../../core/src/testing/demo.ts'
import { serverForTest } from './testing.ts'
import { document, filled, lying, refusesEach, sendFile, twice, withFont, woff, zipped } from './testing-files.ts'
import type { Running } from './server.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest()))
afterAll(() => running.stop())

const url = (path: string) => `http://127.0.0.1:${running.port}/api${path}`
const MiB = 1024 * 1024

describe('a file that is made to stop others', () => {
  const files: [string, () => Uint8Array, string][] = [
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
  ]
  refusesEach(() => running.port, files, 0)
  test('one flipped bit anywhere in a project file: refused in words, or the very same project', async () => {
    const whole = packProject(demo.project, demo.assets)
    let refused = 0
    for (let i = 0; i < 30; i++) {
      const file = whole.slice()
      const at = Math.floor((i * file.length) / 30)
      file[at] = file[at]! ^ (1 << (i % 8))
      const answer = await sendFile(running.port, file)
      if (answer.status === 201) {
        const { id } = (await answer.json()) as { id: string }
        expect(((await (await fetch(url(`/projects/${id}`))).json()) as OpenedProject).project).toEqual(demo.project)
      } else {
        refused++
        expect([answer.status, ((await answer.json()) as ApiProblem).message.length > 20]).toEqual([422, true])
      }
    }
    expect(refused).toBeGreaterThan(25)
  }, 600_000)
})

describe('reading a file', () => {
  test('tells how far it is, line by line, when asked to', async () => {
    const answer = await sendFile(running.port, packProject(demo.project, demo.assets), 'application/x-ndjson')
    const lines = (await answer.text())
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Record<string, unknown>)
    expect(lines.slice(0, -1)).toEqual(assetsOf(demo.project).map((_, done, all) => ({ done, of: all.length })))
    expect(lines.at(-1)).toHaveProperty('id')
    const bad = await sendFile(
      running.port,
      withFont(strToU8('no font at all, but long enough to be looked into')),
      'application/x-ndjson',
    )
    expect((await bad.text()).trim().split('\n').at(-1)).toContain('file.font')
  })
  test('the picture is made once a revision', async () => {
    const { id } = (await (await sendFile(running.port, packProject(demo.project, demo.assets))).json()) as { id: string }
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
})
