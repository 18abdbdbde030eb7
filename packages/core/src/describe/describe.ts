import Joi from 'joi'
import { bad, good, sameJson, type Result } from '../base/index.ts'
import { asKeyed, keyed } from './keyed.ts'

/** Target of a reference by id, and its use. */
export interface Ref {
  to: string
  use: 'reads' | 'writes' | 'names'
}

/**
 * A kind of value: `R` as it is stored (plain JSON, replaced whole), `C` as a build holds it, `X` what compiling may ask.
 * Type and schema are one thing said twice; everything else about stored values is derived from descriptions.
 */
export interface Type<R, C = R, X = unknown> {
  /** By which the interface finds the field to edit it with. */
  name: string
  schema: Joi.Schema
  /** The words it may be, where it is one of a few. */
  choices?: readonly string[]
  /** How a choice is shown, where not as it is stored. */
  labels?: Readonly<Record<string, string>>
  /** Of a list of records: what each of them is made of, what one begins as, and how many there may be. */
  items?: ListItems
  /** Its target; '' refers to nothing and is left out by whoever asks. */
  refs?(raw: R): readonly Ref[]
  /** The value without any reference to `id`; where something must stand there, `instead`. */
  unbind?(raw: R, id: string, instead?: string): R
  compile(raw: R, context: X): C
}

export interface ListItems {
  fields: readonly NamedField<never>[]
  fresh: Readonly<Values>
  most: number
}

/** A value that follows a variable instead of being fixed. */
export interface Follows {
  follows: string
}
export const doesFollow = (value: unknown): value is Follows => typeof value === 'object' && value !== null && 'follows' in value

/** A value that follows a cell, in a build. */
export interface CompiledFollow<C = unknown> {
  follow: C
}
export const isCompiledFollow = <C>(value: unknown): value is CompiledFollow<C> =>
  typeof value === 'object' && value !== null && 'follow' in value

/** One thing that may be set: what it is called, what kind of value it has, and how one is asked for it. */
export interface Field<R, C, X> {
  type: Type<R, C, X>
  label: string
  default: R
  /** Under which heading it stands. */
  group: string
  /** Shown first, without opening anything. */
  essential?: boolean
  unit?: string
  min?: number
  max?: number
  step?: number
  /** The word for 0, where 0 means that it does not matter. */
  zero?: string
  /** Of a variable: which types it may have; of a page: which kinds. Missing: any. */
  accepts?: readonly string[]
  /** May follow a variable instead of being fixed. */
  follows?: true
  hint?: string
  /** Its word in a sentence; without one, its label. */
  before?: string
  /** Whose value it is: the key of the variable beside it. */
  of?: ValueOf
  /** Other settings, by key, that are set with it by hand: without them it would mean nothing. */
  brings?: Readonly<Record<string, unknown>>
}

/**
 * A value of a variable that stands under another key of the same record: the value itself, a step of it, a value to compare
 * with (under `compare` stands how: a bit is told by its number), the number of one bit (−1: the whole word), or the value in
 * words.
 */
export interface ValueOf {
  variable: string
  as: 'value' | 'step' | 'bit' | 'bits' | 'words'
  compare?: string
}

/** A field with the key it is stored under. */
export interface NamedField<X = unknown> extends Field<unknown, unknown, X> {
  key: string
}

/** A field as a form shows it, whatever compiling it may ask. */
export type FormField = NamedField<never>

// The fields check the value of each key, so any value is allowed here.
/* eslint-disable @typescript-eslint/no-explicit-any */
export type Fields<X> = Record<string, Field<any, any, X>>
/** The values as they are stored. */
export type RawOf<F> = {
  [K in keyof F]: F[K] extends { type: Type<infer R, any, any> } ? R | (F[K] extends { follows: true } ? Follows : never) : never
}
/** The values once every follower has its value of now: what is painted. */
export type SettledOf<F> = { [K in keyof F]: F[K] extends { type: Type<any, infer C, any> } ? C : never }
/** The values in a build. */
export type CompiledOf<F> = {
  [K in keyof F]: F[K] extends { type: Type<any, infer C, any> }
    ? C | (F[K] extends { follows: true } ? CompiledFollow : never)
    : never
}
/* eslint-enable @typescript-eslint/no-explicit-any */

/** Stored values of whatever description. */
export type Values = Record<string, unknown>

/** The least that a compile context answers: the cell of a variable that is followed. */
export interface FollowContext {
  cell(id: string): unknown
}

/** A description of a record: its types, schema, defaults, references and form are all derived from its fields. */
export interface Described<X, F extends Fields<X>> {
  readonly fields: F
  /** The fields in order: the form. */
  readonly list: readonly NamedField<X>[]
  /** A key that is missing is filled from its default; none besides is allowed. */
  readonly schema: Joi.ObjectSchema
  readonly defaults: RawOf<F>
  /** Some of the values, and none filled: those of a record that takes the others from elsewhere. */
  readonly some: Joi.ObjectSchema
  /** The stored value, complete and valid, or the reason why not: `describe.values` (message). Nothing is converted. */
  fill(stored: unknown): Result<RawOf<F>>
  /** Everything the values refer to, in the order of the fields; keys that are not there refer to nothing. */
  refs(raw: Values): { ref: Ref; field: NamedField<X> }[]
  /**
   * The values without any reference to `id`, the same object where there is none; a follower gets its default back, and where
   * something of the same sort must stand, `instead` does.
   */
  without(raw: Values, id: string, instead?: string): Values
  /** Whether everything the values refer to has a name in it: nothing is left open. */
  isBound(raw: Values): boolean
  compile(raw: Values, context: X): CompiledOf<F>
}

function schemaOf(field: Field<unknown, unknown, never>): Joi.Schema {
  let schema = field.type.schema
  if (field.min !== undefined) schema = (schema as Joi.NumberSchema).min(field.min)
  if (field.max !== undefined) schema = (schema as Joi.NumberSchema).max(field.max)
  if (!field.follows) return schema
  return Joi.alternatives().conditional(Joi.object({ follows: Joi.any().required() }).unknown(), {
    then: Joi.object({ follows: Joi.string().allow('').max(60).required() }),
    otherwise: schema,
  })
}

/** A description whose values are what they are: nothing is asked to compile them. */
export const record = <const F extends Fields<FollowContext>>(fields: F): Described<FollowContext, F> => describe(fields)

export function describe<X extends FollowContext, const F extends Fields<X>>(fields: F): Described<X, F> {
  const list = Object.entries(fields).map(([key, field]): NamedField<X> => ({ key, ...(field as Field<unknown, unknown, X>) }))
  // Made when first asked for: whoever only paints or compiles never does.
  let whole: Joi.ObjectSchema | undefined
  let some: Joi.ObjectSchema | undefined
  const schema = () =>
    (whole ??= keyed(
      Object.fromEntries(
        list.map((field) => {
          const plain = schemaOf(field)
          return [field.key, asKeyed(plain.default(field.default as Joi.BasicType), plain)]
        }),
      ),
    ))
  const refsOf = (field: NamedField<X>, value: unknown): readonly Ref[] =>
    field.follows && doesFollow(value) ? [{ to: value.follows, use: 'reads' }] : (field.type.refs?.(value) ?? [])
  /** Most fields refer to nothing, ever. */
  const referring = list.filter((field) => field.follows || field.type.refs)
  const unbound = (field: NamedField<X>, value: unknown, id: string, instead: string): unknown =>
    field.follows && doesFollow(value)
      ? value.follows === id
        ? field.default
        : value
      : field.type.unbind
        ? field.type.unbind(value, id, instead)
        : value
  return {
    fields,
    list,
    get schema() {
      return schema()
    },
    get some() {
      return (some ??= Joi.object(Object.fromEntries(list.map((field) => [field.key, schemaOf(field)]))))
    },
    defaults: Object.fromEntries(list.map((field) => [field.key, field.default])) as RawOf<F>,
    fill(stored) {
      const { value, error } = schema().validate(stored, { convert: false })
      return error ? bad('describe.values', { message: error.message.slice(0, 300) }) : good(value as RawOf<F>)
    },
    refs(raw) {
      const found: { ref: Ref; field: NamedField<X> }[] = []
      for (const field of referring) {
        if (!Object.hasOwn(raw, field.key)) continue
        for (const ref of refsOf(field, raw[field.key])) if (ref.to !== '') found.push({ ref, field })
      }
      return found
    },
    isBound: (raw) => referring.every((field) => refsOf(field, raw[field.key]).every((ref) => ref.to !== '')),
    without(raw, id, instead = '') {
      let out = raw
      for (const field of list) {
        if (!Object.hasOwn(raw, field.key)) continue
        const next = unbound(field, raw[field.key], id, instead)
        if (!sameJson(next, raw[field.key])) out = { ...out, [field.key]: next }
      }
      return out
    },
    compile(raw, context) {
      const out: Values = {}
      for (const { key, type, follows, default: fallback } of list) {
        const value = raw[key]
        const cell = follows && doesFollow(value) ? context.cell(value.follows) : null
        if (cell) out[key] = { follow: cell }
        else out[key] = type.compile(follows && doesFollow(value) ? fallback : value, context)
      }
      return out as CompiledOf<F>
    },
  }
}
