import { sameJson, type VariableId } from '@moth-lamp/core/base'
import type { Values } from '@moth-lamp/core/describe'
import { parentsOfCopies, type Page, type Project, type Variable, type Widget } from '@moth-lamp/core/project'
import { actionKind } from '@moth-lamp/core/rules'
import { wordsOf } from '@moth-lamp/core/variables'
import { widgetKind } from '@moth-lamp/core/widgets'
import { freshId } from '../../session/chance.ts'
import { ownCopy, renamed, variablesIn, walked, type OwnCopy } from './copies.ts'

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
  /** The copies stay linked: they keep only what is another with them, and look as the original does, also later. */
  linked: boolean
}

/** `Pump 1` for the original, `Pump 2` for the next. */
const countedUp = (text: string, by: number): string =>
  text.replace(
    /(\d+)(\D*)$/,
    (_all, digits: string, rest: string) => String(Number(digits) + by).padStart(digits.length, '0') + rest,
  )

/**
 * The settings of one copy: other bits, other words, another value, other variables. Actions say by their descriptions what in
 * them is a mask and what a value; a step or the end of a range stays.
 */
function settingsOfCopy(w: Widget, k: number, repeat: Repeat, ids: ReadonlyMap<string, string>): Widget['settings'] {
  const bit = repeat.bits[k]
  const changed = walked(w.settings, (key, value, record) => {
    if (key === 'with' && typeof record['action'] === 'string') return withOfCopy(record['action'], value as Values, k, repeat)
    // A state by a bit, or the bit that a button switches.
    const isBit = key === 'bit' && (record['by'] === 'bit' || ('works' in record && Number(value) >= 0))
    if (isBit) return bit ?? value
    // The value that a button sets, and that which another variable reaches by it.
    const isSet = record['works'] === 'sets its value' && (key === 'value' || (key === 'reaches' && record['shows']))
    return isSet ? Number(value) + k * repeat.valueStep : value
  }) as Widget['settings']
  const key = wordsKey(w)
  const words = key ? { [key]: repeat.words[k] ?? countedUp(String(changed[key]), k) } : {}
  return renamed({ ...changed, ...words }, ids)
}

/** The setting of a widget that has its words; null where it has none, or they follow a variable. */
function wordsKey(w: Widget): string | null {
  const key = widgetKind(w.kind)?.words
  return key !== undefined && typeof w.settings[key] === 'string' ? key : null
}

/** Whether some widgets set a value, by an action or by how they work: keys of one choice, not of a choice each. */
export const setsValue = (widgets: readonly Widget[]): boolean =>
  widgets.some(({ settings }) => {
    let sets = false
    walked(settings, (key, value, record) => {
      const action = key === 'with' && typeof record['action'] === 'string' ? actionKind(record['action']) : undefined
      sets ||= record['works'] === 'sets its value' || (action?.settings.list.some((field) => field.of?.as === 'value') ?? false)
      return value
    })
    return sets
  })

/** Arguments of an action of a copy. */
function withOfCopy(action: string, values: Values, k: number, { bits, valueStep }: Repeat): Values {
  const other = Object.entries(values).map(([key, value]) => {
    const as = actionKind(action)?.settings.list.find((field) => field.key === key)?.of?.as
    if (as === 'bits' && bits[k] !== undefined) return [key, 1 << bits[k]]
    return [key, as === 'value' && typeof value === 'number' ? value + k * valueStep : value]
  })
  return Object.fromEntries(other) as Values
}

/** The request that makes all copies but the original itself; null where there is none to make. */
export function repeated(project: Project, page: Page, picked: readonly string[], repeat: Repeat) {
  const originals = page.widgets.filter((id) => picked.includes(id)).map((id) => project.widgets[id]!)
  const changesFirst = repeat.bits.length > 0 || repeat.words.length > 0 || repeat.valueStep !== 0
  // The original takes the first bit and word of the row, as the copies take theirs.
  const asFirst = (w: Widget) => (changesFirst ? settingsOfCopy(w, 0, repeat, new Map()) : w.settings)
  const named = [...new Set(originals.flatMap((w) => variablesIn(w.kind, w.settings)))]
  const own = repeat.variables === 'own ones' ? named.flatMap((id) => project.variables[id as VariableId] ?? []) : []
  const variables: OwnCopy[] = []
  // Where the widgets have no words but those of their texts, the words of the row are what those start with.
  const saysOwn = originals.some((w) => wordsKey(w) !== null)
  const startsWith = (v: Variable, k: number): Variable =>
    v.holds.type === 'text' ? { ...v, initial: (saysOwn ? undefined : repeat.words[k]) ?? countedUp(String(v.initial), k) } : v
  const initials = saysOwn || !repeat.words.length ? [] : own.filter((v) => v.holds.type === 'text')
  const widgets = Array.from({ length: repeat.across * repeat.down - 1 }, (_, i) => i + 1).flatMap((k) => {
    const ids = new Map<string, string>()
    for (const v of own) {
      const copy = ownCopy(startsWith(v, k), nameOfCopy(v.name, k))
      variables.push(copy)
      ids.set(v.id, copy.id)
    }
    const [x, y] = [(k % repeat.across) * repeat.pitchX, Math.floor(k / repeat.across) * repeat.pitchY]
    const copyIds = new Map(originals.map((w) => [w.id, freshId('widget')]))
    const parents = parentsOfCopies(originals, (id) => copyIds.get(id)!)
    return originals.map((w, n) => {
      const settings = settingsOfCopy(w, k, repeat, ids)
      return {
        id: copyIds.get(w.id)!,
        parent: parents[n],
        kind: w.kind,
        name: /\d\D*$/.test(w.name) ? countedUp(w.name, k) : `${w.name} ${k + 1}`,
        place: { ...w.place, x: w.place.x + x, y: w.place.y + y },
        ...(repeat.linked ? { like: w.id, settings: unlike(settings, asFirst(w)) } : { settings }),
      }
    })
  })
  if (!widgets.length) return null
  const originalsAs = changesFirst ? originals.map((w) => ({ id: w.id, settings: asFirst(w) })) : []
  return {
    add: { page: page.id, after: '', widgets, variables },
    originals: originalsAs,
    ...(initials.length ? { initials: initials.map(({ id }) => ({ id, initial: repeat.words[0]! })) } : {}),
  }
}

/** Settings that differ from the original. */
const unlike = (settings: Values, original: Values): Values =>
  Object.fromEntries(Object.entries(settings).filter(([key, value]) => !sameJson(value, original[key])))

/** `pump_1` for the original, `pump_2` for the next; `level`, `level_2`. */
const nameOfCopy = (name: string, k: number): string => (/\d$/.test(name) ? countedUp(name, k) : `${name}_${k + 1}`).slice(0, 32)

/** Copies that would not fit: over the edge of the glass, or more words than are free. */
export function clashes(project: Project, request: ReturnType<typeof repeated>): string[] {
  if (!request) return []
  const { width, height } = project.panel
  const over = request.add.widgets.filter((w) => w.place.x + w.place.width > width || w.place.y + w.place.height > height)
  const words = request.add.variables.reduce((sum, { values }) => sum + wordsOf(values.holds!), 0)
  return [
    ...(over.length ? [`${over.length} copies do not fit.`] : []),
    ...(words ? [`Creates ${request.add.variables.length} variables (${words} words of memory).`] : []),
  ]
}
