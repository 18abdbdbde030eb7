import type Joi from 'joi'
import { bad, good, sameJson, type Problem, type Result } from '../base/index.ts'
import { keysAlone } from '../describe/index.ts'
import { isRecord } from './patches.ts'

const asStored: Joi.ValidationOptions = { convert: false, abortEarly: true }

const schemaProblem = (path: string, error: Joi.ValidationError): { ok: false; problem: Problem } =>
  bad('gate.schema', { path: [path, ...error.details[0]!.path].join('/'), message: error.message.slice(0, 300) })

/**
 * The value as its schema gives it back; the same object where nothing changed. Where each key of a record stands for itself, what
 * was let through before is not asked about again. `before`: what stood there and passed the same schema.
 */
export function clean<T>(schema: Joi.Schema, value: T, path: string, before?: unknown): Result<T> {
  const quick = isRecord(value) ? cleanedByKeys(schema, value, isRecord(before) ? before : null) : null
  return quick ? good(quick as T) : cleanedWhole(schema, value, path)
}

/** The same, with all of it looked at. */
export function cleanedWhole<T>(schema: Joi.Schema, value: T, path: string): Result<T> {
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

type Values = Record<string, unknown>

/** The values with each cleaned by itself; null where a key is missing or none of the schema’s, or one is wrong: then all is looked at. */
function cleanedByKeys(schema: Joi.Schema, value: Values, before: Values | null): Values | null {
  const asked = keysOf(schema)
  if (!asked) return null
  const keys = Object.keys(value)
  const asBefore = before !== null && keys.length === Object.keys(before).length && keys.every((k) => Object.hasOwn(before, k))
  if (!asBefore && !(keys.every((k) => asked.all.has(k)) && asked.needed.every((k) => Object.hasOwn(value, k)))) return null
  let out = value
  for (const key of keys) {
    const given = value[key]
    if (asBefore && sameJson(given, before[key])) continue
    const part = partOf(schema, key)
    const cleaned = cleanedPart(part, given, asBefore ? before[key] : null)
    if (cleaned === wrong) return null
    if (cleaned !== given) out = { ...out, [key]: cleaned }
  }
  return out
}

const wrong = Symbol('wrong')

/** Result of a part; the same object where nothing changed. */
function cleanedPart({ schema, passed }: Part, given: unknown, before: unknown): unknown {
  if (isRecord(given)) {
    const quick = cleanedByKeys(schema, given, isRecord(before) ? before : null)
    if (quick) return quick
  } else if (passed.has(given)) return given
  const { value, error } = schema.validate(given, asStored) as Joi.ValidationResult<unknown>
  if (error) return wrong
  if (!sameJson(value, given)) return value
  if (!isRecord(given)) passed.add(given)
  return given
}

/** The newest few numbers, words and lists that have been let through as they are, each told by what it is. */
class Passed {
  private plain = new Set<unknown>()
  private lists = new Map<string, unknown>()

  has(value: unknown): boolean {
    if (!Array.isArray(value)) return this.plain.has(value)
    // The text of what is no JSON may be that of another list.
    return value.length <= mostItems && sameJson(this.lists.get(JSON.stringify(value)), value)
  }

  add(value: unknown): void {
    if (Array.isArray(value)) {
      const text = value.length <= mostItems ? JSON.stringify(value) : ''
      if (text && text.length <= 500) roomIn(this.lists, 100).set(text, value)
    } else if (String(value).length <= 60) roomIn(this.plain, 500).add(value)
  }
}
const mostItems = 8

/** Room for one more: what holds so many already is emptied. */
function roomIn<T extends { size: number; clear(): void }>(some: T, most: number): T {
  if (some.size >= most) some.clear()
  return some
}

/** A key of a schema: what it asks, and what it has let through. */
interface Part {
  schema: Joi.Schema
  passed: Passed
}
const parts = new WeakMap<Joi.Schema, Map<string, Part>>()

/** The part of one key, taken out once. */
function partOf(schema: Joi.Schema, key: string): Part {
  let known = parts.get(schema)
  if (!known) parts.set(schema, (known = new Map()))
  let part = known.get(key)
  if (!part) known.set(key, (part = { schema: schema.extract(key), passed: new Passed() }))
  return part
}

/** The keys of a schema, and those of them that are asked for or filled where they are missing. */
interface Keys {
  all: ReadonlySet<string>
  needed: readonly string[]
}
const known = new WeakMap<Joi.Schema, Keys | null>()

/** The keys of a record where each stands for itself; null where more may be asked of the record, or it is none. */
export function keysOf(schema: Joi.Schema): Keys | null {
  let found = known.get(schema)
  if (found !== undefined) return found
  const all = keysAlone(schema)
  const needed = all?.filter((key) => {
    const { value, error } = partOf(schema, key).schema.validate(undefined, asStored) as Joi.ValidationResult<unknown>
    return error !== undefined || value !== undefined
  })
  found = all && { all: new Set(all), needed: needed! }
  known.set(schema, found)
  return found
}
