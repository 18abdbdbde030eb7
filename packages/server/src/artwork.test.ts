import { createHash } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { PNG } from 'pngjs'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { deflateSync } from 'node:zlib'
import { fontDamage } from '@moth-lamp/core/artwork'
import { noFace } from '@moth-lamp/core/faces'
import { checksumOf, seededRandom } from '@moth-lamp/core/base'
import { currentForm, pictureSettings, unpackProject } from '@moth-lamp/core/project'
import type { OpenedProject } from '@moth-lamp/contract'
import { pictureSet, softPicture, type TestPicture } from '../../core/src/testing/pictures.ts'
import { serverForTest } from './testing.ts'
import type { Running } from './server.ts'

let running: Running
let files: TestPicture[]
beforeAll(async () => {
  running = await serverForTest({ demos: [] })
  files = await pictureSet()
})
afterAll(() => running.stop())

const url = (path: string) => `http://127.0.0.1:${running.port}/api${path}`
const sha256Hex = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')
const put = (bytes: Uint8Array, sha = sha256Hex(bytes)) =>
  fetch(url(`/assets/${sha}`), { method: 'PUT', body: Buffer.from(bytes) })
const post = async <T>(path: string, body: unknown) =>
  (await (
    await fetch(url(path), { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  ).json()) as T
const why = async (answer: Response) => [answer.status, ((await answer.json()) as { message: string }).message]

describe('an original that comes in', () => {
  test('is kept as it is, of every sort', async () => {
    for (const { name, bytes } of files) expect([name, (await put(bytes)).status]).toEqual([name, 204])
    const { bytes } = files[0]!
    expect(new Uint8Array(await (await fetch(url(`/assets/${sha256Hex(bytes)}`))).arrayBuffer())).toEqual(bytes)
  })
  test('that is damaged, or not what its name says, is refused with the reason', async () => {
    const jpeg = files.find((one) => one.format === 'jpeg')!.bytes
    expect(await why(await put(jpeg.slice(0, jpeg.length - 20)))).toEqual([
      422,
      expect.stringContaining('Damaged file: missing end marker'),
    ])
    expect((await put(jpeg, 'f'.repeat(64))).status).toBe(422)
    const png = files[0]!.bytes.slice()
    png[40]! ^= 4
    expect((await why(await put(png)))[1]).toContain('checksum error')
  })
  test('that unpacks to far more than it says holds nobody up', async () => {
    const bomb = bombOf(200)
    expect(bomb.length).toBeLessThan(400_000)
    let over = false
    let answered = 0
    const asking = (async () => {
      for (; !over; answered++) await (await fetch(url('/health'))).json()
    })()
    const answer = await put(bomb)
    over = true
    await asking
    expect(answer.status).toBe(422)
    // Other requests are answered while the file is still being read.
    expect(answered).toBeGreaterThan(5)
  })
})

describe('a project with pictures', () => {
  test('shows them on the shelf, is packed with them, and comes back', async () => {
    const jpeg = files.find((one) => one.name === 'JPEG')!
    const big = new PNG({ width: 320, height: 240 })
    big.data = Buffer.from(softPicture(320, 240).rgba)
    const png = new Uint8Array(PNG.sync.write(big))
    for (const bytes of [png, jpeg.bytes]) expect((await put(bytes)).status).toBe(204)
    const { id } = await post<{ id: string }>('/projects', { name: 'Dusk', width: 320, height: 240, diagonalInches: 3 })
    const opened = async (which: string) => (await (await fetch(url(`/projects/${which}`))).json()) as OpenedProject
    const page = (await opened(id)).project.pageOrder[0]!
    const record = (name: string, bytes: Uint8Array, width: number, height: number, format: string) => {
      const original = { id: `picture:${name}`, name, file: `${name}.${format}`, format, asset: sha256Hex(bytes), fromWidth: width, fromHeight: height } // prettier-ignore
      return { ...pictureSettings.defaults, width: 320, height: 240, way: 'stretch', ...original }
    }
    const pictures = [record('dusk', png, 320, 240, 'png'), record('photo', jpeg.bytes, 21, 13, 'jpeg')]
    const changes = [
      { changeId: 'change:a', edit: 'add pictures', args: { pictures, after: '' } },
      {
        changeId: 'change:b',
        edit: 'set page',
        args: { id: page, values: { background: { ...noFace, picture: 'picture:dusk' } } },
      },
    ]
    expect(await post(`/projects/${id}/changes`, { form: currentForm, base: 0, changes })).toMatchObject({ outcome: 'saved' })
    const corner = async () => {
      const shelf = PNG.sync.read(Buffer.from(await (await fetch(url(`/projects/${id}/picture`))).arrayBuffer()))
      const at = 4 * (shelf.width - 2 + 1 * shelf.width)
      return [...shelf.data.subarray(at, at + 3)]
    }
    // Red at the right, no green at the top.
    const [red, green] = (await corner()) as [number, number, number]
    expect([red > 230, green < 20]).toEqual([true, true])
    const photo = {
      changeId: 'change:c',
      edit: 'set page',
      args: { id: page, values: { background: { ...noFace, picture: 'picture:photo' } } },
    }
    expect(await post(`/projects/${id}/changes`, { form: currentForm, base: 2, changes: [photo] })).toMatchObject({
      outcome: 'saved',
    })
    expect((await corner())[0]).toBeGreaterThan(200)

    const file = new Uint8Array(await (await fetch(url(`/projects/${id}/file`))).arrayBuffer())
    const inside = unpackProject(file)
    expect(inside.ok && [...inside.value.assets.keys()]).toEqual(expect.arrayContaining([sha256Hex(png), sha256Hex(jpeg.bytes)]))
    const back = (await (await fetch(url('/projects/import'), { method: 'POST', body: Buffer.from(file) })).json()) as {
      id: string
    }
    expect((await opened(back.id)).project.pictures).toEqual((await opened(id)).project.pictures)
  })
})

/** A PNG of ten by ten that unpacks to so many MiB of nothing. */
function bombOf(mebibytes: number): Uint8Array {
  const chunk = (type: string, content: Uint8Array) => {
    const out = new Uint8Array(12 + content.length)
    const view = new DataView(out.buffer)
    view.setUint32(0, content.length)
    out.set([...type].map((c) => c.charCodeAt(0)), 4) // prettier-ignore
    out.set(content, 8)
    view.setUint32(8 + content.length, checksumOf('crc-32', out.subarray(4, 8 + content.length)))
    return out
  }
  const head = Uint8Array.of(0, 0, 0, 10, 0, 0, 0, 10, 8, 6, 0, 0, 0)
  return new Uint8Array(
    Buffer.concat([
      Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a),
      chunk('IHDR', head),
      chunk('IDAT', deflateSync(Buffer.alloc(mebibytes * 1024 * 1024), { level: 9 })),
      chunk('IEND', new Uint8Array()),
    ]),
  )
}

describe('a packed font', () => {
  const woff2 = new Uint8Array(
    readFileSync(
      createRequire(import.meta.url).resolve('@fontsource-variable/public-sans/files/public-sans-latin-wght-normal.woff2'),
    ),
  )
  const unpack = (body: Uint8Array) => fetch(url('/fonts/unpack'), { method: 'POST', body: Buffer.from(body) })
  test('comes back as the font it was made of, which is let in as any other', async () => {
    const answer = await unpack(woff2)
    const bytes = new Uint8Array(await answer.arrayBuffer())
    expect(fontDamage(bytes)).toBeNull()
    expect((await put(bytes)).status).toBe(204)
    // Packed it is no asset.
    expect((await put(woff2)).status).toBe(422)
  })
  test('that is cut or turned at any place is refused with the reason, and the server goes on', async () => {
    const random = seededRandom(5)
    const cut = [0, 3, 40, 200, 9000].map((length) => woff2.slice(0, length))
    const turned = Array.from({ length: 25 }, () => {
      const copy = woff2.slice()
      for (let k = 0; k < 3; k++) copy[random.below(copy.length)]! ^= 1 << random.below(8)
      return copy
    })
    for (const bytes of [...cut, ...turned]) {
      const answer = await unpack(bytes)
      if (answer.headers.get('content-type')?.startsWith('application/json'))
        expect(((await answer.json()) as { why: string }).why).toMatch(/damaged|not a TrueType|bytes|[Ss]topped/)
      else expect(fontDamage(new Uint8Array(await answer.arrayBuffer()))).toBeNull()
    }
    expect((await unpack(woff2)).headers.get('content-type')).toBe('application/octet-stream')
  }, 600_000)
})

test('assets that nothing names are collected once they are old; what a project has, or had before an undo, stays', async () => {
  const [shown, once, never] = [1, 2, 3]
    .map((k) => softPicture(20 + k, 10))
    .map(({ rgba, width, height }) => {
      const made = new PNG({ width, height })
      made.data = Buffer.from(rgba)
      return new Uint8Array(PNG.sync.write(made))
    }) as [Uint8Array, Uint8Array, Uint8Array]
  for (const bytes of [shown, once, never]) expect((await put(bytes)).status).toBe(204)
  const { id } = await post<{ id: string }>('/projects', { name: 'Kept', width: 480, height: 272, diagonalInches: 4.3 })
  const record = (bytes: Uint8Array, name: string) => ({
    ...pictureSettings.defaults,
    id: `picture:${name}`,
    name,
    file: '',
    format: 'png',
    asset: sha256Hex(bytes),
    fromWidth: 20,
    fromHeight: 10,
  })
  const change = (changeId: string, edit: string, args: unknown) => ({ changeId, edit, args })
  const saved = await post<{ revision: number }>(`/projects/${id}/changes`, {
    base: 0,
    form: currentForm,
    changes: [
      change('change:kept-one', 'add pictures', { pictures: [record(shown, 'shown'), record(once, 'once')], after: '' }),
      change('change:kept-two', 'delete picture', { id: 'picture:once' }),
    ],
  })
  expect(saved.revision).toBe(2)
  const there = async (bytes: Uint8Array) => (await fetch(url(`/assets/${sha256Hex(bytes)}`))).status
  // A file sent a moment ago may still be named.
  await running.store.collectAssets(new Date(Date.now() - 60_000))
  expect([await there(shown), await there(once), await there(never)]).toEqual([200, 200, 200])
  expect(await running.store.collectAssets(new Date(Date.now() + 1000))).toBeGreaterThan(0)
  expect([await there(shown), await there(once), await there(never)]).toEqual([200, 200, 404])
})
