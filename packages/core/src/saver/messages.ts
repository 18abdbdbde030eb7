import type { ChangeId, Problem } from '../base/index.ts'
import type { Patch, Request } from '../project/index.ts'

/** A change that has been saved: enough for another window to take it. */
export interface SavedChange {
  revision: number
  changeId: ChangeId
  edit: string
  patches: Patch[]
}

/** A batch on a base revision: all of it is saved, or none. Sent again, it is recognised by its change ids. */
export interface SaveRequest {
  /** The form of the document that the edits were made on. */
  form: number
  base: number
  changes: Request[]
}

/**
 * `saved`: committed, up to `revision`. `behind`: others were first; take `changes` (from the base on) and send again.
 * `known`: these are part of the base already; take them off and send the rest again. `refused`: the change does not pass
 * the gate here, or its id was taken by another; set it aside and send the rest again.
 */
export type SaveAnswer =
  | { outcome: 'saved'; revision: number }
  | { outcome: 'behind'; revision: number; changes: SavedChange[] }
  | { outcome: 'known'; changeIds: ChangeId[] }
  | { outcome: 'refused'; changeId: ChangeId; problem: Problem }

/** Change ids that one may ask after at once. */
export const mostAsked = 1000
/** Changes in one batch, at most, and the size of a batch as JSON text beyond which no further change is put in. */
export const mostChanges = 200
export const mostBatchSize = 1024 * 1024
