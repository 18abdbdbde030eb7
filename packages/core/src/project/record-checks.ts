import { bad, good, type Problem, type Result } from '../base/index.ts'
import type { Exchange } from '../scripts/index.ts'
import { formatAddress, wordsOf } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'
import { clean } from './clean.ts'
import type { Variable, Widget } from './types.ts'

export interface Bad {
  ok: false
  problem: Problem
}

/** Addresses have 16 bits: nothing stands beyond the last. */
export const memoryEnd = 0x10000

/** A variable that reaches past the end of all addresses could be neither written nor shown. */
export function pastMemory({ name, address, holds }: Variable): Bad | null {
  const words = wordsOf(holds)
  return address + words > memoryEnd ? bad('gate.past-memory', { name, address: formatAddress(address), words }) : null
}

/** A widget with the settings of its kind; of a linked copy only those that are its own. */
export function cleanWidget(widget: Widget, path: string, before?: Widget): Result<Widget> {
  const described = widgetKind(widget.kind)?.settings
  const schema = widget.like === '' ? described?.schema : described?.some
  if (!schema) return bad('gate.schema', { path: `${path}/kind`, message: `"${widget.kind}" is no kind of widget here` })
  const sameSchema = before?.kind === widget.kind && (before.like === '') === (widget.like === '')
  const settings = clean(schema, widget.settings, `${path}/settings`, sameSchema ? before.settings : undefined)
  return settings.ok ? good(settings.value === widget.settings ? widget : { ...widget, settings: settings.value }) : settings
}

/** Whether a list has the keys of a map, each once. */
export const sameMembers = (map: object, order: readonly string[], where: string): Bad | null =>
  Object.keys(map).length === order.length && new Set(order).size === order.length && order.every((id) => Object.hasOwn(map, id))
    ? null
    : bad('gate.order', { where })

/** The order of an exchange has its steps. */
export const stepsAgree = ({ steps, stepOrder }: Exchange, path: string): Bad | null => sameMembers(steps, stepOrder, path)
