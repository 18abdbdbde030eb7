import { createHash } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { packProject, pictureSettings } from '@moth-lamp/core/project'
import type { OpenedProject } from '@moth-lamp/contract'
import { serverForTest } from './testing.ts'
import type { Running } from './server.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest({ demos: [] })))
afterAll(() => running.stop())

const url = (path: string) => `http://127.0.0.1:${running.port}/api${path}`
const sha256Hex = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')
const post = async <T>(path: string, body: unknown) =>
  (await (
    await fetch(url(path), { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  ).json()) as T

/** A picture of plain colours without any packing: as many bytes as it has pixels, three times. */
function bmpOf(side: number, shade: number): Uint8Array {
  const stride = Math.ceil((3 * side) / 4) * 4
  const bytes = Buffer.alloc(54 + stride * side, shade)
  bytes.write('BM', 0, 'latin1')
  bytes.writeUInt32LE(bytes.length, 2)
  bytes.writeUInt32LE(0, 6)
  bytes.writeUInt32LE(54, 10)
  bytes.writeUInt32LE(40, 14)
  bytes.writeInt32LE(side, 18)
  bytes.writeInt32LE(side, 22)
  bytes.writeUInt16LE(1, 26)
  bytes.writeUInt16LE(24, 28)
  bytes.fill(0, 30, 54)
  return new Uint8Array(bytes)
}

describe('a project file of 100 MB', () => {
  const drawings = Array.from({ length: 7 }, (_, k) => bmpOf(2300, 10 * k))
  const original = (bytes: Uint8Array, k: number) => ({
    ...pictureSettings.defaults,
    id: `picture:large-${k}`,
    number: k + 1,
    name: `large ${k}`,
    file: `large ${k}.bmp`,
    format: 'bmp',
    asset: sha256Hex(bytes),
    fromWidth: 2300,
    fromHeight: 2300,
  })

  test('comes in with progress and goes out again, the same; others are answered meanwhile', async () => {
    const made = await post<{ id: string }>('/projects', { name: 'Large', width: 480, height: 272, diagonalInches: 4.3 })
    const empty = (await (await fetch(url(`/projects/${made.id}`))).json()) as OpenedProject
    const pictures = drawings.map(original)
    const project = {
      ...empty.project,
      name: 'Larger',
      pictures: Object.fromEntries(pictures.map((p) => [p.id, p])),
      pictureOrder: pictures.map((p) => p.id),
    } as unknown as OpenedProject['project']
    const fonts = await running.store.assetsFor(Object.values(project.typefaces).map(({ asset }) => asset))
    const packed = packProject(project, new Map([...fonts, ...drawings.map((bytes) => [sha256Hex(bytes), bytes] as const)]))
    expect(packed.length).toBeGreaterThan(100e6)
    const reading = fetch(url('/projects/import'), {
      method: 'POST',
      headers: { accept: 'application/x-ndjson', 'content-type': 'application/zip' },
      body: Buffer.from(packed),
    })
    expect((await fetch(url('/projects'))).status).toBe(200)
    const notes = (await (await reading).text()).trim().split('\n').map((line) => JSON.parse(line) as Record<string, unknown>) // prettier-ignore
    expect(notes.slice(0, -1).map(({ done, of }) => [done, of])).toEqual(Array.from({ length: 10 }, (_, done) => [done, 10]))
    const { id } = notes.at(-1) as { id: string }
    const out = new Uint8Array(await (await fetch(url(`/projects/${id}/file`))).arrayBuffer())
    expect(Buffer.compare(out, packed)).toBe(0)
  }, 1_200_000)
  test('that is larger than any may be is refused with the size that is allowed', async () => {
    const answer = await fetch(url('/projects/import'), { method: 'POST', body: Buffer.alloc(150 * 1024 * 1024) }).catch(
      (error: unknown) => error,
    )
    // It may be cut off while it is still being sent.
    if (answer instanceof Response) expect(answer.status).toBe(413)
    expect((await fetch(url('/projects'))).status).toBe(200)
  }, 600_000)
})
