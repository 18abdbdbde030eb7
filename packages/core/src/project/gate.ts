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
  'gate.args': '“{edit}” was asked for with arguments that mean nothing: {message}.',
  'gate.schema': 'This cannot be kept: {message} (at {path}).',
  'gate.text': 'This cannot be kept: the text holds {what} (at {path}).',
  'gate.number': 'This cannot be kept: there is no such number (at {path}).',
  'gate.key': 'This cannot be kept: a key must not be called so (at {path}).',
  'gate.deep': 'This cannot be kept: it is nested more than {most} deep.',
  'gate.large': 'This is too much for one change: {most} characters are allowed. Make it smaller, or make it in parts.',
  'gate.many': 'A project has at most {most} {what}.',
  'gate.numbers': 'Two {what}s would have the same number.',
  'gate.dangling': '{from} would refer to {to}, which is not there.',
  'gate.order': 'The order of {where} and what is in it would disagree.',
  'edit.gone': 'It is no longer there: {id} was deleted.',
  'edit.taken': 'There is one already with the id {id}.',
  'gate.past-memory':
    '{name} at {address} has {words} word(s), and the last address is 0xFFFF: it reaches past the end of memory.',
  'edit.memory-full': 'The memory of the panel has no free place of {words} word(s).',
  'edit.address-in-use': 'The address is in use by {name}.',
  'edit.number-in-use': 'The number is that of {name}.',
  'edit.last-page': 'A panel needs a page: the last one cannot be deleted.',
  'edit.kind': 'There is no kind “{kind}”.',
  'edit.changed-since': 'It cannot be undone: someone has changed the same place since.',
  'edit.shape': 'What it would change is of another kind by now (at {path}).',
  'edit.other-page': '“{name}” is on another page: only what is on one page is held together.',
  'edit.no-copy': '“{name}” is no linked copy.',
  'edit.path': 'It would change a whole part of the project at once (at {path}).',
  'edit.role': 'Every project has a colour and a type called “{name}”: it can be changed, not deleted.',
  'edit.number-taken': '{number} is the number of “{name}”.',
  'edit.number-spent': '{number} was handed off as the number of “{name}”: release it on Variables, or take another.',
  'edit.number-zero': 'A {kind} has a number from 1: 0 says that none is open.',
  'edit.numbers-full': 'All numbers from 1 to 65535 are given: no more {what} can be numbered.',
  'edit.start-layer': 'Only a page can be shown at power-on.',
  'edit.spent': 'Numbers once given are not given back.',
}
