import type Joi from 'joi'
import { bad, good, sameJson, type Problem, type Result } from '../base/index.ts'
import { isRecord } from './patches.ts'
import { singleSchemas } from './schema.ts'

const asStored: Joi.ValidationOptions = { convert: false, abortEarly: true }

const schemaProblem = (path: string, error: Joi.ValidationError): { ok: false; problem: Problem } =>
  bad('gate.schema', { path: [path, ...error.details[0]!.path].join('/'), message: error.message.slice(0, 300) })

/**
 * The value as its schema gives it back; the same object where nothing changed. `before`: what stood there and passed the
 * same schema: only what differs is looked at, where each key stands for itself.
 */
export function clean<T>(schema: Joi.Schema, value: T, path: string, before?: unknown): Result<T> {
  const quick = isRecord(before) && isRecord(value) ? cleanedWhereOther(schema, value, before) : null
  if (quick) return good(quick as T)
  let result: Joi.ValidationResult
  try {
    result = schema.validate(value, asStored)
  } catch (error) {
    if ((error as Joi.ValidationError).isJoi) return schemaProblem(path, error as Joi.ValidationError)
    throw error
  }
  if (result.error) return schemaProblem(path, result.error)
  return good(sameJson(result.value, value) ? value : (result.value as T))
}

/** What asks something of a record as a whole, besides what it asks of each key. */
export const looksAcross: ReadonlySet<Joi.Schema> = new Set([singleSchemas['panel']!])

type Values = Record<string, unknown>

/** The values with those cleaned that are others than before; null where a key came or went, or one is wrong: then all is looked at. */
function cleanedWhereOther(schema: Joi.Schema, value: Values, before: Values): Values | null {
  const keys = Object.keys(value)
  if (looksAcross.has(schema)) return null
  if (keys.length !== Object.keys(before).length) return null
  let out = value
  for (const key of keys) {
    if (!Object.hasOwn(before, key)) return null
    if (sameJson(value[key], before[key])) continue
    const { value: cleaned, error } = partOf(schema, key).validate(value[key], asStored) as Joi.ValidationResult<unknown>
    if (error) return null
    if (!sameJson(cleaned, value[key])) out = { ...out, [key]: cleaned }
  }
  return out
}

const parts = new WeakMap<Joi.Schema, Map<string, Joi.Schema>>()

/** The schema of one key, taken out once. */
function partOf(schema: Joi.Schema, key: string): Joi.Schema {
  let known = parts.get(schema)
  if (!known) parts.set(schema, (known = new Map()))
  let part = known.get(key)
  if (!part) known.set(key, (part = schema.extract(key)))
  return part
}
