import Joi from 'joi'

/** The schemas of records whose keys each stand for themselves, with what each key is to be. */
const known = new WeakMap<Joi.Schema, Joi.SchemaMap>()

/**
 * The schema of a record whose keys each stand for themselves: nothing is asked of it as a whole, so that what changed in it may be
 * looked at alone. A schema that is made from it by asking more of the record is no such schema any more.
 */
export function keyed<T = object>(keys: Joi.SchemaMap): Joi.ObjectSchema<T> {
  const schema = Joi.object<T>(keys as Joi.StrictSchemaMap<T>)
  known.set(schema, keys)
  return schema
}

/** A schema that asks no more of the record than another: only whether it may be missing, and what it is then. */
export function asKeyed<S extends Joi.Schema>(schema: S, from: Joi.Schema): S {
  const keys = known.get(from)
  if (keys) known.set(schema, keys)
  return schema
}

/** Schemas of the keys of a record, for another record that has these keys too. Throws where the record may ask for more. */
export function keysIn(schema: Joi.Schema): Joi.SchemaMap {
  const keys = known.get(schema)
  if (!keys) throw new Error('the keys of this record do not stand for themselves')
  return keys
}

/** The keys of a record whose keys each stand for themselves; null: it may ask for more, and is to be looked at whole. */
export const keysAlone = (schema: Joi.Schema): readonly string[] | null => {
  const keys = known.get(schema)
  return keys ? Object.keys(keys) : null
}
