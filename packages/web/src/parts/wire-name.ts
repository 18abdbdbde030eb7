import type { NameStyle } from '@moth-lamp/core/frames'
import { bookOf, type Project, type Variable } from '@moth-lamp/core/project'
import { wireName } from '@moth-lamp/core/protocols'

/** The name that a way of lines makes of a variable, with the page on which it is used first. */
export function wireNameOf(project: Project, style: NameStyle, variable: Variable): string {
  const page = style.template.includes('{page}') ? bookOf(project).variables.find(({ name }) => name === variable.name)?.page : ''
  return wireName(style, variable.name, page ?? '')
}
