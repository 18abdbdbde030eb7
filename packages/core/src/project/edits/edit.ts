import Joi from 'joi'
import { sameJson, type Problem } from '../../base/index.ts'
import { freshNumber, holderOfNumber } from '../numbers.ts'
import { isRecord } from '../patches.ts'
import { unbindAll, usersOf } from '../references.ts'
import type { Project } from '../types.ts'

/** Note of an edit besides its change: how many users it unbound, say. */
export type EditNote = Record<string, string | number>

/**
 * A named edit. `apply` works on a draft and may only depend on the document and its arguments: new ids and anchors are
 * arguments; numbers and addresses are given by the document. It throws `EditRefused` where it does not apply.
 */
export interface Edit<A = Record<string, unknown>> {
  name: string
  args: Joi.ObjectSchema
  apply(draft: Project, args: A, before: Project): EditNote | void
  /** The arguments without what is so already; null when nothing is left. Only of arguments that are valid. */
  narrow?(project: Project, args: A): A | null
}

export class EditRefused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.code)
  }
}

export const refuse = (code: string, facts: Problem['facts'] = {}): never => {
  throw new EditRefused({ code: `edit.${code}`, facts })
}

/** Values by key, or by a path into what stands under a key: `holds/min`. What stands there must be of that shape. */
export type Values = Record<string, unknown>

/** The schema of values for some keys of a record; none for all. */
export const valuesFor = (...keys: string[]): Joi.ObjectSchema =>
  Joi.object()
    .pattern(new RegExp(`^(${keys.length ? keys.join('|') : '[A-Za-z]+'})(/[A-Za-z]+)*$`), Joi.any())
    .min(1)
    .max(200)
    .required()

export const keyOf = (path: string): string => path.split('/', 1)[0]!

/** Sets values in a draft of a record; refused where a path leads into something else than it was made for. */
export function assign(record: object, values: Values): void {
  for (const [path, value] of Object.entries(values)) {
    const keys = path.split('/')
    const last = keys.pop()!
    let at: unknown = record
    for (const key of keys) at = isRecord(at) && Object.hasOwn(at, key) ? at[key] : refuse('shape', { path })
    if (!isRecord(at) || (keys.length && !Object.hasOwn(at, last))) refuse('shape', { path })
    ;(at as Values)[last] = value
  }
}

/** The values without what all records have already; inside records of one shape only the parts that differ. */
export function narrowValues(records: readonly object[], values: Values): Values {
  const out: Values = {}
  const walk = (now: readonly unknown[], value: unknown, path: string): void => {
    if (now.every((n) => sameJson(n, value))) return
    if (isRecord(value) && now.length && now.every((n) => isRecord(n) && sameKeys(n, value)))
      for (const key of Object.keys(value))
        walk(
          now.map((n) => (n as Values)[key]),
          value[key],
          `${path}/${key}`,
        )
    else out[path] = value
  }
  for (const [path, value] of Object.entries(values)) {
    const keys = path.split('/')
    const now = records.map((record) => keys.reduce<unknown>((at, key) => (isRecord(at) ? at[key] : undefined), record))
    walk(now, value, path)
  }
  return out
}

const sameKeys = (a: object, b: object): boolean => {
  const keys = Object.keys(a)
  return keys.length === Object.keys(b).length && keys.every((key) => Object.hasOwn(b, key) && /^[A-Za-z]+$/.test(key))
}

/** An edit whose `values` are set in records that are there. `targets` finds them in a document or a draft of it. */
export function setsValues<A extends { values?: Values }>(edit: {
  name: string
  args: Joi.ObjectSchema
  targets(project: Project, args: A): readonly object[]
  first?(draft: Project, args: A): void
  last?(draft: Project, args: A, before: Project): EditNote | void
}): Edit<A> {
  return {
    name: edit.name,
    args: edit.args,
    apply(draft, args, before) {
      edit.first?.(draft, args)
      for (const record of edit.targets(draft, args)) assign(record, args.values ?? {})
      return edit.last?.(draft, args, before)
    },
    narrow(project, args) {
      if (!args.values) return args
      let records: readonly object[]
      try {
        records = edit.targets(project, args)
      } catch (error) {
        if (error instanceof EditRefused) return args
        throw error
      }
      const values = narrowValues(records, args.values)
      return Object.keys(values).length ? { ...args, values } : null
    },
  }
}

/** The next number of a collection; refused when all are given. */
export const nextNumber = (draft: Project, map: string): number =>
  freshNumber(draft, map) ?? refuse('numbers-full', { what: map })

/** Refuses a number that another record has, or that was handed off for another. */
export function mustHaveNumber(draft: Project, map: string, id: string, number: number): void {
  const holder = holderOfNumber(draft, map, id, number)
  if (holder) refuse(holder.isSpent ? 'number-spent' : 'number-taken', { number, name: holder.name })
}

/** The record of an id in a map, or a refusal: it may have been deleted by someone else. */
export function mustFind<T>(map: Record<string, T>, id: string): T {
  return Object.hasOwn(map, id) ? map[id]! : refuse('gone', { id })
}

export function mustBeNew(map: Record<string, unknown>, id: string): void {
  if (Object.hasOwn(map, id)) refuse('taken', { id })
}

/** Takes a record out of its map, and every reference to it, `instead` in its place; says how many users it unbound. */
export function takeOut<I extends string>(
  draft: Project,
  before: Project,
  records: Record<I, unknown>,
  id: I,
  instead = '',
): number {
  mustFind(records, id)
  const unbound = unbindAll(draft, id, usersOf(before, id), instead)
  delete records[id]
  return unbound
}

/** A list with `ids` right after `after` ('' or unknown: at the end; null: at the beginning), each once. */
export function placed<T extends string>(order: readonly T[], ids: readonly T[], after: string | null): T[] {
  const rest = order.filter((id) => !ids.includes(id))
  if (after === null) return [...ids, ...rest]
  const at = rest.indexOf(after as T)
  return at < 0 ? [...rest, ...ids] : [...rest.slice(0, at + 1), ...ids, ...rest.slice(at + 1)]
}

/** The names of the records of a collection. */
export const namesOf = (records: Readonly<Record<string, { name: string }>>): string[] =>
  Object.values(records).map(({ name }) => name)

/** `number 3`: the first such name that no one has. */
export function freeName(base: string, taken: Iterable<string>, joint = ' '): string {
  const all = new Set(taken)
  if (!all.has(base)) return base
  // `touch area 2` goes on with `touch area 3`.
  const at = base.lastIndexOf(joint)
  const counted = at > 0 && /^[1-9]\d{0,5}$/.test(base.slice(at + joint.length))
  const stem = counted ? base.slice(0, at) : base
  for (let n = counted ? Number(base.slice(at + joint.length)) + 1 : 2; ; n++)
    if (!all.has(`${stem}${joint}${n}`)) return `${stem}${joint}${n}`
}
