import type { ChangeId, Problem } from '../base/index.ts'
import { applyPatches, narrowed, passGate, undoOf, type Change, type Done, type Project, type Request } from '../project/index.ts'
import type { SavedChange } from './messages.ts'

/** A change that did not apply any more, or that the server will never take. It is kept, to be shown. */
export interface SetAside {
  request: Request
  problem: Problem
}

type Ran = { ok: true; change: Change | null; note: Done['note'] } | { ok: false; problem: Problem }

/**
 * One window's copy of a document: what the server has confirmed, and one's own unsaved changes on top. When others
 * were first, one's own are taken off, theirs applied, and one's own run again.
 */
export class Replica {
  project: Project
  pending: Change[] = []
  private done = new Map<ChangeId, Change>()
  private undoStack: ChangeId[] = []
  private redoStack: ChangeId[] = []

  constructor(
    private confirmed: Project,
    public revision: number,
  ) {
    this.project = confirmed
  }

  /** Runs an edit here and now, narrowed to what it changes. A change that changes nothing leaves no trace. */
  edit(request: Request): Ran {
    const narrow = narrowed(this.project, request)
    if (!narrow) return { ok: true, change: null, note: {} }
    const result = this.run(narrow)
    if (result.ok && result.change?.inverse.length) {
      this.undoStack.push(request.changeId)
      this.redoStack = []
    }
    return result
  }

  private run({ changeId, edit, args }: Request): Ran {
    const passed = passGate(this.project, { changeId, edit, args })
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

  /** Takes back one's own last change; refused with a reason if someone has changed the same place since. */
  undo(changeId: ChangeId): Ran | null {
    return this.turnBack(this.undoStack, this.redoStack, changeId)
  }

  redo(changeId: ChangeId): Ran | null {
    return this.turnBack(this.redoStack, this.undoStack, changeId)
  }

  private turnBack(from: ChangeId[], to: ChangeId[], changeId: ChangeId): Ran | null {
    const of = from.pop()
    const change = of && this.done.get(of)
    const request = change && undoOf(change, changeId)
    if (!request) return null
    const result = this.run(request)
    if (result.ok && result.change?.inverse.length) to.push(changeId)
    return result
  }

  /** The server has committed these changes of ours, the first ones pending, up to `revision`. */
  confirm(changeIds: readonly ChangeId[], revision: number): void {
    const ours = this.pending.slice(0, changeIds.length)
    const confirmed = applyPatches(
      this.confirmed,
      ours.flatMap((change) => change.patches),
    )
    if (!confirmed || ours.some((change, i) => change.changeId !== changeIds[i]))
      throw new Error('what is confirmed was not pending')
    this.confirmed = confirmed
    this.pending = this.pending.slice(changeIds.length)
    this.revision = revision
  }

  /**
   * Changes that were saved after some revision of ours, by others or by ourselves in an answer that was lost. Those we
   * have already are passed over. Null, and nothing has happened, where they do not follow on ours or do not fit.
   */
  takeTheirs(changes: readonly SavedChange[]): Rebased | null {
    const fresh = changes.filter((change) => change.revision > this.revision)
    if (fresh.some((change, i) => change.revision !== this.revision + 1 + i)) return null
    const confirmed = applyPatches(
      this.confirmed,
      fresh.flatMap((change) => change.patches),
    )
    if (!confirmed) return null
    this.confirmed = confirmed
    this.revision += fresh.length
    return this.rebase(new Set(fresh.map((change) => change.changeId)))
  }

  /** Runs what is pending again without some: those that are saved, or that are to be set aside. */
  rebase(without: ReadonlySet<ChangeId>): Rebased {
    const mine = this.pending
    this.pending = []
    this.project = this.confirmed
    const out: Rebased = { gone: [], aside: [] }
    for (const change of mine) {
      if (without.has(change.changeId)) {
        out.gone.push(change.changeId)
        continue
      }
      const again = this.run(change)
      if (again.ok && again.change) continue
      this.forget(change.changeId)
      if (again.ok) out.gone.push(change.changeId)
      else out.aside.push({ request: bare(change), problem: again.problem })
    }
    return out
  }

  /** Takes a change off that the server will never take; it can be undone no more. */
  drop(changeId: ChangeId): Rebased {
    this.forget(changeId)
    return this.rebase(new Set([changeId]))
  }

  private forget(id: ChangeId): void {
    this.undoStack = this.undoStack.filter((other) => other !== id)
    this.redoStack = this.redoStack.filter((other) => other !== id)
  }
}

/** Outcome of pending changes: `gone` are saved, or had nothing left to change; `aside` do not apply any more. */
export interface Rebased {
  gone: ChangeId[]
  aside: SetAside[]
}

/** A change as it is sent and kept. */
export const bare = ({ changeId, edit, args }: Request): Request => ({ changeId, edit, args })
