import {
  findOverlaps,
  isInMemory,
  isInOwnWords,
  isNumber,
  rawLimits,
  spansOverlap,
  wordsOf,
  type NumberHolds,
} from '../variables/index.ts'
import { needsNames, namesTwice } from '../protocols/index.ts'
import { bookOf, memoryPlanOf, retiredAddresses, usersOf, type Project, type Variable } from '../project/index.ts'
import type { Check, Finding } from './finding.ts'

const atVariable = (
  variable: Variable,
  code: string,
  severity: Finding['severity'],
  facts: Finding['facts'],
  fix: Finding['fix'],
): Finding => ({ code, severity, station: 'Variables', at: variable.id, facts: { name: variable.name, ...facts }, fix })

const move = (variable: Variable): Finding['fix'] => ({
  label: 'Assign a free address',
  edit: 'give new address',
  args: { id: variable.id },
})

/** The order of the list, not of the record map: a file may keep the map in another. */
const inOrder = (project: Project): Variable[] => project.variableOrder.map((id) => project.variables[id]!)

const span = (v: Variable) => ({ address: v.address, words: wordsOf(v.holds) })

export const overlapping: Check = ({ project }) => {
  const list = inOrder(project)
  const clashes = findOverlaps(list.map(span)).map(({ first, second }) =>
    atVariable(list[second]!, 'overlap', 'error', { other: list[first]!.name }, move(list[second]!)),
  )
  const retired = retiredAddresses(project)
  const onRetired = list.flatMap((v) => {
    const old = retired.find((r) => !r.key.startsWith(`${v.id}@`) && spansOverlap(r, span(v)))
    return old ? [atVariable(v, 'retired', 'warning', { other: old.name }, move(v))] : []
  })
  return [...clashes, ...onRetired]
}

export const inOwnWords: Check = ({ project }) => {
  const plan = memoryPlanOf(project.panel)
  return inOrder(project).flatMap((v) => {
    if (isInOwnWords(plan, span(v))) return [atVariable(v, 'own-words', 'error', {}, move(v))]
    return isInMemory(plan, span(v)) ? [] : [atVariable(v, 'no-memory', 'error', {}, move(v))]
  })
}

/** The shown values a type can hold, smaller first. */
const typeRange = (holds: NumberHolds): [number, number] => {
  const { min, max } = rawLimits[holds.type]
  const ends = [min * holds.factor + holds.offset, max * holds.factor + holds.offset]
  return ends[0]! <= ends[1]! ? [ends[0]!, ends[1]!] : [ends[1]!, ends[0]!]
}

export const beyondType: Check = ({ project }) =>
  inOrder(project).flatMap((v) => {
    const { holds } = v
    if (!isNumber(holds)) return []
    const [low, high] = typeRange(holds)
    const slack = Math.abs(holds.factor) * 0.5
    if (holds.min >= low - slack && holds.max <= high + slack) return []
    const clipped = { ...holds, min: Math.min(Math.max(holds.min, low), high), max: Math.max(Math.min(holds.max, high), low) }
    return [
      atVariable(
        v,
        'range-beyond-type',
        'error',
        { type: holds.type, low, high },
        { label: 'Limit the range to the data type', edit: 'set variable', args: { id: v.id, values: { holds: clipped } } },
      ),
    ]
  })

export const unused: Check = ({ project }) =>
  inOrder(project).flatMap((v) =>
    usersOf(project, v.id).length
      ? []
      : [atVariable(v, 'unused', 'advice', {}, { label: 'Delete', edit: 'delete variable', args: { id: v.id } })],
  )

/** Two variables with one name in lines of text: the second could not be said. */
export const sameWireName: Check = ({ project }) => {
  if (!needsNames(project.layout)) return []
  const byName = new Map(project.variableOrder.map((id) => [project.variables[id]!.name, project.variables[id]!]))
  const told = new Set<Variable>()
  return namesTwice(project.layout, bookOf(project)).flatMap(({ wire, name, other }) => {
    // One of them may be a system variable, which keeps its name.
    const variable = byName.get(name) ?? byName.get(other)
    if (!variable || told.has(variable)) return []
    told.add(variable)
    return [atVariable(variable, 'same-wire-name', 'error', { wire }, null)]
  })
}

export const sameName: Check = ({ project }) => {
  const seen = new Map<string, Variable>()
  return project.variableOrder.flatMap((id) => {
    const v = project.variables[id]!
    const other = seen.get(v.name)
    seen.set(v.name, v)
    if (!other) return []
    let n = 2
    const names = new Set(Object.values(project.variables).map((o) => o.name))
    while (names.has(`${v.name}_${n}`)) n++
    return [
      atVariable(
        v,
        'same-name',
        'error',
        {},
        { label: `Rename to ${v.name}_${n}`, edit: 'set variable', args: { id, values: { name: `${v.name}_${n}` } } },
      ),
    ]
  })
}
