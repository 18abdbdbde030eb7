import type { VariableId } from '@moth-lamp/core/base'
import type { Page, Project, Variable, Widget } from '@moth-lamp/core/project'
import { wordsOf } from '@moth-lamp/core/variables'
import { freshId } from '../session/session.ts'

/** How copies follow their originals, row by row. */
export interface Repeat {
  across: number
  down: number
  /** From one copy to the next, px. */
  pitchX: number
  pitchY: number
  /** Whether each copy has variables of its own, or all act on the same. */
  variables: 'the same' | 'own ones'
  /** Bits of the copies in order, the original's first; empty: as the original. */
  bits: readonly number[]
  /** Words of the copies in order, the original's first; empty: as the original, a number at their end counted up. */
  words: readonly string[]
  /** By how much a value that is set grows from copy to copy. */
  valueStep: number
}

/** `Pump 1` for the original, `Pump 2` for the next. */
const countedUp = (text: string, by: number): string =>
  text.replace(
    /(\d+)(\D*)$/,
    (_all, digits: string, rest: string) => String(Number(digits) + by).padStart(digits.length, '0') + rest,
  )

type Json = Record<string, unknown>

/** Every value in some settings, through lists and records. */
function walked(value: unknown, change: (key: string, value: unknown, record: Json) => unknown): unknown {
  if (Array.isArray(value)) return value.map((item) => walked(item, change))
  if (typeof value !== 'object' || value === null) return value
  const record = value as Json
  return Object.fromEntries(Object.entries(record).map(([key, inner]) => [key, walked(change(key, inner, record), change)]))
}

/** The settings of one copy: other bits, other words, another value, other variables. */
function settingsOfCopy(w: Widget, k: number, repeat: Repeat, ids: ReadonlyMap<string, string>): Widget['settings'] {
  const bit = repeat.bits[k]
  const word = repeat.words[k]
  const changed = walked(w.settings, (key, value, record) => {
    if (key === 'mask' && typeof value === 'number' && bit !== undefined) return 1 << bit
    if (key === 'bit' && record['by'] === 'bit' && bit !== undefined) return bit
    if (key === 'text' && typeof value === 'string') return word ?? countedUp(value, k)
    if (key === 'to' && typeof value === 'number') return value + k * repeat.valueStep
    if (typeof value === 'string') return ids.get(value) ?? value
    return value
  })
  return changed as Widget['settings']
}

/** The request that makes all copies but the original itself; null where there is none to make. */
export function repeated(project: Project, page: Page, picked: readonly string[], repeat: Repeat) {
  const originals = page.widgets.filter((id) => picked.includes(id)).map((id) => project.widgets[id]!)
  const named = [...new Set(JSON.stringify(originals.map((w) => w.settings)).match(/variable:[0-9a-z_-]{1,40}/g))]
  const own = repeat.variables === 'own ones' ? named.flatMap((id) => project.variables[id as VariableId] ?? []) : []
  const variables: { id: VariableId; name: string; values: object }[] = []
  const widgets = Array.from({ length: repeat.across * repeat.down - 1 }, (_, i) => i + 1).flatMap((k) => {
    const ids = new Map<string, string>()
    for (const v of own) {
      const copy = ownCopy(v, k)
      variables.push(copy)
      ids.set(v.id, copy.id)
    }
    const [x, y] = [(k % repeat.across) * repeat.pitchX, Math.floor(k / repeat.across) * repeat.pitchY]
    return originals.map((w) => ({
      id: freshId('widget'),
      kind: w.kind,
      name: /\d\D*$/.test(w.name) ? countedUp(w.name, k) : `${w.name} ${k + 1}`,
      place: { ...w.place, x: w.place.x + x, y: w.place.y + y },
      settings: settingsOfCopy(w, k, repeat, ids),
    }))
  })
  if (!widgets.length) return null
  const first = repeat.bits.length || repeat.words.length || repeat.valueStep ? originals : []
  // The original takes the first bit and word of the row, as the copies take theirs.
  const originalsAs = first.map((w) => ({ id: w.id, settings: settingsOfCopy(w, 0, repeat, new Map()) }))
  return { add: { page: page.id, after: '', widgets, variables }, originals: originalsAs }
}

function ownCopy(v: Variable, k: number): { id: VariableId; name: string; values: object } {
  const { holds, travels, initial, meaning, stale, order } = v
  const name = /\d$/.test(v.name) ? countedUp(v.name, k) : `${v.name}_${k + 1}`.slice(0, 32)
  return { id: freshId('variable'), name, values: { holds, travels, initial, meaning, stale, order } }
}

/** What of the copies would not fit: over the edge of the glass, or more words than are free. */
export function clashes(project: Project, request: ReturnType<typeof repeated>): string[] {
  if (!request) return []
  const { width, height } = project.panel
  const over = request.add.widgets.filter((w) => w.place.x + w.place.width > width || w.place.y + w.place.height > height)
  const words = request.add.variables.reduce(
    (sum, v) => sum + wordsOf((v.values as { holds: Parameters<typeof wordsOf>[0] }).holds),
    0,
  )
  return [
    ...(over.length ? [`${over.length} would lie over the edge of the glass.`] : []),
    ...(words ? [`${request.add.variables.length} variables are made, ${words} words.`] : []),
  ]
}
