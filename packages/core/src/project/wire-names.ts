import { waysOf, type NameStyle } from '../frames/index.ts'
import { wireName } from '../protocols/index.ts'
import { bookOf } from './book.ts'
import type { Command, Project, Variable } from './types.ts'

/** The style of names in the lines of a project; null where no way has lines. */
export const nameStyleOf = ({ layout }: Pick<Project, 'layout'>): NameStyle | null =>
  waysOf(layout).flatMap(({ way }) => (way.kind === 'lines' ? [way.names] : []))[0] ?? null

/** The name that a style makes of a variable, with the page on which it is used first, or of a command. */
export function madeWireName(project: Project, style: NameStyle, { name }: Pick<Variable | Command, 'name'>): string {
  const page = style.template.includes('{page}') ? bookOf(project).variables.find((one) => one.name === name)?.page : ''
  return wireName(style, name, page ?? '')
}

/**
 * The name on the wire that a record keeps when it is renamed: the one that it had when its address or number was handed off. Null:
 * nobody outside was told of it, or it has a name of its own there.
 */
export function keptWireName(before: Project, record: Variable | Command, isSpent: boolean): string | null {
  const style = nameStyleOf(before)
  return style && isSpent && !record.wireName ? madeWireName(before, style, record) : null
}
