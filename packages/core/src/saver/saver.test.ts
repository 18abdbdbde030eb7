import { describe, expect, test } from 'vitest'
import { newId, sameJson, seededRandom, type ChangeId, type Random } from '../base/index.ts'
import { applyPatches, currentForm, freshProject, passGate, plainPanel, type Project, type Request } from '../project/index.ts'
import { EditMaker } from '../testing/edits.ts'
import { testTypefaces } from '../testing/fonts.ts'
import {
  Saver,
  type SaveAnswer,
  type SavedChange,
  type SaveRequest,
  type SaverCommand,
  type SaverEvent,
  type SetAside,
} from './index.ts'

const fresh = () => freshProject('Test', plainPanel, testTypefaces)
const seed = Number(process.env['SEED'] ?? 4600)
/** `npm run soak` runs more of them. */
const histories = Number(process.env['SAVER_HISTORIES'] ?? 2000)

const away = { code: 'test.away', facts: {} }

/** A server as the window sees it, without a database. A note with `poison` breaks it, one with `huge` is too large for it. */
class ModelServer {
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

/** What a browser keeps, whichever window wrote it. */
class Kept {
  edits = new Map<ChangeId, Request>()
  aside = new Map<ChangeId, SetAside>()
}

type Sent = { window: Window; command: Extract<SaverCommand, { call: number }>; answer: SaverEvent | null }

/** One window: carries out what the saver says, and may be closed at any step. */
class Window {
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
        const calm =
          !this.wire.length && this.windows.every((w) => w.saver.state === 'saved' && w.saver.revision === this.server.revision)
        if (calm) break
      }
    }
  }
}

describe('what was shown is saved, waiting, or set aside and listed', () => {
  test(`in ${histories} histories with lost, late, doubled and reordered answers, and windows closed at any step`, () => {
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
  }, 240_000)
})

describe('the saver', () => {
  const started = () => {
    const server = new ModelServer(fresh())
    const [kept, wire, shown] = [new Kept(), [] as Sent[], new Set<ChangeId>()]
    const open = (nowMs = 0) => new Window(server, kept, wire, shown, nowMs)
    const answer = (nowMs: number) => {
      const { window, command } = wire.shift()!
      const event =
        command.do === 'save'
          ? server.save(command.request)
          : command.do === 'ask known'
            ? { on: 'known answer' as const, call: 0, known: command.ids.filter(server.knows) }
            : { on: 'changes answer' as const, call: 0, changes: server.rows.slice(command.since) }
      window.hear({ ...event, call: command.call } as SaverEvent, nowMs)
      return command
    }
    return { server, kept, wire, open, answer }
  }
  const note = (id: string, text: string): SaverEvent => ({
    on: 'edit',
    request: { changeId: `change:${id}`, edit: 'set project', args: { values: { note: text } } },
  })

  test('keeps at once, saves soon, lets go when it is saved', () => {
    const { server, kept, wire, open, answer } = started()
    const window = open()
    window.hear(note('a', 'one'), 1000)
    expect([kept.edits.size, wire.length, window.saver.state, window.wakeMs]).toEqual([1, 0, 'waiting', 1300])
    window.hear(note('b', 'two'), 1200)
    window.hear({ on: 'time' }, 1300)
    expect([wire.length, window.saver.state]).toEqual([1, 'saving'])
    answer(1350)
    expect([server.project.note, kept.edits.size, window.saver.state, window.saver.revision]).toEqual(['two', 0, 'saved', 2])
  })
  test('leaving sends what waits, for the last time', () => {
    const { wire, open } = started()
    const window = open()
    window.hear(note('a', 'one'), 1000)
    window.hear({ on: 'leaving' }, 1001)
    expect(wire.map((s) => s.command)).toMatchObject([
      { do: 'save', last: true, request: { base: 0, changes: [{ changeId: 'change:a' }] } },
    ])
  })
  test('an edit that the server never takes is found by halves, set aside and told; the rest goes on', () => {
    const { server, kept, open, wire, answer } = started()
    const window = open()
    for (let i = 0; i < 9; i++)
      window.hear(
        i === 4
          ? note('bad', 'senseless')
          : {
              on: 'edit',
              request: { changeId: `change:v${i}`, edit: 'add variable', args: { id: `variable:v${i}`, name: `v${i}` } },
            },
        0,
      )
    window.hear({ on: 'time' }, 400)
    for (let i = 0; wire.length && i < 30; i++) answer(500 + i)
    expect(server.project.variableOrder.length).toBe(8)
    expect([...kept.aside.keys()]).toEqual(['change:bad'])
    expect(window.saver.aside.map((a) => a.request.changeId)).toEqual(['change:bad'])
    expect([window.saver.state, kept.edits.size]).toEqual(['saved', 0])
  })
  test('one that breaks the server is tried again before it is set aside', () => {
    const { kept, open, wire, answer } = started()
    const window = open()
    window.hear(note('bad', 'poison'), 0)
    let nowMs = 400
    for (let tries = 0; tries < 6; tries++) {
      expect(kept.aside.size).toBe(0)
      window.hear({ on: 'time' }, nowMs)
      answer(nowMs)
      nowMs += 20_000
    }
    expect([kept.aside.size, wire.length, window.saver.state]).toEqual([1, 0, 'saved'])
  })
  test('batches are cut by size and by number', () => {
    const { open, wire, answer } = started()
    const window = open()
    for (let i = 0; i < 5; i++)
      window.hear(
        {
          on: 'edit',
          request: { changeId: `change:p${i}`, edit: 'set project', args: { values: { note: `${i}`.repeat(4000) } } },
        },
        0,
      )
    for (let i = 0; i < 500; i++)
      window.hear(
        { on: 'edit', request: { changeId: `change:n${i}`, edit: 'set project', args: { values: { note: `n${i}` } } } },
        0,
      )
    window.hear({ on: 'time' }, 400)
    const sizes: number[] = []
    while (wire.length) {
      const command = answer(500)
      if (command.do === 'save') sizes.push(command.request.changes.length)
    }
    expect(sizes).toEqual([200, 200, 105])
  })
  test('what a dead window left is run only when the server has said which of it it has', () => {
    const { server, kept, open, wire, answer } = started()
    const first = open()
    first.hear({ on: 'edit', request: { changeId: 'change:v', edit: 'add variable', args: { id: 'variable:v', name: 'v' } } }, 0)
    first.hear({ on: 'time' }, 400)
    // Saved, but the window dies before it hears so; then someone else goes on.
    server.save((wire.shift()!.command as { request: SaveRequest }).request)
    first.open = false
    const second = open()
    expect(wire.map((s) => s.command.do)).toEqual(['ask known'])
    answer(500)
    expect([kept.edits.size, second.saver.aside, second.saver.state]).toEqual([0, [], 'saved'])
  })
  test('however much was left is asked after in parts, and all of it is taken up', () => {
    const { server, kept, open, wire, answer } = started()
    for (let i = 0; i < 2300; i++) {
      const request = { changeId: `change:n${i}` as const, edit: 'set project', args: { values: { note: `n${i}` } } }
      kept.edits.set(request.changeId, request)
    }
    const window = open()
    const asked: number[] = []
    while (wire.length) {
      const command = answer(500)
      if (command.do === 'ask known') asked.push(command.ids.length)
    }
    expect(asked).toEqual([1000, 1000, 300])
    expect([server.revision, server.project.note, kept.edits.size, window.saver.state]).toEqual([2300, 'n2299', 0, 'saved'])
  })
  test('others’ changes while the server is asked, a server that is away and speaks again, a newer form', () => {
    const { server, open, wire, answer } = started()
    const [one, two] = [open(), open()]
    one.hear(note('a', 'one'), 0)
    one.hear({ on: 'time' }, 400)
    answer(410)
    two.hear({ on: 'told', revision: 1, form: currentForm }, 420)
    expect(answer(430)).toMatchObject({ do: 'ask changes', since: 0 })
    expect(two.saver.project.note).toBe('one')
    two.hear(note('b', 'two'), 500)
    two.hear({ on: 'time' }, 900)
    two.hear({ on: 'failed', call: (wire.shift()!.command as { call: number }).call, why: 'away', problem: away }, 950)
    expect([two.saver.state, two.wakeMs]).toEqual(['away', 1450])
    two.hear({ on: 'told', revision: 1, form: currentForm }, 1000)
    expect(two.saver.state).toBe('away')
    answer(1100)
    expect([server.project.note, two.saver.state]).toEqual(['two', 'saved'])
    // On a network again, nothing waits for its next try.
    two.hear(note('d', 'again'), 1110)
    two.hear({ on: 'time' }, 1500)
    const failed = { on: 'failed', call: (wire.shift()!.command as { call: number }).call, why: 'away', problem: away } as const
    two.hear(failed, 1510)
    expect([two.saver.state, wire.length]).toEqual(['away', 0])
    two.hear({ on: 'online' }, 1520)
    expect(answer(1530)).toMatchObject({ do: 'save' })
    expect([server.project.note, two.saver.state]).toEqual(['again', 'saved'])
    two.hear({ on: 'told', revision: 9, form: currentForm + 1 }, 1600)
    two.hear(note('c', 'three'), 1300)
    two.hear({ on: 'time' }, 9000)
    expect([two.stopped, two.saver.state, wire.length]).toEqual([true, 'load again', 0])
  })
})
