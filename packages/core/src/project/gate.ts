import { enablePatches, produceWithPatches, setAutoFreeze, type Patch as ImmerPatch } from 'immer'
import { bad, good, type ChangeId, type Result } from '../base/index.ts'
import { EditRefused, edits, type EditNote } from './edits/index.ts'
import { unkeepable } from './keepable.ts'
import { applyPatches, patchesBetween, pathOf, pointer, staysSpent, type Patch } from './patches.ts'
import { recordDepth } from './record-paths.ts'
import type { Project } from './types.ts'
import { validateTouched } from './validate.ts'

enablePatches()
setAutoFreeze(true)

/** A request: enough to do it again on another state of the document. */
export interface Request {
  changeId: ChangeId
  edit: string
  args: unknown
}

/** A request that was done: what it changed, and what takes it back. */
export interface Change extends Request {
  patches: Patch[]
  inverse: Patch[]
}

export interface Done {
  project: Project
  change: Change
  note: EditNote
}

/**
 * The one way to write the document: runs the named edit on a draft, validates the records it touched and stores what
 * the validator returned; all or nothing. Problems: `gate.edit`, `gate.args` (message), `edit.…` (the edit does not
 * apply here), those of `unkeepable`, `gate.schema` (path, message), `gate.dangling` (from, to), `gate.order` (where).
 */
export function passGate(project: Project, request: Request): Result<Done> {
  const edit = edits.get(request.edit)
  if (!edit) return bad('gate.edit', { edit: request.edit })
  const unkept = unkeepable(request.args)
  if (unkept) return { ok: false, problem: unkept }
  const args = edit.args.validate(request.args, { convert: false })
  if (args.error) return bad('gate.args', { edit: request.edit, message: args.error.message.slice(0, 300) })
  let note: EditNote = {}
  let next: Project
  let raw: ImmerPatch[]
  try {
    const result = produceWithPatches(project, (draft) => {
      note = edit.apply(draft as Project, structuredCopy(args.value) as Record<string, unknown>, project) ?? {}
    })
    next = result[0]
    raw = result[1]
  } catch (error) {
    if (error instanceof EditRefused) return { ok: false, problem: error.problem }
    throw error
  }
  const settled = settle(project, next, raw)
  if (!settled.ok) return settled
  return good({ ...settled.value, change: { ...request, ...settled.value.change }, note })
}

/** JSON data copied, so that a draft never shares objects with a caller's arguments. */
const structuredCopy = (value: unknown): unknown => JSON.parse(JSON.stringify(value)) as unknown

type Settled = Result<{ project: Project; change: { patches: Patch[]; inverse: Patch[] } }>

/** Validates what was touched and keeps old objects where nothing changed. */
function settle(before: Project, drafted: Project, raw: readonly ImmerPatch[]): Settled {
  const touched = new Set(raw.map((patch) => pointer(patch.path.slice(0, recordDepth(patch.path)))))
  const validated = validateTouched(before, drafted, [...touched])
  if (!validated.ok) return validated
  const after = validated.value
  const patches: Patch[] = []
  const inverse: Patch[] = []
  for (const path of touched) {
    const keys = pathOf(path)
    const between = patchesBetween(at(before, keys), at(after, keys), path)
    patches.push(...between.patches)
    inverse.unshift(...between.inverse)
  }
  const undoable = inverse.filter(staysSpent)
  const project = patches.length ? applyPatches(before, patches) : before
  if (!project) throw new Error('patches lead nowhere')
  return good({ project, change: { patches, inverse: undoable } })
}

const at = (data: unknown, path: readonly string[]): unknown =>
  path.reduce<unknown>((o, key) => (o === undefined || o === null ? undefined : (o as Record<string, unknown>)[key]), data)

/**
 * A request that carries what it changes and nothing else, so that two which do not touch merge; null when it changes
 * nothing. What the edit does not know how to narrow stays as it is.
 */
export function narrowed(project: Project, request: Request): Request | null {
  const edit = edits.get(request.edit)
  if (!edit?.narrow || edit.args.validate(request.args, { convert: false }).error) return request
  const args = edit.narrow(project, request.args as Record<string, unknown>)
  return args && { ...request, args }
}

/** The request that takes a change back. Null when the change did nothing. */
export function undoOf(change: Change, changeId: ChangeId): Request | null {
  if (!change.inverse.length) return null
  const left = change.patches.filter((patch) => !patch.path.startsWith('/spent/'))
  return { changeId, edit: 'undo', args: { of: change.changeId, patches: change.inverse, left } }
}

/** The sentences of the gate and of edits. */
export const gateSentences: Record<string, string> = {
  'gate.edit': 'There is no edit “{edit}”.',
  'gate.id-taken': 'Another change has been saved under the same id.',
  'gate.args': 'Invalid arguments for “{edit}”: {message}.',
  'gate.schema': 'Not saved: {message} (at {path}).',
  'gate.text': 'Not saved: the text contains {what} (at {path}).',
  'gate.number': 'Not saved: number out of range (at {path}).',
  'gate.key': 'Not saved: invalid key (at {path}).',
  'gate.deep': 'Not saved: more than {most} levels.',
  'gate.large': 'Change too large (limit {most} characters). Split it.',
  'gate.many': 'A project can have at most {most} {what}.',
  'gate.numbers': 'Two {what}s would have the same number.',
  'gate.dangling': '{from} refers to {to}, which does not exist.',
  'gate.order': 'The order of {where} does not match its records.',
  'edit.gone': '{id} was deleted.',
  'edit.taken': 'The id {id} is already in use.',
  'gate.past-memory': '{name} at {address} has {words} word(s) and exceeds the last address 0xFFFF.',
  'edit.memory-full': 'No free block of {words} words in panel memory.',
  'edit.address-in-use': 'The address is in use by {name}.',
  'edit.number-in-use': 'The number is used by {name}.',
  'edit.last-page': 'The last page cannot be deleted.',
  'edit.kind': 'Unknown kind “{kind}”.',
  'edit.changed-since': 'Cannot undo: it was changed by someone else afterwards.',
  'edit.shape': 'The target has changed its data type (at {path}).',
  'edit.other-page': '“{name}” is on another page. Only widgets on one page can be grouped.',
  'edit.no-copy': '“{name}” is not a linked copy.',
  'edit.path': 'This would change a whole part of the project at once (at {path}).',
  'edit.role': '“{name}” is built in. It can be edited but not deleted.',
  'edit.number-taken': 'Number {number} is used by “{name}”.',
  'edit.number-spent': 'Number {number} is reserved for “{name}”. Release it on Variables, or choose another.',
  'edit.number-zero': 'The number of a {kind} starts at 1; 0 means that none is open.',
  'edit.numbers-full': 'All numbers from 1 to 65535 are used; no {what} can be added.',
  'edit.start-layer': 'Only a page can be the start page.',
  'edit.spent': 'Used numbers are not reassigned.',
}
