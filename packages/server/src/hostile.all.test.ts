import { spawnSync } from 'node:child_process'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { sha256Hex } from '@moth-lamp/core/base'
import { packProject } from '@moth-lamp/core/project'
import type { ApiProblem } from '@moth-lamp/contract'
import { demo } from '../../core/src/testing/demo.ts'
import { hangingFont, hostileFont } from '../../core/src/testing/hostile-fonts.ts'
import { seededRandom } from '@moth-lamp/core/base'
import { serverForTest } from './testing.ts'
import { demoWithFont, filled, refusesEach, sendFile, withFont, woff, zipped } from './testing-files.ts'
import { attack, sendBytes } from './testing-hostile.ts'
import type { Running } from './server.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest()))
afterAll(() => running.stop())

const url = (path: string) => `http://127.0.0.1:${running.port}/api${path}`

describe('a file that is made to stop others', () => {
  const files: [string, () => Uint8Array, string][] = [
    ['a font that hangs whoever reads it', () => withFont(hangingFont(woff)), 'file.slow, work.failed'],
    ['120 MiB of numbers in a small ZIP', () => zipped(`[${filled('0,', 120 * 1024 * 1024)}0]`), 'file.large'],
  ]
  refusesEach(() => running.port, files, 20)
  test('fifteen fonts with flipped bits whose check values are right: each is taken or refused, none stays', async () => {
    let refused = 0
    for (let seed = 1; seed <= 15; seed++) {
      const answer = await sendFile(running.port, withFont(hostileFont(woff, seed)))
      expect([201, 422]).toContain(answer.status)
      if (answer.status === 422) {
        refused++
        expect(((await answer.json()) as ApiProblem).code).toMatch(/^(file\.(font|slow)|work\.failed)$/)
      }
    }
    expect(refused).toBeGreaterThan(0)
    expect((await fetch(url('/projects'))).status).toBe(200)
  }, 1_200_000)
  test('one that hangs whoever draws it stops nobody', async () => {
    const font = hangingFont(woff)
    const began = fetch(url(`/assets/${sha256Hex(font)}`), { method: 'PUT', body: font as BodyInit })
    expect((await fetch(url('/projects'))).status).toBe(200)
    expect((await began).status).toBe(422)
  })
})

describe('a font that came in before fonts were checked', () => {
  test('hangs no picture: the shelf is served, and says why there is none', async () => {
    const { project, assets } = demoWithFont(hangingFont(woff))
    const id = await running.store.create(project, assets)
    const [picture, health] = await Promise.all([fetch(url(`/projects/${id}/picture`)), fetch(url('/health'))])
    expect([picture.status, health.status]).toEqual([422, 200])
    expect(((await picture.json()) as ApiProblem).message).toMatch(/Stopped after 5 s|damaged or too large/)
    // It is kept that there is none: asked again, nobody waits.
    const { maker } = await running.db.selectFrom('pictures').selectAll().where('project_id', '=', id).executeTakeFirstOrThrow()
    await running.db
      .updateTable('pictures')
      .set({ problem: JSON.stringify({ code: 'kept', facts: {} }), maker })
      .where('project_id', '=', id)
      .execute()
    const again = await fetch(url(`/projects/${id}/picture`))
    expect([again.status, ((await again.json()) as ApiProblem).message]).toEqual([422, expect.stringContaining('kept')])
    const good = (await (await fetch(url('/projects'))).json()) as { id: string; name: string }[]
    expect((await fetch(url(`/projects/${good.at(-1)!.id}/picture`))).status).toBe(200)
  }, 300_000)
})

test('a process of the workroom that is killed, idle or at work, takes nothing with it', async () => {
  const file = packProject(demo.project, demo.assets)
  const kill = () => spawnSync('pkill', ['-9', '-P', String(process.pid), '-f', 'tinypool'])
  for (let round = 0; round < 3; round++) {
    expect((await sendFile(running.port, file)).status).toBe(201)
    kill()
    const struck = sendFile(running.port, file)
    setTimeout(kill, 40 * round)
    expect([201, 422]).toContain((await struck).status)
  }
  expect((await sendFile(running.port, file)).status).toBe(201)
})

test('ten thousand wrong upgrades, requests and messages: none is a fault, and after each the health answers', async () => {
  const random = seededRandom(Number(process.env['SEED'] ?? 4600))
  for (let n = 0; n < 10_000; n++) {
    const { about, bytes } = attack(random, `127.0.0.1:${running.port}`)
    const status = await sendBytes(running.port, bytes)
    expect(status >= 500 ? `${status}: ${about}` : 'no fault').toBe('no fault')
    expect((await fetch(url('/health'))).status).toBe(200)
  }
}, 3_000_000)
