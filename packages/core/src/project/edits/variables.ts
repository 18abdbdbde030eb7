import Joi from 'joi'
import { sameJson, type VariableId, type WidgetId } from '../../base/index.ts'
import {
  AddressBook,
  freshHolds,
  freshValue,
  isInRange,
  isNumber,
  rawLimits,
  wordsOf,
  encodeValue,
  type Holds,
  type Span,
} from '../../variables/index.ts'
import { idSchema } from '../schema.ts'
import { retiredNumbers, unspentNumbers } from '../numbers.ts'
import { memoryPlanOf } from '../profile.ts'
import { keptWireName } from '../wire-names.ts'
import type { Project, Variable } from '../types.ts'
import {
  freeName,
  keyOf,
  mustBeNew,
  mustFind,
  nextNumber,
  placed,
  takeOut,
  refuse,
  setsValues,
  valuesFor,
  type Edit,
  type Values,
} from './edit.ts'

/** Every span an address may not be given in: live variables but `self`, and what is retired. */
export function takenSpans(project: Project, self?: VariableId): Span[] {
  const live = Object.values(project.variables)
    .filter((v) => v.id !== self)
    .map((v) => ({ address: v.address, words: wordsOf(v.holds) }))
  const spent = Object.entries(project.spent.addresses)
    .filter(([key]) => !self || !key.startsWith(`${self}@`))
    .map(([, span]) => span)
  return [...live, ...spent]
}

const key = (variable: { id: string; address: number }): string => `${variable.id}@${variable.address}`

/** Variables whose address nobody outside has been given yet: it may be given to another once they are gone or moved. */
export function unspentAddresses(project: Project): Variable[] {
  return Object.values(project.variables).filter((v) => {
    const spent = project.spent.addresses[key(v)]
    return !spent || spent.words < wordsOf(v.holds)
  })
}

function freeAddress(draft: Project, holds: Holds, self?: VariableId): number {
  const address = new AddressBook(memoryPlanOf(draft.panel), takenSpans(draft, self)).give(wordsOf(holds))
  return address ?? refuse('memory-full', { words: wordsOf(holds) })
}

/** Retired: spent by a variable that is gone or stands elsewhere now. */
export function retiredAddresses(project: Project): { key: string; address: number; words: number; name: string }[] {
  return Object.entries(project.spent.addresses)
    .filter(([k, span]) => project.variables[k.slice(0, k.indexOf('@')) as VariableId]?.address !== span.address)
    .map(([k, span]) => ({ key: k, ...span }))
    .sort((a, b) => a.address - b.address)
}

export interface NewVariable {
  id: VariableId
  name?: string
  after?: string | null
  values?: Partial<Variable>
}

export const newVariableSchema = {
  id: idSchema('variable').required(),
  name: Joi.string().max(32),
  after: Joi.string().allow('', null),
  values: Joi.object({
    holds: Joi.object(),
    travels: Joi.string(),
    meaning: Joi.string().allow(''),
    initial: Joi.alternatives(Joi.number(), Joi.string().allow('')),
    stale: Joi.object().allow(null),
    order: Joi.string(),
    address: Joi.number(),
  }),
}

/** A value from the host alone is unknown before its first write, and stale when the host is gone. */
const staleFor = (travels: Variable['travels'] = 'host to panel'): Variable['stale'] =>
  travels === 'host to panel' ? { afterMs: 0, shows: 'dashes' } : null

/**
 * Puts new variables into a draft, each with an address nobody had. What there is already is read in the document before, where
 * it costs nothing: a draft wraps every record that is looked at.
 */
export function putVariables(draft: Project, before: Project, list: readonly NewVariable[]): void {
  const names = new Set(Object.values(before.variables).map((v) => v.name))
  const plan = memoryPlanOf(before.panel)
  const taken = takenSpans(before)
  let book: AddressBook | null = null
  for (const { id, name, after, values = {} } of list) {
    mustBeNew(draft.variables, id)
    const holds = values.holds ?? freshHolds('u16')
    const words = wordsOf(holds)
    if (values.address === undefined) book ??= new AddressBook(plan, taken)
    else book = null
    const address = values.address ?? book?.give(words) ?? refuse('memory-full', { words })
    const variable: Variable = {
      id,
      number: nextNumber(draft, 'variables'),
      name: freeName(name ?? 'value', names, '_'),
      meaning: values.meaning ?? '',
      holds,
      address,
      travels: values.travels ?? 'host to panel',
      initial: values.initial ?? freshValue(holds),
      order: values.order ?? 'as panel',
      stale: values.stale === undefined ? staleFor(values.travels) : values.stale,
    }
    names.add(variable.name)
    taken.push({ address, words })
    draft.variables[id] = variable
    draft.variableOrder = placed(draft.variableOrder, [id], after ?? '')
  }
}

/** With `bind`, a setting of a widget refers to the new variable at once. */
const addVariable: Edit<NewVariable & { bind?: { widget: WidgetId; key: string } }> = {
  name: 'add variable',
  args: Joi.object({
    ...newVariableSchema,
    bind: Joi.object({ widget: idSchema('widget').required(), key: Joi.string().max(40).required() }),
  }),
  apply(draft, { bind, ...made }, before) {
    putVariables(draft, before, [made])
    if (bind) mustFind(draft.widgets, bind.widget).settings[bind.key] = made.id
  },
}

const setVariable = setsValues<{ id: VariableId; values: Values }>({
  name: 'set variable',
  args: Joi.object({
    id: idSchema('variable').required(),
    values: valuesFor('name', 'meaning', 'holds', 'travels', 'initial', 'stale', 'address', 'order', 'wireName'),
  }),
  targets: (project, { id }) => [mustFind(project.variables, id)],
  last(draft, { id, values }, before) {
    const variable = draft.variables[id]!
    const keys = Object.keys(values).map(keyOf)
    const kept =
      keys.includes('name') && !keys.includes('wireName')
        ? keptWireName(before, before.variables[id]!, Object.hasOwn(before.spent.addresses, key(before.variables[id]!)))
        : null
    const holdsOther = keys.includes('holds') && !sameJson(variable.holds, before.variables[id]!.holds)
    // The direction decides when it is stale, unless a timeout was set.
    const was = before.variables[id]!
    if (keys.includes('travels') && !keys.includes('stale') && sameJson(was.stale, staleFor(was.travels)))
      variable.stale = staleFor(variable.travels)
    if (holdsOther && !keys.includes('initial') && !fitsInitial(variable)) variable.initial = freshValue(variable.holds)
    if (kept === null) return
    variable.wireName = kept
    return { keptWire: kept }
  },
})

/** The gate refuses an unknown data type. */
const fitsInitial = ({ holds, initial }: Variable): boolean => {
  if (isNumber(holds) && !Object.hasOwn(rawLimits, holds.type)) return true
  const encoded = encodeValue(holds, initial, 'low')
  return encoded.ok && isInRange(holds, initial)
}

/** A new address for a variable, nobody's before; the old one is retired if it was spent. */
const moveVariable: Edit<{ id: VariableId }> = {
  name: 'give new address',
  args: Joi.object({ id: idSchema('variable').required() }),
  apply(draft, { id }) {
    const variable = mustFind(draft.variables, id)
    variable.address = freeAddress(draft, variable.holds)
  },
}

const deleteVariable: Edit<{ id: VariableId }> = {
  name: 'delete variable',
  args: Joi.object({ id: idSchema('variable').required() }),
  apply(draft, { id }, before) {
    const unbound = takeOut(draft, before, draft.variables, id)
    draft.variableOrder = draft.variableOrder.filter((other) => other !== id)
    return { unbound }
  },
}

const orderVariable: Edit<{ id: VariableId; after: string | null }> = {
  name: 'move variable in the list',
  args: Joi.object({ id: idSchema('variable').required(), after: Joi.string().allow('', null).required() }),
  apply(draft, { id, after }) {
    mustFind(draft.variables, id)
    draft.variableOrder = placed(draft.variableOrder, [id], after)
  },
}

/** Every address and number there is has left the house: from now on nothing hands it out again but a release by hand. */
const spendAddresses: Edit<Record<string, never>> = {
  name: 'spend addresses',
  args: Joi.object({}),
  apply(draft, _args, before) {
    for (const variable of unspentAddresses(before)) {
      const { address, holds, name } = variable
      draft.spent.addresses[key(variable)] = { address, words: wordsOf(holds), name }
    }
    for (const { key, name } of unspentNumbers(before)) draft.spent.numbers[key] = name
  },
}

const releaseAddress: Edit<{ key: string }> = {
  name: 'release address',
  args: Joi.object({
    key: Joi.string()
      .pattern(/^variable:[0-9a-z_-]{1,40}@\d{1,5}$/)
      .required(),
  }),
  apply(draft, { key }) {
    mustFind(draft.spent.addresses, key)
    const variable = draft.variables[key.slice(0, key.indexOf('@')) as VariableId]
    if (variable && key.endsWith(`@${variable.address}`)) refuse('address-in-use', { name: variable.name })
    delete draft.spent.addresses[key]
  },
}

const releaseNumber: Edit<{ key: string }> = {
  name: 'release number',
  args: Joi.object({
    key: Joi.string()
      .pattern(/^[a-z]+:[0-9a-z_-]{1,40}@\d{1,5}$/)
      .required(),
  }),
  apply(draft, { key }, before) {
    const name = mustFind(draft.spent.numbers, key)
    if (!retiredNumbers(before).some((retired) => retired.key === key)) refuse('number-in-use', { name })
    delete draft.spent.numbers[key]
  },
}

/** Every address that no variable has any more, and every number that is nobody's, may be given again. */
const releaseAll: Edit<Record<string, never>> = {
  name: 'release all addresses',
  args: Joi.object({}),
  apply(draft, _args, before) {
    for (const { key } of retiredAddresses(before)) delete draft.spent.addresses[key]
    for (const { key } of retiredNumbers(before)) delete draft.spent.numbers[key]
  },
}

export const variableEdits = [
  addVariable,
  setVariable,
  moveVariable,
  deleteVariable,
  orderVariable,
  spendAddresses,
  releaseAddress,
  releaseNumber,
  releaseAll,
] as Edit[]
