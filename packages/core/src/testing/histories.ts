import { expect } from 'vitest'
import { newId, sameJson, seededRandom, type ChangeId, type Random } from '../base/index.ts'
import { applyPatches, currentForm, freshProject, passGate, plainPanel, type Project, type Request } from '../project/index.ts'
import { EditMaker } from './edits.ts'
import { testTypefaces } from './fonts.ts'
import {
  Saver,
  type SaveAnswer,
  type SavedChange,
  type SaveRequest,
  type SaverCommand,
  type SaverEvent,
  type SetAside,
} from '../saver/index.ts'

export const fresh = () => freshProject('Test', plainPanel, testTypefaces)
const seed = Number(process.env['SEED'] ?? 4600)

export const away = { code: 'test.away', facts: {} }

/** A server as the window sees it, without a database. A note with `poison` breaks it, one with `huge` is too large for it. */
export class ModelServer {
  revision = 0
  rows: SavedChange[] = []
  private requests = new Map<ChangeId, Request>()

  constructor(public project: Project) {}

  save({ form, base, changes }: SaveRequest): SaverEvent & { on: 'saved answer' | 'failed' } {
    const failed = (why: 'too large' | 'fault' | 'never' | 'load again') => ({
      on: 'failed' as const,
      call: 0,
      why,
      problem: away,
    })
    if (form !== currentForm) return failed('load again')
    const text = JSON.stringify(changes)
    if (text.includes('huge')) return failed('too large')
    if (text.includes('poison')) return failed('fault')
    if (text.includes('senseless')) return failed('never')
    return { on: 'saved answer', call: 0, answer: this.run(base, changes) }
  }

  private run(base: number, changes: readonly Request[]): SaveAnswer {
    for (const request of changes) {
      const known = this.requests.get(request.changeId)
      if (known && !sameJson(known.args, request.args))
        return { outcome: 'refused', changeId: request.changeId, problem: { code: 'gate.id-taken', facts: {} } }
    }
    if (base > this.revision) throw new Error('a revision that is not there yet')
    if (base !== this.revision) return { outcome: 'behind', revision: this.revision, changes: this.rows.slice(base) }
    const known = changes.filter((c) => this.requests.has(c.changeId)).map((c) => c.changeId)
    if (known.length) return { outcome: 'known', changeIds: known }
    let at = this.project
    const rows: SavedChange[] = []
    for (const request of changes) {
      const done = passGate(at, request)
      if (!done.ok) return { outcome: 'refused', changeId: request.changeId, problem: done.problem }
      at = done.value.project
      const { changeId, edit, patches } = done.value.change
      rows.push({ revision: this.revision + rows.length + 1, changeId, edit, patches })
    }
    for (const request of changes) this.requests.set(request.changeId, request)
    this.project = at
    this.rows.push(...rows)
    this.revision += rows.length
    return { outcome: 'saved', revision: this.revision }
  }

  knows = (id: ChangeId): boolean => this.requests.has(id)
}

/** The store of one browser, whichever window wrote it. */
export class Kept {
  edits = new Map<ChangeId, Request>()
  aside = new Map<ChangeId, SetAside>()
}

export type Sent = { window: Window; command: Extract<SaverCommand, { call: number }>; answer: SaverEvent | null }

/** One window: carries out what the saver says, and may be closed at any step. */
export class Window {
  saver: Saver
  /** The document as the worker of this window has it, from patches alone. */
  worker: Project
  open = true
  wakeMs: number | null = null
  refused: string[] = []
  stopped = false

  constructor(
    server: ModelServer,
    private kept: Kept,
    private wire: Sent[],
    private shown: Set<ChangeId>,
    nowMs: number,
  ) {
    this.saver = new Saver(server.project, server.revision)
    this.worker = server.project
    this.hear({ on: 'found', requests: [...kept.edits.values()], aside: [...kept.aside.values()] }, nowMs)
  }

  hear(event: SaverEvent, nowMs: number): void {
    if (!this.open) return
    for (const command of this.saver.hear(event, nowMs)) this.obey(command)
    if (!sameJson(this.worker, this.saver.project)) expect(this.worker).toEqual(this.saver.project)
  }

  private obey(command: SaverCommand): void {
    switch (command.do) {
      case 'keep':
        this.shown.add(command.request.changeId)
        return void this.kept.edits.set(command.request.changeId, command.request)
      case 'let go':
        for (const id of command.ids) {
          this.kept.edits.delete(id)
          if (command.aside) this.kept.aside.delete(id)
        }
        return
      case 'set aside':
        this.kept.edits.delete(command.aside.request.changeId)
        return void this.kept.aside.set(command.aside.request.changeId, command.aside)
      case 'wake':
        return void (this.wakeMs = command.atMs)
      case 'patch worker': {
        const next = applyPatches(this.worker, command.patches)
        if (!next) throw new Error('patches for the worker lead nowhere')
        return void (this.worker = next)
      }
      case 'refuse':
        return void this.refused.push(command.problem.code)
      case 'load again':
        this.stopped = true
        return
      case 'note':
        return
      default:
        this.wire.push({ window: this, command, answer: null })
    }
  }
}

/** A whole history from a seed: windows that edit and close, a line that loses, delays, doubles and reorders. */
class History {
  server = new ModelServer(fresh())
  kept = new Kept()
  wire: Sent[] = []
  shown = new Set<ChangeId>()
  windows: Window[] = []
  nowMs = 0
  private maker: EditMaker

  constructor(private random: Random) {
    this.maker = new EditMaker(random)
  }

  private open = () => this.windows.push(new Window(this.server, this.kept, this.wire, this.shown, this.nowMs))
  private pick = <T>(list: readonly T[]): T => list[this.random.below(list.length)]!

  run(steps: number): void {
    this.open()
    for (let i = 0; i < steps; i++) this.step()
    this.settle()
  }

  private step(): void {
    this.nowMs += this.random.below(400)
    const window = this.windows.length ? this.pick(this.windows) : null
    const what = this.random.below(20)
    if (!window || (what === 0 && this.windows.length < 3)) return void this.open()
    if (what < 8) this.edit(window)
    else if (what < 9)
      window.hear({ on: this.pick(['undo', 'redo'] as const), changeId: newId('change', this.random) }, this.nowMs)
    else if (what < 10) this.close(window)
    else if (what < 12) window.hear({ on: 'told', revision: this.server.revision, form: currentForm }, this.nowMs)
    else if (what === 12) window.hear({ on: 'online' }, this.nowMs)
    else if (what < 15) window.hear({ on: 'time' }, this.nowMs)
    else this.passWire(false)
  }

  private close(window: Window): void {
    if (this.random.below(2)) window.hear({ on: 'leaving' }, this.nowMs)
    window.open = false
    this.windows = this.windows.filter((w) => w !== window)
  }

  private edit(window: Window): void {
    const bad = this.random.below(40)
    const note = ['poison', 'huge', 'senseless'][bad]
    const request = note
      ? { changeId: newId('change', this.random), edit: 'set project', args: { values: { note: note + this.random.below(99) } } }
      : this.maker.request(window.saver.project)
    if (request && request.edit !== 'undo') window.hear({ on: 'edit', request }, this.nowMs)
  }

  /** Lets something happen to one thing on the line: at the server, on its way back, or nothing ever. */
  private passWire(reliable: boolean): void {
    if (!this.wire.length) return
    const at = this.random.below(this.wire.length)
    const sent = this.wire[at]!
    const luck = reliable ? 9 : this.random.below(12)
    const { call } = sent.command
    if (sent.answer) {
      this.wire.splice(at, 1)
      if (luck > 1) sent.window.hear({ ...sent.answer, call } as SaverEvent, this.nowMs)
      else if (luck === 1) sent.window.hear({ on: 'failed', call, why: 'away', problem: away }, this.nowMs)
      else {
        // Given up by the window, and the answer comes after all.
        sent.window.hear({ on: 'failed', call, why: 'away', problem: away }, this.nowMs)
        this.wire.push(sent)
      }
      return
    }
    if (luck === 0) {
      this.wire.splice(at, 1)
      return sent.window.hear({ on: 'failed', call, why: 'away', problem: away }, this.nowMs)
    }
    if (luck === 1) sent.window.hear({ on: 'failed', call, why: 'away', problem: away }, this.nowMs)
    sent.answer = this.serve(sent.command)
    if (luck === 2) this.wire.push({ ...sent, answer: this.serve(sent.command) })
  }

  private serve(command: Sent['command']): SaverEvent {
    switch (command.do) {
      case 'save':
        return this.server.save(command.request)
      case 'ask changes':
        return { on: 'changes answer', call: 0, changes: this.server.rows.slice(command.since) }
      case 'ask known':
        return { on: 'known answer', call: 0, known: command.ids.filter(this.server.knows) }
    }
  }

  /** The line is good from now on: everything comes to its end, and another window looks for what is left. */
  private settle(): void {
    for (const round of [0, 1]) {
      if (round === 1 || !this.windows.length) this.open()
      for (let i = 0; i < 4000; i++) {
        this.nowMs += 500
        while (this.wire.length) this.passWire(true)
        for (const window of this.windows) {
          window.hear({ on: 'told', revision: this.server.revision, form: currentForm }, this.nowMs)
          window.hear({ on: 'time' }, this.nowMs)
        }
        const settled =
          !this.wire.length && this.windows.every((w) => w.saver.state === 'saved' && w.saver.revision === this.server.revision)
        if (settled) break
      }
    }
  }
}

/** The law that every edit shown is saved, waiting, or set aside and listed, tried in so many histories. */
export function nothingIsLost(histories: number): void {
  const counts = { shown: 0, aside: 0, gone: 0 }
  for (let n = 0; n < histories; n++) {
    const history = new History(seededRandom(seed * 100_000 + n))
    history.run(30)
    const { server, kept, shown, windows } = history
    const where = `history ${n} of seed ${seed}`
    expect([where, kept.edits.size]).toEqual([where, 0])
    for (const window of windows) {
      expect([where, window.stopped]).toEqual([where, false])
      expect([where, window.saver.state, window.saver.revision]).toEqual([where, 'saved', server.revision])
      expect([where, sameJson(window.saver.project, server.project)]).toEqual([where, true])
      expect(window.saver.aside.every((a) => kept.aside.has(a.request.changeId))).toBe(true)
    }
    for (const id of kept.aside.keys()) expect([where, id, server.knows(id)]).toEqual([where, id, false])
    for (const id of shown) {
      counts.shown++
      if (server.knows(id)) continue
      if (kept.aside.has(id)) counts.aside++
      // It had nothing left to change when it was run again on top of others'.
      else counts.gone++
    }
    const again = windows.at(-1)!.saver
    expect(again.aside.length).toBe(kept.aside.size)
  }
  expect(counts.shown).toBeGreaterThan(histories * 3)
  expect(counts.aside).toBeGreaterThan(histories / 20)
  expect(counts.gone / counts.shown).toBeLessThan(0.05)
}
