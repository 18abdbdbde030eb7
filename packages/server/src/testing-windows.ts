import { expect } from 'vitest'
import { newId, sameJson, seededRandom, type ChangeId, type Random } from '@moth-lamp/core/base'
import { currentForm, validateProject, type Project } from '@moth-lamp/core/project'
import { Saver, type SavedChange, type SaverCommand, type SaverEvent } from '@moth-lamp/core/saver'
import type { OpenedProject } from '@moth-lamp/contract'
import { EditMaker } from '../../core/src/testing/edits.ts'
import type { Running } from './server.ts'
import { serverForTest } from './testing.ts'

/** One window on a line that loses and repeats requests and answers: its saver talks to the real server. */
export class Window {
  saver!: Saver
  maker: EditMaker
  shown = new Set<ChangeId>()
  aside = new Set<ChangeId>()
  gone = new Set<ChangeId>()
  waiting: Extract<SaverCommand, { call: number }>[] = []
  nowMs = 0

  constructor(
    private running: Running,
    private id: string,
    private random: Random,
    /** The server that it is on, where that is another than `running`. */
    private on: Running = running,
  ) {
    this.maker = new EditMaker(random)
  }

  private async fetched<T>(path = '', body?: unknown): Promise<T> {
    const answer = await fetch(`http://127.0.0.1:${this.on.port}/api/projects/${this.id}${path}`, {
      ...(body ? { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}),
    })
    expect(answer.status).toBe(200)
    return (await answer.json()) as T
  }

  async open() {
    const { project, revision } = await this.fetched<OpenedProject>()
    this.saver = new Saver(project, revision)
  }

  hear(event: SaverEvent) {
    for (const command of this.saver.hear(event, (this.nowMs += 100))) {
      if (command.do === 'keep') this.shown.add(command.request.changeId)
      else if (command.do === 'set aside') this.aside.add(command.aside.request.changeId)
      else if (command.do === 'let go') for (const id of command.ids) this.gone.add(id)
      else if ('call' in command) this.waiting.push(command)
    }
  }

  edit() {
    const request = this.maker.request(this.saver.project)
    if (request && request.edit !== 'undo') this.hear({ on: 'edit', request })
    if (this.random.below(9) === 0) this.hear({ on: 'undo', changeId: newId('change', this.random) })
  }

  /** Time goes on, and one call to the server is made, or lost, or its answer is lost, or it is made twice. */
  async call(reliable = false) {
    this.nowMs += 10_000
    this.hear({ on: 'time' })
    const command = this.waiting.shift()
    if (!command) return
    const { call } = command
    const luck = reliable ? 9 : this.random.below(10)
    const lost: SaverEvent = { on: 'failed', call, why: 'away', problem: { code: 'lost', facts: {} } }
    if (luck === 0) return this.hear(lost)
    const answer = await this.served(command)
    if (luck === 2) await this.served(command)
    this.hear(luck === 1 ? lost : answer)
  }

  private async served(command: Window['waiting'][number]): Promise<SaverEvent> {
    const { call } = command
    if (command.do === 'save') return { on: 'saved answer', call, answer: await this.fetched('/changes', command.request) }
    if (command.do === 'ask known')
      return { on: 'known answer', call, ...(await this.fetched<{ known: ChangeId[] }>('/known', { ids: command.ids })) }
    return { on: 'changes answer', call, ...(await this.fetched<{ changes: SavedChange[] }>(`/changes?since=${command.since}`)) }
  }

  /** Hears which revision is the newest, as over its line. */
  private async told(): Promise<number> {
    const { revision } = await this.running.store.changesSince(this.id, this.saver.revision)
    this.hear({ on: 'told', revision, form: currentForm })
    return revision
  }

  async listen() {
    await this.told()
    await this.call()
  }

  async settle() {
    for (let tries = 0; tries < 200; tries++) {
      const revision = await this.told()
      if (this.saver.state === 'saved' && this.saver.revision === revision) return
      await this.call(true)
    }
    throw new Error('it never came to rest')
  }
}

export const newProject = async (port: number, name: string): Promise<string> => {
  const answer = await fetch(`http://127.0.0.1:${port}/api/projects`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, width: 480, height: 320, diagonalInches: 4 }),
  })
  return ((await answer.json()) as { id: string }).id
}

/** Windows, server and each other have come to the same, and whatever was shown is saved or set aside. */
export async function agree(running: Running, id: string, windows: readonly Window[]): Promise<number> {
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
  // A change that has nothing left to change on top of others' is rare.
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

/** Two windows on one project, with delays, lost and repeated answers, end with one document; so many rounds. Gives how many changes were set aside. */
export async function interleavings(running: Running, rounds: number): Promise<number> {
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
    setAside += await agree(running, id, windows)
  }
  return setAside
}

/** So many edits by windows on two servers of one database: the same document everywhere, and each hears of the other's commits. */
export async function onTwoServers(running: Running, edits: number): Promise<void> {
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
    for (let n = 0; windows[0]!.shown.size + windows[1]!.shown.size < edits && n < 10 * edits; n++) {
      const window = windows[random.below(2)]!
      if (random.below(4)) window.edit()
      else await window.call(true)
    }
    expect(windows[0]!.shown.size + windows[1]!.shown.size).toBeGreaterThanOrEqual(edits)
    await agree(running, id, windows)
    const [here, there] = [await running.store.open(id), await other.store.open(id)]
    expect(there).toEqual(here)
    for (const revisions of told) await expect.poll(() => revisions.at(-1)).toBe(here.revision)
  } finally {
    await other.stop()
  }
}
