import { enablePatches, produceWithPatches, setAutoFreeze, type Patch as ImmerPatch } from 'immer'
import { bad, good, sameJson, type ChangeId, type Result } from '../base/index.ts'
import { EditRefused, edits, type EditNote } from './edits/index.ts'
import { applyPatches, pathOf, pointer, recordDepth, type Patch } from './patches.ts'
import type { Project } from './types.ts'
import { validateTouched } from './validate.ts'

enablePatches()
setAutoFreeze(true)

/** What someone asked for: enough to do it again on another state of the document. */
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
 * apply here), `gate.schema` (path, message), `gate.dangling` (from, to), `gate.order` (where).
 */
export function passGate(project: Project, request: Request): Result<Done> {
  const edit = edits.get(request.edit)
  if (!edit) return bad('gate.edit', { edit: request.edit })
  const args = edit.args.validate(request.args, { convert: false })
  if (args.error) return bad('gate.args', { edit: request.edit, message: args.error.message })
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
  for (const path of touched) difference(before, after, path, patches, inverse)
  // What is spent stays spent: no undo gives a number or an address back.
  const undoable = inverse.filter((patch) => !patch.path.startsWith('/spent/'))
  const project = patches.length ? applyPatches(before, patches) : before
  if (!project) throw new Error('patches lead nowhere')
  return good({ project, change: { patches, inverse: undoable.reverse() } })
}

const at = (data: unknown, path: readonly string[]): unknown =>
  path.reduce<unknown>((o, key) => (o === undefined || o === null ? undefined : (o as Record<string, unknown>)[key]), data)

/** Patches from one value to another at a path: down through objects, whole values for lists and scalars. */
function difference(before: Project, after: Project, path: string, patches: Patch[], inverse: Patch[]): void {
  const keys = pathOf(path)
  walk(at(before, keys), at(after, keys), path, patches, inverse)
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

function walk(a: unknown, b: unknown, path: string, patches: Patch[], inverse: Patch[]): void {
  if (sameJson(a, b)) return
  if (a === undefined || b === undefined || !isRecord(a) || !isRecord(b)) {
    patches.push(b === undefined ? { op: 'remove', path } : { op: a === undefined ? 'add' : 'replace', path, value: b })
    inverse.push(a === undefined ? { op: 'remove', path } : { op: b === undefined ? 'add' : 'replace', path, value: a })
    return
  }
  for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) walk(a[key], b[key], path + pointer([key]), patches, inverse)
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
  'gate.args': '“{edit}” was asked for with arguments that mean nothing: {message}.',
  'gate.schema': 'This cannot be kept: {message} (at {path}).',
  'gate.dangling': '{from} would refer to {to}, which is not there.',
  'gate.order': 'The order of {where} and what is in it would disagree.',
  'edit.gone': 'It is no longer there: {id} was deleted.',
  'edit.taken': 'There is one already with the id {id}.',
  'edit.memory-full': 'The memory of the panel has no free place of {words} word(s).',
  'edit.address-in-use': 'The address is in use by {name}.',
  'edit.last-page': 'A panel needs a page: the last one cannot be deleted.',
  'edit.kind': 'There is no kind “{kind}”.',
  'edit.changed-since': 'It cannot be undone: someone has changed the same place since.',
  'edit.spent': 'Numbers once given are not given back.',
}
