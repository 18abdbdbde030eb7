import type { VariableId } from '@moth-lamp/core/base'
import type { FormField } from '@moth-lamp/core/describe'
import { unspentAddresses, usersOf, type Project, type Widget } from '@moth-lamp/core/project'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { colourToRgb565 } from '@moth-lamp/core/raster'
import {
  clampToRange,
  freshHolds,
  offOn,
  systemVariable,
  rawLimits,
  textToBytes,
  type Holds,
  type Value,
} from '@moth-lamp/core/variables'
import { widgetKind } from '@moth-lamp/core/widgets'

/** Data type of a variable or system variable by its id; null where there is none. */
export const holdsOf = (project: Project, id: unknown): Holds | null =>
  project.variables[id as VariableId]?.holds ?? systemVariable(String(id))?.holds ?? null

/** The setting of a widget under a key, as its kind describes it; null where it has none. */
export const fieldOf = (widget: Widget | undefined, key: string): FormField | null =>
  (widget && widgetKind(widget.kind)?.settings.list.find((f) => f.key === key)) ?? null

/**
 * The variable of a widget that came with it and that a rebinding may take away: nobody else uses it, it still has the name it
 * was given, nothing was written about it, and no firmware knows its address.
 */
export function cameWith(project: Project, widget: Widget, key: string): VariableId[] {
  const v = project.variables[String(widget.settings[key]) as VariableId]
  if (!v || v.meaning || !unspentAddresses(project).includes(v)) return []
  const given = new RegExp(`^${widget.kind}(_?\\d+)?$`)
  return given.test(v.name) && usersOf(project, v.id).every(({ from }) => from === widget.id) ? [v.id] : []
}

/** The widgets that show or change a variable, each once. */
export const usersOnGlass = (project: Project, variable: string): Widget[] =>
  [...new Set(usersOf(project, variable).map(({ from }) => from))].flatMap((id) => {
    const widget = project.widgets[id as Widget['id']]
    return widget ? [widget] : []
  })

/** Other users of a variable by name: exchanges and the simulated host. */
export const usersOffGlass = (project: Project, variable: string): string[] => [
  ...new Set(
    usersOf(project, variable)
      .filter(({ from }) => !(from in project.widgets))
      .map(({ from }) => nameOfId(project, from)),
  ),
]

/** The type of a variable that is made for a setting of a widget; undefined: the first type that the setting accepts. */
export function freshFor(project: Project, settings: unknown, key: string): { holds: Holds } | undefined {
  const widget = Object.values(project.widgets).find((w) => w.settings === settings)
  const holds = widget && widgetKind(widget.kind)?.holdsFor?.(key, widget.settings as never)
  return holds ? { holds } : undefined
}

/** Decimals of a fixed number that a variable made for it keeps, at most. */
const mostDecimals = 3

/** A number's range and scale that hold a value and what lies around it: 16 bits where they are enough. */
function freshNumber(value: number): { holds: Holds; initial: Value } {
  const decimals = [0, 1, 2].find((d) => Number(value.toFixed(d)) === value) ?? mostDecimals
  const factor = 10 ** -decimals
  const raw = Math.round(value / factor)
  const type = raw >= rawLimits.i16.min && raw <= rawLimits.i16.max ? 'i16' : 'i32'
  const { min, max } = rawLimits[type]
  const shown = (whole: number) => Number((whole * factor).toFixed(decimals))
  const holds: Holds = { type, factor, offset: 0, decimals, unit: '', min: shown(min), max: shown(max) }
  return { holds, initial: clampToRange(holds, shown(raw)) }
}

/** A text with room for 16 bytes or for what it starts with, in whole words, in an encoding that has its letters. */
function freshText(text: string): { holds: Holds; initial: Value } {
  const encoding = textToBytes(text, 'latin-1').ok ? 'latin-1' : 'utf-8'
  const bytes = textToBytes(text, encoding)
  return {
    holds: { type: 'text', bytes: Math.max(16, 2 * Math.ceil((bytes.ok ? bytes.value.length : 0) / 2)), encoding },
    initial: text,
  }
}

/** The type of a variable that a setting is to follow, and its start: the value the setting was fixed at. */
export function freshToFollow(type: string, fixed: unknown, hexOf: (stored: string) => string): { holds: Holds; initial: Value } {
  if (type === 'colour') return { holds: freshHolds('colour'), initial: colourToRgb565(hexOf(String(fixed)) || '#000000') }
  if (type === 'text') return freshText(typeof fixed === 'string' ? fixed : '')
  if (type === 'yesNo') return { holds: offOn(), initial: fixed === true ? 1 : 0 }
  return freshNumber(typeof fixed === 'number' ? fixed : 0)
}
