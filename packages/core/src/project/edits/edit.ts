import type Joi from 'joi'
import type { Problem } from '../../base/index.ts'
import type { Project } from '../types.ts'

/** What an edit has to say besides its change: how many users it unbound, say. */
export type EditNote = Record<string, string | number>

/**
 * A named edit. `apply` works on a draft and may only depend on the document and its arguments: new ids and anchors are
 * arguments; numbers and addresses are given by the document. It throws `EditRefused` where it does not apply.
 */
export interface Edit<A = Record<string, unknown>> {
  name: string
  args: Joi.ObjectSchema
  apply(draft: Project, args: A, before: Project): EditNote | void
}

export class EditRefused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.code)
  }
}

export const refuse = (code: string, facts: Problem['facts'] = {}): never => {
  throw new EditRefused({ code: `edit.${code}`, facts })
}

/** The record of an id in a map, or a refusal: it may have been deleted by someone else. */
export function mustFind<T>(map: Record<string, T>, id: string): T {
  return Object.hasOwn(map, id) ? map[id]! : refuse('gone', { id })
}

export function mustBeNew(map: Record<string, unknown>, id: string): void {
  if (Object.hasOwn(map, id)) refuse('taken', { id })
}

/** A list with `ids` right after `after` ('' or unknown: at the end; null: at the beginning), each once. */
export function placed<T extends string>(order: readonly T[], ids: readonly T[], after: string | null): T[] {
  const rest = order.filter((id) => !ids.includes(id))
  if (after === null) return [...ids, ...rest]
  const at = rest.indexOf(after as T)
  return at < 0 ? [...rest, ...ids] : [...rest.slice(0, at + 1), ...ids, ...rest.slice(at + 1)]
}

/** `number 3`: the first such name that no one has. */
export function freeName(base: string, taken: Iterable<string>, joint = ' '): string {
  const all = new Set(taken)
  if (!all.has(base)) return base
  for (let n = 2; ; n++) if (!all.has(`${base}${joint}${n}`)) return `${base}${joint}${n}`
}
