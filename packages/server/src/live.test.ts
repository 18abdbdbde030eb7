import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { sql } from 'kysely'
import { WebSocket } from 'ws'
import { newId, seededRandom } from '@moth-lamp/core/base'
import { currentForm } from '@moth-lamp/core/project'
import { serverForTest } from './testing.ts'
import { attack, sendBytes } from './testing-hostile.ts'
import { newProject, Window } from './testing-windows.ts'
import type { Running } from './server.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest({ demos: [] })))
afterAll(() => running.stop())

const healthOf = async () => (await fetch(`http://127.0.0.1:${running.port}/api/health`)).status

describe('whatever is sent', () => {
  test.each(['//', '', '*', '///', 'http://[', '/%'])(
    'an upgrade to “%s” from a page elsewhere is refused, and the server lives',
    async (path) => {
      const host = `127.0.0.1:${running.port}`
      const upgrade = (headers: string) =>
        Buffer.from(
          `GET ${path} HTTP/1.1\r\nhost: ${host}\r\n${headers}connection: Upgrade\r\nupgrade: websocket\r\n` +
            'sec-websocket-key: dGhlIHNhbXBsZSBub25jZQ==\r\nsec-websocket-version: 13\r\n\r\n',
        )
      const elsewhere = await sendBytes(running.port, upgrade('origin: http://elsewhere.example\r\n'))
      const here = await sendBytes(running.port, upgrade(''))
      // A path of no letters is no request at all.
      expect([elsewhere, here]).toEqual(path ? [403, 404] : [400, 400])
      expect(await healthOf()).toBe(200)
    },
  )
  test('300 wrong upgrades, requests and messages: each is answered or closed, none is a fault of the server', async () => {
    const random = seededRandom(19)
    for (let n = 0; n < 300; n++) {
      const { about, bytes } = attack(random, `127.0.0.1:${running.port}`)
      const status = await sendBytes(running.port, bytes)
      expect(status >= 500 ? `${status}: ${about}` : 'no fault').toBe('no fault')
      expect(await healthOf()).toBe(200)
    }
  })
  test('an announcement in the database that is none is passed over', async () => {
    const id = await newProject(running.port, 'Announced')
    const revisions: number[] = []
    running.commits.watch(id, ({ revision }) => revisions.push(revision))
    for (const text of ['', '{', 'null', '{"project":"x"}', `{"project":"${id}","revision":"no","form":1}`])
      await sql`select pg_notify('moth_lamp_commits', ${text})`.execute(running.db)
    await sql`select pg_notify('moth_lamp_commits', ${JSON.stringify({ project: id, revision: 7, form: 4 })})`.execute(running.db)
    await expect.poll(() => revisions).toEqual([7])
    expect(await healthOf()).toBe(200)
  })
})

describe('the line of a window', () => {
  const heard = (socket: WebSocket) => {
    const notes: unknown[] = []
    // A sign that the line is there may come at any time.
    socket.on('message', (data: Buffer) => String(data) === '{}' || notes.push(JSON.parse(String(data))))
    return notes
  }
  const connected = (headers: Record<string, string> = {}) =>
    new Promise<WebSocket>((resolve, reject) => {
      const socket = new WebSocket(`ws://127.0.0.1:${running.port}/api/live`, { headers })
      socket.on('open', () => resolve(socket))
      socket.on('error', reject)
    })
  test('is told the revision there is, every new one, and what came while nobody listened to the database', async () => {
    const id = await newProject(running.port, 'Live')
    const socket = await connected()
    const notes = heard(socket)
    socket.send(JSON.stringify({ watch: id }))
    await expect.poll(() => notes.length).toBe(1)
    const window = new Window(running, id, seededRandom(3))
    await window.open()
    const save = async (note: string) => {
      window.hear({
        on: 'edit',
        request: { changeId: newId('change', seededRandom(note.length)), edit: 'set project', args: { values: { note } } },
      })
      await window.settle()
    }
    await save('a')
    await expect.poll(() => notes.at(-1)).toEqual({ project: id, revision: 1, form: currentForm })
    // The connection that listens is killed; what is committed before it is back is read again.
    await sql`select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'moth-lamp commits'`.execute(
      running.db,
    )
    await save('bb')
    await expect.poll(() => notes.at(-1), { timeout: 300_000 }).toEqual({ project: id, revision: 2, form: currentForm })
    socket.send(JSON.stringify({ unwatch: id }))
    await save('ccc')
    expect(notes.at(-1)).toMatchObject({ revision: 2 })
    socket.close()
  })
  test('comes from a page of this server, says what is understood, and watches so much and no more', async () => {
    await expect(connected({ origin: 'http://elsewhere.example' })).rejects.toThrow('403')
    const closed = (socket: WebSocket) => new Promise<number>((resolve) => socket.on('close', resolve))
    for (const bad of ['{oops', '{}', '{"watch":"page:a"}', '{"watch":"project:a","unwatch":"project:a"}', '[]']) {
      const socket = await connected()
      socket.send(bad)
      expect([bad, await closed(socket)]).toEqual([bad, 1008])
    }
    const greedy = await connected({ origin: `http://127.0.0.1:${running.port}` })
    for (let i = 0; i < 21; i++) greedy.send(JSON.stringify({ watch: `project:n${i}` }))
    expect(await closed(greedy)).toBe(1008)
    // One that goes on saying the same again and again takes nothing from others: it is closed, and reads are made together.
    const restless = await connected()
    for (let i = 0; i < 20_000; i++) restless.send(JSON.stringify(i % 2 ? { unwatch: 'project:a' } : { watch: 'project:a' }))
    expect(await closed(restless)).toBe(1008)
    const long = await connected()
    long.send('x'.repeat(5000))
    expect(await closed(long)).toBe(1009)
  })
})
