import type { ChangeId, Problem } from '../base/index.ts'
import { currentForm, patchesBetween, type Done, type Patch, type Project, type Request } from '../project/index.ts'
import { mostAsked, mostBatchSize, mostChanges, type SaveAnswer, type SavedChange, type SaveRequest } from './messages.ts'
import { bare, Replica, type Rebased, type SetAside } from './replica.ts'

/** Why a call to the server came to nothing. `away`: no answer; `fault`: it broke; `too large`, `never`: not as it is. */
export type Failure = 'away' | 'fault' | 'too large' | 'never' | 'load again'

export type SaverEvent =
  /** Someone edits here. Ids are fresh ones of the window's own chance. */
  | { on: 'edit'; request: Request }
  | { on: 'undo' | 'redo'; changeId: ChangeId }
  /** Unsaved changes of windows that are gone, in order, and what is set aside already. */
  | { on: 'found'; requests: readonly Request[]; aside: readonly SetAside[] }
  | { on: 'forget'; changeId: ChangeId }
  | { on: 'saved answer'; call: number; answer: SaveAnswer }
  | { on: 'changes answer'; call: number; changes: readonly SavedChange[] }
  | { on: 'known answer'; call: number; known: readonly ChangeId[] }
  | { on: 'failed'; call: number; why: Failure; problem: Problem }
  /** The server has committed a revision, or says which one there is. */
  | { on: 'told'; revision: number; form: number }
  | { on: 'time' }
  /** The machine is on a network again: what failed may go through now. */
  | { on: 'online' }
  | { on: 'leaving' }

export type SaverCommand =
  /** Into the browser's own storage, at once. */
  | { do: 'keep'; request: Request }
  /** These wait no more; `aside`: nor are they kept as set aside by any window. */
  | { do: 'let go'; ids: readonly ChangeId[]; aside: boolean }
  | { do: 'set aside'; aside: SetAside }
  /** One call at a time; its answer or failure comes back with its number. `last`: the window is about to be gone. */
  | { do: 'save'; call: number; request: SaveRequest; last: boolean }
  | { do: 'ask changes'; call: number; since: number }
  | { do: 'ask known'; call: number; ids: readonly ChangeId[] }
  /** Send `time` then. */
  | { do: 'wake'; atMs: number }
  | { do: 'patch worker'; patches: readonly Patch[] }
  | { do: 'refuse'; problem: Problem }
  | { do: 'note'; note: Done['note'] }
  | { do: 'load again'; problem: Problem }

export type SaveState = 'saved' | 'waiting' | 'saving' | 'away' | 'load again'

const saveDelayMs = 300
const retryMs = [500, 1000, 2000, 4000, 8000]
/** How often a single change may break the server before it is set aside. */
const mostFaults = 6

type Call = { number: number } & ({ kind: 'save' | 'known'; ids: ChangeId[] } | { kind: 'changes' })

/**
 * Document, unsaved edits and server as one machine: each event gives commands to carry out, in order. The law: whatever
 * was shown is saved, waiting (kept in the browser until it is), or set aside and listed; whatever is lost, late, doubled
 * or in another order on the way, and wherever the window is closed.
 */
export class Saver {
  readonly aside: SetAside[] = []
  /** Why nothing is saved at the moment, where that is so. */
  trouble: Problem | null = null
  private replica: Replica
  private call: Call | null = null
  private calls = 0
  private heard = 0
  private dueMs: number | null = null
  private failures = 0
  /** How many changes the next batch may have: fewer after the server did not take one. */
  private width = mostChanges
  private faultsOfFirst = 0
  private unchecked: Request[] = []
  /** Changes that others have set aside, of which the server has not said yet that it has it not. */
  private uncheckedAside: ChangeId[] = []
  private stopped = false
  private out: SaverCommand[] = []

  constructor(project: Project, revision: number) {
    this.replica = new Replica(project, revision)
  }

  get project(): Project {
    return this.replica.project
  }
  get revision(): number {
    return this.replica.revision
  }
  get canUndo(): boolean {
    return this.replica.canUndo
  }
  get canRedo(): boolean {
    return this.replica.canRedo
  }
  /** Changes shown here and not saved yet. */
  get unsaved(): number {
    return this.replica.pending.length + this.unchecked.length
  }
  get state(): SaveState {
    if (this.stopped) return 'load again'
    if (this.trouble) return 'away'
    if (this.call?.kind === 'save') return 'saving'
    return this.unsaved ? 'waiting' : 'saved'
  }

  hear(event: SaverEvent, nowMs: number): readonly SaverCommand[] {
    this.out = []
    const before = this.project
    const leaving = event.on === 'leaving'
    this.take(event, nowMs)
    if (this.project !== before) {
      const { patches } = patchesBetween(before, this.project)
      if (patches.length) this.out.push({ do: 'patch worker', patches })
    }
    this.goOn(nowMs, leaving)
    return this.out
  }

  private take(event: SaverEvent, nowMs: number): void {
    switch (event.on) {
      case 'edit':
        return this.settle(this.replica.edit(event.request), nowMs)
      case 'undo':
        return this.settle(this.replica.undo(event.changeId), nowMs)
      case 'redo':
        return this.settle(this.replica.redo(event.changeId), nowMs)
      case 'found':
        return this.find(event.requests, event.aside, nowMs)
      case 'forget':
        return this.forget(event.changeId)
      case 'told':
        return this.hearTold(event.revision, event.form)
      case 'saved answer':
      case 'changes answer':
      case 'known answer':
      case 'failed':
        return this.hearAnswer(event, nowMs)
      case 'online':
        return this.tryAtOnce()
      case 'time':
      case 'leaving':
    }
  }

  private settle(ran: ReturnType<Replica['undo']>, nowMs: number): void {
    if (!ran) return
    if (!ran.ok) return void this.out.push({ do: 'refuse', problem: ran.problem })
    if (Object.keys(ran.note).length) this.out.push({ do: 'note', note: ran.note })
    if (!ran.change) return
    this.out.push({ do: 'keep', request: bare(ran.change) })
    this.dueMs ??= nowMs + saveDelayMs
  }

  /** Changes left behind are run only when the server has said which of it it has already. */
  private find(requests: readonly Request[], aside: readonly SetAside[], nowMs: number): void {
    this.aside.push(...aside)
    // One set aside may have been saved from another window that had it too.
    this.uncheckedAside.push(...aside.map((a) => a.request.changeId))
    const mine = new Set(this.replica.pending.map((c) => c.changeId))
    this.unchecked.push(...requests.filter((r) => !mine.has(r.changeId)))
    if (this.unchecked.length || this.uncheckedAside.length) this.dueMs = nowMs
  }

  private forget(changeId: ChangeId): void {
    const at = this.aside.findIndex((a) => a.request.changeId === changeId)
    if (at >= 0) this.aside.splice(at, 1)
    this.out.push({ do: 'let go', ids: [changeId], aside: true })
  }

  private hearTold(revision: number, form: number): void {
    if (form > currentForm) return this.loadAgain({ code: 'saver.newer-form', facts: { form } })
    this.heard = Math.max(this.heard, revision)
    // A server that speaks is no longer away.
    this.tryAtOnce()
  }

  private tryAtOnce(): void {
    if (this.trouble && !this.call) this.dueMs = 0
  }

  private hearAnswer(event: Extract<SaverEvent, { call: number }>, nowMs: number): void {
    const call = this.call
    // An answer to what was given up already: whatever it says, asking again will say it too.
    if (!call || call.number !== event.call) return
    this.call = null
    if (event.on === 'failed') return this.fail(call, event.why, event.problem, nowMs)
    this.trouble = null
    this.failures = 0
    this.dueMs = this.unsaved || this.uncheckedAside.length ? nowMs : null
    if (event.on === 'changes answer') {
      this.takeTheirs(event.changes)
      this.heard = this.revision
      return
    }
    if (event.on === 'known answer' && call.kind === 'known') return this.restore(new Set(call.ids), new Set(event.known), nowMs)
    if (event.on === 'saved answer' && call.kind === 'save') this.hearSaved(call.ids, event.answer)
  }

  private hearSaved(ids: ChangeId[], answer: SaveAnswer): void {
    if (answer.outcome !== 'behind') this.faultsOfFirst = 0
    switch (answer.outcome) {
      case 'saved':
        this.replica.confirm(ids, answer.revision)
        this.width = Math.min(mostChanges, this.width * 2)
        this.out.push({ do: 'let go', ids, aside: true })
        if (!this.unsaved) this.dueMs = null
        return
      case 'behind':
        return this.takeTheirs(answer.changes)
      case 'known':
        return this.rebased(this.replica.rebase(new Set(answer.changeIds)), new Set(answer.changeIds))
      case 'refused':
        return this.setAside(answer.changeId, answer.problem)
    }
  }

  private takeTheirs(changes: readonly SavedChange[]): void {
    const rebased = this.replica.takeTheirs(changes)
    if (!rebased) return this.loadAgain({ code: 'saver.misfit', facts: { revision: this.revision } })
    const saved = new Set<ChangeId>(changes.map((c) => c.changeId))
    this.rebased(rebased, saved)
    // One set aside here may have been saved from another window that had it too.
    for (const { request } of [...this.aside]) if (saved.has(request.changeId)) this.forget(request.changeId)
  }

  /**
   * Saved changes are dropped everywhere. A change that has nothing left to change here waits no more, but where another window has set it
   * aside, it stays there, listed.
   */
  private letGo(gone: readonly ChangeId[], saved: ReadonlySet<ChangeId>): void {
    const [done, rest] = [gone.filter((id) => saved.has(id)), gone.filter((id) => !saved.has(id))]
    if (done.length) this.out.push({ do: 'let go', ids: done, aside: true })
    if (rest.length) this.out.push({ do: 'let go', ids: rest, aside: false })
  }

  private rebased({ gone, aside }: Rebased, saved: ReadonlySet<ChangeId> = new Set()): void {
    this.letGo(gone, saved)
    for (const one of aside) this.putAside(one)
    if (!this.unsaved) this.dueMs = null
  }

  private setAside(changeId: ChangeId, problem: Problem): void {
    const change = this.replica.pending.find((c) => c.changeId === changeId)
    if (!change) return
    const { gone, aside } = this.replica.drop(changeId)
    this.rebased({ gone: gone.filter((id) => id !== changeId), aside: [{ request: bare(change), problem }, ...aside] })
  }

  private putAside(aside: SetAside): void {
    this.aside.push(aside)
    this.out.push({ do: 'set aside', aside })
  }

  private restore(asked: ReadonlySet<ChangeId>, known: ReadonlySet<ChangeId>, nowMs: number): void {
    this.uncheckedAside = this.uncheckedAside.filter((id) => !asked.has(id))
    for (const { request } of [...this.aside]) if (known.has(request.changeId)) this.forget(request.changeId)
    const found = this.unchecked.filter((r) => asked.has(r.changeId))
    this.unchecked = this.unchecked.filter((r) => !asked.has(r.changeId))
    const gone = found.filter((r) => known.has(r.changeId)).map((r) => r.changeId)
    for (const request of found) {
      if (known.has(request.changeId)) continue
      const ran = this.replica.edit(request)
      if (!ran.ok) this.putAside({ request, problem: ran.problem })
      else if (!ran.change) gone.push(request.changeId)
    }
    this.letGo(gone, known)
    this.dueMs = this.unsaved || this.uncheckedAside.length ? nowMs : null
  }

  private fail(call: Call, why: Failure, problem: Problem, nowMs: number): void {
    if (why === 'load again') return this.loadAgain(problem)
    if (call.kind === 'save' && why !== 'away') {
      if (call.ids.length > 1) {
        // One of them is not taken: the next batch has half as many, until it is found.
        this.width = Math.max(1, Math.floor(call.ids.length / 2))
        this.dueMs = nowMs
        return
      }
      if (why !== 'fault' || ++this.faultsOfFirst >= mostFaults) {
        this.faultsOfFirst = 0
        this.trouble = null
        this.dueMs = nowMs
        return this.setAside(call.ids[0]!, problem)
      }
    }
    this.trouble = problem
    this.dueMs = nowMs + retryMs[Math.min(this.failures++, retryMs.length - 1)]!
  }

  private loadAgain(problem: Problem): void {
    if (!this.stopped) this.out.push({ do: 'load again', problem })
    this.stopped = true
  }

  /** Makes the next call where one is due. */
  private goOn(nowMs: number, leaving: boolean): void {
    if (this.call || this.stopped) return
    const due = leaving || (this.dueMs !== null && this.dueMs <= nowMs)
    if ((this.unchecked.length || this.uncheckedAside.length) && due && !leaving) return this.askKnown()
    if (this.replica.pending.length && due) return this.save(leaving)
    if (this.heard > this.revision && (this.dueMs === null || due) && !leaving) return this.askChanges()
    if (this.dueMs !== null && !leaving) this.out.push({ do: 'wake', atMs: this.dueMs })
  }

  private askKnown(): void {
    const ids = [...this.unchecked.map((r) => r.changeId), ...this.uncheckedAside].slice(0, mostAsked)
    this.call = { number: ++this.calls, kind: 'known', ids }
    this.out.push({ do: 'ask known', call: this.call.number, ids })
  }

  private askChanges(): void {
    this.call = { number: ++this.calls, kind: 'changes' }
    this.out.push({ do: 'ask changes', call: this.call.number, since: this.revision })
  }

  private save(last: boolean): void {
    const changes: Request[] = []
    let size = 0
    for (const change of this.replica.pending) {
      const request = bare(change)
      size += JSON.stringify(request).length
      if (changes.length && (changes.length >= this.width || size > mostBatchSize)) break
      changes.push(request)
    }
    this.call = { number: ++this.calls, kind: 'save', ids: changes.map((c) => c.changeId) }
    this.out.push({ do: 'save', call: this.call.number, request: { form: currentForm, base: this.revision, changes }, last })
  }
}

export const saverSentences: Record<string, string> = {
  'saver.newer-form': 'The server was updated. Reload; unsaved changes are kept.',
  'saver.misfit': 'Another window saved an incompatible change. Reload; unsaved changes are kept.',
}
