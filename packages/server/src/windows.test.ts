import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { newId, sameJson, seededRandom, type Random } from '@moth-lamp/core/base'
import { currentForm, Replica, validateProject, type Project } from '@moth-lamp/core/project'
import type { OpenedProject, SaveAnswer } from '@moth-lamp/contract'
import { EditMaker } from '../../core/src/testing/edits.ts'
import { serverForTest } from './testing.ts'
import type { Running } from './server.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest({ demos: [] })))
afterAll(() => running.stop())

/** One window on a line that loses and repeats requests and answers. */
class Window {
  replica!: Replica
  maker: EditMaker
  made = new Set<string>()

  constructor(
    private id: string,
    private random: Random,
  ) {
    this.maker = new EditMaker(random)
  }

  private url = (path = '') => `http://127.0.0.1:${running.port}/api/projects/${this.id}${path}`

  async open() {
    const { project, revision } = (await (await fetch(this.url())).json()) as OpenedProject
    this.replica = new Replica(project, revision)
  }

  edit() {
    const request = this.maker.request(this.replica.project)
    if (!request) return
    const done = this.replica.edit(request)
    if (done.ok && done.change) {
      this.maker.saw(done.change)
      this.made.add(request.changeId)
    }
  }

  async save(reliable = false) {
    const batch = this.replica.batch(1 + this.random.below(5))
    if (!batch.changes.length) return
    const luck = reliable ? 9 : this.random.below(10)
    if (luck === 0) return // the request is lost
    const send = () =>
      fetch(this.url('/changes'), {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ form: currentForm, ...batch }),
      })
    const response = await send()
    const answer = (await response.json()) as SaveAnswer
    expect(response.status).toBe(200)
    if (luck === 1) return // the answer is lost
    if (luck === 2) await (await send()).arrayBuffer() // the request is repeated
    this.take(
      answer,
      batch.changes.map((c) => c.changeId),
    )
  }

  private take(answer: SaveAnswer, ids: `change:${string}`[]) {
    if (answer.outcome === 'saved') this.replica.confirm(ids, answer.revision)
    else if (answer.outcome === 'behind') this.replica.takeTheirs(answer.changes, answer.revision)
    else throw new Error(`refused: ${JSON.stringify(answer.problem)}`)
  }

  async listen() {
    const { revision, changes } = (await (await fetch(this.url(`/changes?since=${this.replica.revision}`))).json()) as {
      revision: number
      changes: never[]
    }
    this.replica.takeTheirs(changes, revision)
  }
}

function uniqueNumbers(project: Project) {
  const pages = Object.values(project.pages).map((p) => p.number)
  const widgets = Object.values(project.widgets).map((w) => w.number)
  expect(new Set(pages).size).toBe(pages.length)
  expect(new Set(widgets).size).toBe(widgets.length)
}

describe('two windows on one project', () => {
  const rounds = 200
  test(`${rounds} seeded interleavings with delays, lost and repeated answers end with one document`, async () => {
    const random = seededRandom(Number(process.env['SEED'] ?? 4600))
    let setAside = 0
    for (let round = 0; round < rounds; round++) {
      const { id } = (await (
        await fetch(`http://127.0.0.1:${running.port}/api/projects`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ name: newId('project', random), width: 480, height: 320, diagonalInches: 4 }),
        })
      ).json()) as { id: string }
      const windows = [new Window(id, random), new Window(id, random)]
      await Promise.all(windows.map((w) => w.open()))
      for (let step = 0; step < 26; step++) {
        const window = windows[random.below(2)]!
        const what = random.below(10)
        if (what < 7) window.edit()
        else if (what < 9) await window.save()
        else await window.listen()
      }
      for (let tries = 0; windows.some((w) => w.replica.pending.length) && tries < 60; tries++)
        for (const w of windows) await w.save(true)
      for (const w of windows) await w.listen()
      const server = (await (await fetch(`http://127.0.0.1:${running.port}/api/projects/${id}`)).json()) as OpenedProject
      for (const w of windows) {
        expect(w.replica.pending).toEqual([])
        expect(sameJson(w.replica.project, server.project)).toBe(true)
        expect(w.replica.revision).toBe(server.revision)
      }
      expect(validateProject(server.project).ok).toBe(true)
      uniqueNumbers(server.project)
      const saved = new Set((await running.store.changesSince(id, 0)).changes.map((c) => c.changeId as string))
      for (const w of windows) {
        const aside = new Set(w.replica.setAside.map((s) => s.request.changeId as string))
        setAside += aside.size
        for (const made of w.made)
          expect(saved.has(made) || aside.has(made) || w.replica.vanished.has(made as `change:${string}`)).toBe(true)
      }
    }
    expect(setAside).toBeGreaterThan(0)
  }, 240_000)
})
