import Joi from 'joi'
import { sameJson, type VariableId } from '../base/index.ts'
import type { Cell, HoldsType } from '../variables/index.ts'

/** What compiling a value may ask for. Null: what is referred to is not there (a finding says so). */
export interface CompileContext {
  cell(variable: string): Cell | null
  pageNumber(page: string): number | null
  widgetNumber(widget: string): number | null
  /** The key of a sheet of letters. */
  sheet(typeface: string, size: number): string | null
}

/** A kind of value a setting may have. Values are plain JSON and are always replaced whole. */
export interface SettingType {
  name: string
  schema: Joi.Schema
  /** Ids the value refers to. */
  refs?(value: unknown): string[]
  /** The value without any reference to `id`. */
  unbind?(value: unknown, id: string): unknown
  /** The value as the build holds it; without this, as it is. */
  compile?(value: unknown, context: CompileContext): unknown
}

export interface Setting {
  key: string
  label: string
  type: SettingType
  default: unknown
  /** Under which heading of the inspector. */
  group: string
  /** Shown first, without opening anything. */
  essential?: boolean
  unit?: string
  min?: number
  max?: number
  step?: number
  choices?: readonly string[]
  /** Of a variable: which types it may have. Empty or missing: any. */
  accepts?: readonly HoldsType[]
  /** May follow a variable instead of being fixed. */
  mayFollow?: boolean
  hint?: string
}

/** The value of a setting that follows a variable. */
export interface Follows {
  follows: VariableId | ''
}

export type SettingValues = Record<string, unknown>

export const doesFollow = (value: unknown): value is Follows => typeof value === 'object' && value !== null && 'follows' in value

const followSchema = Joi.object({ follows: Joi.string().allow('').max(60).required() })

const valueSchema = (setting: Setting): Joi.Schema => {
  let schema = setting.type.schema
  if (setting.choices) schema = Joi.string().valid(...setting.choices)
  if (setting.min !== undefined) schema = (schema as Joi.NumberSchema).min(setting.min)
  if (setting.max !== undefined) schema = (schema as Joi.NumberSchema).max(setting.max)
  return setting.mayFollow
    ? Joi.alternatives().conditional(Joi.object({ follows: Joi.any().required() }).unknown(), {
        then: followSchema,
        otherwise: schema,
      })
    : schema
}

/** The schema of all values of a list of settings: a key that is not there yet is filled from its default; none besides. */
export const settingsSchema = (settings: readonly Setting[]): Joi.ObjectSchema =>
  Joi.object(Object.fromEntries(settings.map((s) => [s.key, valueSchema(s).default(s.default as Joi.BasicType)])))

export const defaultsOf = (settings: readonly Setting[]): SettingValues =>
  Object.fromEntries(settings.map((s) => [s.key, s.default]))

/** Every id the values refer to, in the order of the settings, with the setting that does. */
export function refsOf(settings: readonly Setting[], values: SettingValues): { id: string; setting: Setting }[] {
  const out: { id: string; setting: Setting }[] = []
  for (const setting of settings) {
    const value = values[setting.key]
    const ids = setting.mayFollow && doesFollow(value) ? [value.follows] : (setting.type.refs?.(value) ?? [])
    for (const id of ids) if (id !== '') out.push({ id, setting })
  }
  return out
}

/** The values without any reference to `id`; the same object when there was none. A follower gets its default back. */
export function withoutRef(settings: readonly Setting[], values: SettingValues, id: string): SettingValues {
  let out = values
  for (const setting of settings) {
    const value = values[setting.key]
    const next =
      setting.mayFollow && doesFollow(value)
        ? value.follows === id
          ? setting.default
          : value
        : setting.type.unbind
          ? setting.type.unbind(value, id)
          : value
    if (!sameJson(next, value)) out = { ...out, [setting.key]: next }
  }
  return out
}

/** A value that follows a cell, in a build. */
export interface CompiledFollow {
  follow: Cell
}

export const isCompiledFollow = (value: unknown): value is CompiledFollow =>
  typeof value === 'object' && value !== null && 'follow' in value

/** The values as the build holds them: colours as RGB565, variables as cells, pages by number. */
export function compileSettings(settings: readonly Setting[], values: SettingValues, context: CompileContext): SettingValues {
  const out: SettingValues = {}
  for (const { key, type, mayFollow, default: fallback } of settings) {
    const value = values[key]
    if (mayFollow && doesFollow(value)) {
      const cell = context.cell(value.follows)
      out[key] = cell ? { follow: cell } : type.compile ? type.compile(fallback, context) : fallback
    } else out[key] = type.compile ? type.compile(value, context) : value
  }
  return out
}
