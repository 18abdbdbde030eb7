import Joi from 'joi'
import { idPattern, type IdKind } from '../base/index.ts'

/** An item of a list inside a record. The gate gives an id to an item that comes without; stored items always have one. */
export interface Item {
  id?: string
}

/** The key that the schema of an item begins with. */
export const itemId = (kind: IdKind): { id: Joi.StringSchema } => ({ id: Joi.string().pattern(idPattern(kind), `${kind} id`) })

/**
 * A list whose items have ids, each once in the list. An item without one gets the first of `kind:1`, `kind:2` … that is
 * free, by its place: the same list gets the same ids wherever it is read.
 */
export const itemList = (kind: IdKind, item: Joi.Schema | Joi.SchemaMap): Joi.ArraySchema =>
  Joi.array()
    .items(Joi.isSchema(item) ? item : Joi.object({ ...itemId(kind), ...item }))
    .unique('id', { ignoreUndefined: true })
    .custom((items: readonly Item[]) => withItemIds(kind, items))

/** The items, each with an id; the same list where all have one. */
export function withItemIds<T extends Item>(kind: IdKind, items: readonly T[]): readonly T[] {
  if (items.every((item) => item.id !== undefined)) return items
  const taken = new Set(items.map((item) => item.id))
  let next = 1
  const free = (): string => {
    while (taken.has(`${kind}:${next}`)) next++
    return `${kind}:${next++}`
  }
  return items.map((item) => (item.id === undefined ? { ...item, id: free() } : item))
}

/** Items as a build holds them: a build names nothing by ids. */
export const withoutItemIds = <T extends Item>(items: readonly T[]): Omit<T, 'id'>[] => items.map(({ id: _, ...rest }) => rest)
