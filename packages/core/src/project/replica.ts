import type { ChangeId, Problem } from '../base/index.ts'
import type { EditNote } from './edits/index.ts'
import { passGate, undoOf, type Change, type Request } from './gate.ts'
import { applyPatches, type Patch } from './patches.ts'
import type { Project } from './types.ts'

/** A change that did not apply any more after someone else's came first. It is kept, to be shown. */
export interface SetAside {
  request: Request
  problem: Problem
}

/**
 * One window's copy of a document: what the server has confirmed, and one's own unsaved changes on top. When others
 * were first, one's own are taken off, theirs applied, and one's own run again.
 */
export class Replica {
  project: Project
  pending: Change[] = []
  setAside: SetAside[] = []
  /** Changes that had nothing left to change once someone else had made the same one. */
  readonly vanished = new Set<ChangeId>()
  private done = new Map<ChangeId, Change>()
  private undoStack: ChangeId[] = []
  private redoStack: ChangeId[] = []

  constructor(
    private confirmed: Project,
    public revision: number,
  ) {
    this.project = confirmed
  }

  /** Runs an edit here and now. A change that changes nothing leaves no trace. */
  edit(request: Request): { ok: true; change: Change | null; note: EditNote } | { ok: false; problem: Problem } {
    const result = this.run(request)
    if (result.ok && result.change) {
      this.undoStack.push(request.changeId)
      this.redoStack = []
    }
    return result
  }

  private run(request: Request): ReturnType<Replica['edit']> {
    const passed = passGate(this.project, request)
    if (!passed.ok) return passed
    const { change, project, note } = passed.value
    if (!change.patches.length) return { ok: true, change: null, note }
    this.project = project
    this.pending.push(change)
    this.done.set(change.changeId, change)
    return { ok: true, change, note }
  }

  get canUndo(): boolean {
    return this.undoStack.length > 0
  }

  get canRedo(): boolean {
    return this.redoStack.length > 0
  }

  /** The edit that undo would take back. */
  get lastEdit(): string | null {
    const last = this.undoStack.at(-1)
    return last ? (this.done.get(last)?.edit ?? null) : null
  }

  /** Takes back one's own last change; refused with a reason if someone has changed the same place since. */
  undo(changeId: ChangeId): ReturnType<Replica['edit']> | null {
    return this.turnBack(this.undoStack, this.redoStack, changeId)
  }

  redo(changeId: ChangeId): ReturnType<Replica['edit']> | null {
    return this.turnBack(this.redoStack, this.undoStack, changeId)
  }

  private turnBack(from: ChangeId[], to: ChangeId[], changeId: ChangeId): ReturnType<Replica['edit']> | null {
    const of = from.pop()
    const change = of && this.done.get(of)
    const request = change && undoOf(change, changeId)
    if (!request) return null
    const result = this.run(request)
    if (result.ok) to.push(changeId)
    return result
  }

  /** What the next save sends: everything pending, on this base. */
  batch(most: number): { base: number; changes: Request[] } {
    return {
      base: this.revision,
      changes: this.pending.slice(0, most).map(({ changeId, edit, args }) => ({ changeId, edit, args })),
    }
  }

  /** The server has committed these changes of ours, in order, up to `revision`. */
  confirm(changeIds: readonly ChangeId[], revision: number): void {
    const ours = new Set(changeIds)
    const first = this.pending.filter((change) => ours.has(change.changeId))
    for (const change of first) this.confirmed = applyPatches(this.confirmed, change.patches) ?? this.confirmed
    this.pending = this.pending.filter((change) => !ours.has(change.changeId))
    this.revision = revision
  }

  /** Changes others (or we ourselves, in an answer that was lost) have saved since our revision, in order. */
  takeTheirs(changes: readonly { changeId: ChangeId; patches: Patch[] }[], revision: number): void {
    if (revision <= this.revision) return
    const mine = this.pending
    const saved = new Set(changes.map((c) => c.changeId))
    for (const change of changes) {
      const next = applyPatches(this.confirmed, change.patches)
      if (!next) throw new Error(`revision ${revision} does not fit on ${this.revision}`)
      this.confirmed = next
    }
    this.revision = revision
    this.project = this.confirmed
    this.pending = []
    for (const change of mine) {
      if (saved.has(change.changeId)) continue
      const again = this.run(change)
      if (!again.ok) this.dropFromHistory(change, again.problem)
      else if (!again.change) {
        this.vanished.add(change.changeId)
        this.forget(change.changeId)
      }
    }
  }

  /** The server refuses one of ours: it is set aside, and the others run again without it. */
  setBack(changeId: ChangeId, problem: Problem): void {
    const mine = this.pending
    this.pending = []
    this.project = this.confirmed
    for (const change of mine) {
      if (change.changeId === changeId) {
        this.dropFromHistory(change, problem)
        continue
      }
      const again = this.run(change)
      if (!again.ok) this.dropFromHistory(change, again.problem)
    }
  }

  private dropFromHistory(request: Request, problem: Problem): void {
    this.setAside.push({ request: { changeId: request.changeId, edit: request.edit, args: request.args }, problem })
    this.forget(request.changeId)
  }

  private forget(id: ChangeId): void {
    this.undoStack = this.undoStack.filter((other) => other !== id)
    this.redoStack = this.redoStack.filter((other) => other !== id)
  }

  /** Puts unsaved changes back on top, as after a window was closed before they were saved. */
  restore(requests: readonly Request[]): void {
    for (const request of requests) {
      const result = this.edit(request)
      if (!result.ok) this.dropFromHistory(request, result.problem)
    }
  }
}
