import type { VariableId } from '@moth-lamp/core/base'
import type { Variable } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { freshId } from '../../session/chance.ts'

type Settings = Record<string, unknown>

/** The ids of all variables that a widget of a kind names in its settings, each once. */
export const variablesIn = (kind: string, settings: Settings): string[] => [
  ...new Set(
    widgetKind(kind)
      ?.settings.refs(settings)
      .map(({ ref }) => ref.to)
      .filter((to) => to.startsWith('variable:')),
  ),
]

/** A variable as an edit makes it: of the same type, range and way as another, under a new id, with a free address. */
export interface OwnCopy {
  id: VariableId
  name: string
  values: Partial<Variable>
}

export function ownCopy({ holds, travels, initial, meaning, stale, order }: Variable, name: string): OwnCopy {
  return { id: freshId('variable'), name, values: { holds, travels, initial, meaning, stale, order } }
}

/** Every value in some settings as `change` makes it, through lists and records, from the outside in. */
export function walked(value: unknown, change: (key: string, value: unknown, record: Settings) => unknown): unknown {
  if (Array.isArray(value)) return value.map((item) => walked(item, change))
  if (typeof value !== 'object' || value === null) return value
  const record = value as Settings
  return Object.fromEntries(Object.entries(record).map(([key, inner]) => [key, walked(change(key, inner, record), change)]))
}

/** Settings that name other things: each id of the map becomes the one it leads to. */
export const renamed = (settings: Settings, ids: ReadonlyMap<string, string>): Settings =>
  walked(settings, (_key, value) => (typeof value === 'string' ? (ids.get(value) ?? value) : value)) as Settings
