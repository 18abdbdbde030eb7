import { expect } from 'vitest'
import { newId, type ChangeId, type Random } from '@moth-lamp/core/base'
import { currentForm } from '@moth-lamp/core/project'
import { Saver, type SavedChange, type SaverCommand, type SaverEvent } from '@moth-lamp/core/saver'
import type { OpenedProject } from '@moth-lamp/contract'
import { EditMaker } from '../../core/src/testing/edits.ts'
import type { Running } from './server.ts'

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
