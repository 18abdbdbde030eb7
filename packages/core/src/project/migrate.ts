import { bad, good, type Result } from '../base/index.ts'
import type { Patch } from './patches.ts'
import { collectionAt } from './collections.ts'
import { currentForm } from './types.ts'
import type { Request } from './gate.ts'
import { fromForm3 } from './from-form-3.ts'

type Loose = Record<string, unknown>

/** Steps from one form to the next: of whole documents, and of requests that still wait to be saved. */
interface FormStep {
  document(old: Loose): Loose
  request(old: Request): Request
}

/**
 * One step from each older form to the next, on loose data: the whole is validated afterwards, which also fills from its
 * default what a description has gained.
 */
const formSteps: Record<number, FormStep> = {
  // Form 1 kept the link settings in the panel, and of staleness only the milliseconds (0 for never).
  1: {
    document: (old) => {
      const { link, ...panel } = old['panel'] as Loose
      const variables = Object.fromEntries(
        Object.entries((old['variables'] ?? {}) as Record<string, Loose>).map(([id, { staleAfterMs, ...rest }]) => [
          id,
          { ...rest, stale: staleAfterMs ? { afterMs: staleAfterMs, shows: 'dim' } : null },
        ]),
      )
      return { ...old, panel, link, variables }
    },
    request: (old) => old,
  },
  // Form 2 had no kinds of page, no parents of widgets, no ids on the items of lists, an action for each deed, and other names
  // for what happens to a widget.
  2: {
    document: (old) => withOrders(renamed(old) as Loose),
    request: (old) => {
      const args = renamed(old.args) as Loose
      if (old.edit === 'undo') return { ...old, args: patchesFilled(args) }
      return old.edit === 'set layout' ? layoutRequest({ ...old, args }) : { ...old, args }
    },
  },
  3: fromForm3,
}

const eventNames: Record<string, string> = {
  press: 'pressed',
  'release inside': 'lifted',
  'release outside': 'slid off',
  hold: 'held',
  'released inside': 'lifted',
  'released outside': 'slid off',
}
const eventName = (old: unknown): unknown => (typeof old === 'string' ? (eventNames[old] ?? old) : old)

/** Records of form 2, wherever they stand: actions with their moments, codes of events, and settings that name an event. */
function renamed(value: unknown, key = ''): unknown {
  if (Array.isArray(value)) return value.map((item: unknown) => (key === 'actions' ? actionOf(item as Loose) : renamed(item)))
  if (typeof value !== 'object' || value === null) return key === 'what' ? eventName(value) : value
  const { path } = value as Loose
  if (typeof path === 'string' && 'value' in value) return { ...value, value: renamed(value.value, path.split('/').at(-1)) }
  return Object.fromEntries(
    Object.entries(value).map(([k, v]) => [key === 'codes' && k in eventNames ? eventNames[k]! : k, renamed(v, k)]),
  )
}

/** Form 2 had both orders in the layout: that of bytes is one of the wire, that of words is the panel's memory. */
function withOrders(old: Loose): Loose {
  const { payloadOrder, wordOrder, ...layout } = old['layout'] as Loose
  const variables = Object.entries((old['variables'] ?? {}) as Record<string, Loose>).map(([id, variable]) => {
    const isText = (variable['holds'] as Loose)['type'] === 'text'
    return [id, isText && payloadOrder !== wordOrder ? { ...variable, order: payloadOrder } : variable]
  })
  return {
    ...old,
    layout: { ...layout, payload: payloadOrder },
    panel: { ...(old['panel'] as Loose), order: wordOrder },
    variables: Object.fromEntries(variables) as Loose,
  }
}

/** A setting of the layout that is one of the panel now becomes an edit of the panel; beside others it is let go. */
function layoutRequest(old: Request): Request {
  const { payloadOrder, wordOrder, ...values } = (old.args as { values: Loose }).values
  if (wordOrder !== undefined && payloadOrder === undefined && !Object.keys(values).length)
    return { ...old, edit: 'set panel', args: { values: { order: wordOrder } } }
  return { ...old, args: { values: { ...values, ...(payloadOrder === undefined ? {} : { payload: payloadOrder }) } } }
}

/** Where a patch of form 2 points to now. */
const movedPaths: Record<string, string> = { '/layout/payloadOrder': '/layout/payload', '/layout/wordOrder': '/panel/order' }

/** A layout that a patch puts back whole. */
function layoutValue(value: unknown): unknown {
  const { payloadOrder, wordOrder: _, ...layout } = value as Loose
  return { ...layout, payload: payloadOrder }
}

function actionOf(old: Loose): unknown {
  if (!('deed' in old)) return old
  const { do: name, ...settings } = old['deed'] as Loose
  const lasts = name === 'one while pressed'
  const repeats = Number(old['repeatMs'] ?? 0)
  return {
    ...(old['id'] === undefined ? {} : { id: old['id'] }),
    on: { moment: lasts ? 'pressed' : eventName(old['on']), everyMs: lasts ? 0 : repeats },
    lines: [{ deed: lasts ? 'while held' : name, with: settings }],
  }
}

const lists: Record<string, string> = {
  actions: 'rule',
  lines: 'line',
  states: 'state',
  choices: 'choice',
  effects: 'effect',
  forms: 'form',
  parts: 'part',
  head: 'part',
  end: 'part',
}

/** The patches of an undo made under form 2, as form 3 has what they speak of. */
function patchesFilled(args: Loose): Loose {
  const fill = (patches: readonly Patch[]): Patch[] =>
    patches.map((old) => {
      const patch = { ...old, path: movedPaths[old.path] ?? old.path }
      if (patch.op === 'remove') return patch
      const value = patch.path === '/layout' ? layoutValue(patch.value) : patch.value
      return { ...patch, value: withListIds(value, patch.path.split('/').at(-1)!) }
    })
  return { ...args, patches: fill(args['patches'] as Patch[]), left: fill(args['left'] as Patch[]) }
}

/** The records in the patches of an undo, each with what its kind has gained. */
function recordsFilled(request: Request): Request {
  if (request.edit !== 'undo') return request
  const args = request.args as Loose
  const fill = (patches: unknown): Patch[] =>
    (patches as Patch[]).map((patch) =>
      patch.op === 'remove' ? patch : { ...patch, value: recordFilled(patch.path, patch.value) },
    )
  return { ...request, args: { ...args, patches: fill(args['patches']), left: fill(args['left']) } }
}

function recordFilled(path: string, value: unknown): unknown {
  const keys = path.split('/').slice(1)
  const schema = keys.length === 2 ? collectionAt(keys[0]!)?.schema : null
  const filled = schema?.validate(value, { convert: false })
  return !filled || filled.error ? value : (filled.value as unknown)
}

function withListIds(value: unknown, key: string): unknown {
  if (Array.isArray(value)) {
    const kind = Object.hasOwn(lists, key) ? lists[key] : undefined
    return value.map((item: unknown, i) =>
      kind && typeof item === 'object' && item !== null
        ? { id: `${kind}:${i + 1}`, ...(withListIds(item, '') as Loose) }
        : withListIds(item, ''),
    )
  }
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, withListIds(v, k)]))
}

/** The form a document says it has; 0 where it says none. */
export const formOf = (document: unknown): number => {
  const form = (document as { format?: unknown } | null)?.format
  return typeof form === 'number' && Number.isSafeInteger(form) && form > 0 ? form : 0
}

/**
 * A document of any known form as the current one; not validated yet. Problems: `file.form` (found, known: the form is
 * newer, or none), `file.damaged`.
 */
export function migrate(document: unknown): Result<unknown> {
  if (typeof document !== 'object' || document === null || Array.isArray(document)) return bad('file.damaged')
  const form = formOf(document)
  if (form < 1 || form > currentForm) return bad('file.form', { found: form || 'none', known: currentForm })
  try {
    let at = document as Loose
    for (let from = form; from < currentForm; from++) at = { ...formSteps[from]!.document(at), format: from + 1 }
    return good(at)
  } catch {
    return bad('file.damaged')
  }
}

/** A request that was made under an older form, as one for the current. Problems as of `migrate`. */
export function migrateRequest(request: Request, form: number): Result<Request> {
  if (form < 1 || form > currentForm) return bad('file.form', { found: form, known: currentForm })
  try {
    let at = request
    for (let from = form; from < currentForm; from++) at = formSteps[from]!.request(at)
    return good(form < currentForm ? recordsFilled(at) : at)
  } catch {
    return bad('file.damaged')
  }
}
