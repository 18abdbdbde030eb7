import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { sameJson, seededRandom } from '@moth-lamp/core/base'
import { validateProject, type Project } from '@moth-lamp/core/project'
import { serverForTest } from './testing.ts'
import { newProject, Window } from './testing-windows.ts'
import type { Running } from './server.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest({ demos: [] })))
afterAll(() => running.stop())

/** Windows, server and each other have come to the same, and whatever was shown is saved or set aside. */
async function agree(id: string, windows: readonly Window[]): Promise<number> {
  // Twice: what the second saves, the first has still to hear of.
  for (const w of [...windows, ...windows]) await w.settle()
  const { project, revision } = await running.store.open(id)
  const saved = new Set<string>((await running.store.changesSince(id, 0)).changes.map((c) => c.changeId))
  let aside = 0
  let vanished = 0
  let shown = 0
  for (const w of windows) {
    expect([w.saver.revision, w.saver.unsaved]).toEqual([revision, 0])
    expect(sameJson(w.saver.project, project)).toBe(true)
    for (const id of w.shown) if (!saved.has(id) && !w.aside.has(id) && w.gone.has(id)) vanished++
    for (const id of w.shown) expect(saved.has(id) || w.aside.has(id) || w.gone.has(id)).toBe(true)
    shown += w.shown.size
    aside += w.aside.size
  }
  // What had nothing left to change on top of others' is rare.
  expect(vanished).toBeLessThanOrEqual(Math.max(4, 0.03 * shown))
  expect(validateProject(project)).toEqual({ ok: true, value: project })
  uniqueNumbers(project)
  return aside
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
      const id = await newProject(running.port, newId('project', random))
      const windows = [new Window(running, id, random), new Window(running, id, random)]
      await Promise.all(windows.map((w) => w.open()))
      for (let step = 0; step < 26; step++) {
        const window = windows[random.below(2)]!
        const what = random.below(10)
        if (what < 7) window.edit()
        else if (what < 9) await window.call()
        else await window.listen()
      }
      setAside += await agree(id, windows)
    }
    expect(setAside).toBeGreaterThan(0)
  }, 240_000)
})

describe('two servers on one database', () => {
  test('500 interleaved edits by windows on different ones: the same document everywhere, and each hears of the other’s commits', async () => {
    const url = running.databaseUrl
    const other = await serverForTest({ demos: [], databaseUrl: url })
    try {
      const random = seededRandom(500)
      const id = await newProject(running.port, 'Two servers')
      const windows = [new Window(running, id, random), new Window(running, id, random, other)]
      const told = [running, other].map((server) => {
        const revisions: number[] = []
        server.commits.watch(id, ({ revision }) => revisions.push(revision))
        return revisions
      })
      await Promise.all(windows.map((w) => w.open()))
      for (let n = 0; windows[0]!.shown.size + windows[1]!.shown.size < 500 && n < 5000; n++) {
        const window = windows[random.below(2)]!
        if (random.below(4)) window.edit()
        else await window.call(true)
      }
      expect(windows[0]!.shown.size + windows[1]!.shown.size).toBeGreaterThanOrEqual(500)
      await agree(id, windows)
      const [here, there] = [await running.store.open(id), await other.store.open(id)]
      expect(there).toEqual(here)
      for (const revisions of told) await expect.poll(() => revisions.at(-1)).toBe(here.revision)
    } finally {
      await other.stop()
    }
  }, 240_000)
})
