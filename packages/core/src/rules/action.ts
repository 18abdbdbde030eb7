import Joi from 'joi'
import { idOrNone, itemList, type Item, type Ref } from '../describe/index.ts'
import { wrapInto, type PageId, type VariableId } from '../base/index.ts'
import { isNumber, type Cell, type Value } from '../variables/index.ts'

/** When a deed is done. `hold` comes once, after the hold time, and stands beside the release that follows. */
export type Moment = 'press' | 'release inside' | 'release outside' | 'hold'
export const moments: readonly Moment[] = ['press', 'release inside', 'release outside', 'hold']

/** A constant, or the value of a variable at that moment. */
export type Amount = number | { follows: VariableId | '' }

export type Deed =
  | { do: 'set'; variable: VariableId | ''; to: Amount }
  /** Adds `by` (shown units, may be negative); at the end of the range it stops or begins again at the other end. */
  | { do: 'step'; variable: VariableId | ''; by: Amount; atEnd: 'stop' | 'wrap' }
  | { do: 'toggle'; variable: VariableId | '' }
  /** 1 from the press to the lifting of the finger, wherever it is lifted. */
  | { do: 'one while pressed'; variable: VariableId | '' }
  | { do: 'set bits' | 'clear bits' | 'toggle bits'; variable: VariableId | ''; mask: number }
  | { do: 'go to page'; page: PageId | '' }
  | { do: 'send event' }

/** `repeatMs` > 0: with moment `press`, done again and again while held. */
export interface Action extends Item {
  on: Moment
  deed: Deed
  repeatMs: number
}

export const deedKinds: readonly Deed['do'][] = [
  'set',
  'step',
  'toggle',
  'one while pressed',
  'set bits',
  'clear bits',
  'toggle bits',
  'go to page',
  'send event',
]

const variable = idOrNone('variable').required()
const amount = Joi.alternatives(Joi.number(), Joi.object({ follows: variable })).required()
const mask = Joi.number().integer().min(1).max(0xffff).required()
const deed = (name: Joi.Schema, keys: Joi.SchemaMap) => Joi.object({ do: name, ...keys })

const deedSchema = Joi.alternatives().conditional('.do', {
  switch: [
    { is: 'set', then: deed(Joi.valid('set'), { variable, to: amount }) },
    { is: 'step', then: deed(Joi.valid('step'), { variable, by: amount, atEnd: Joi.valid('stop', 'wrap').required() }) },
    { is: Joi.valid('toggle', 'one while pressed'), then: deed(Joi.string(), { variable }) },
    { is: Joi.valid('set bits', 'clear bits', 'toggle bits'), then: deed(Joi.string(), { variable, mask }) },
    {
      is: 'go to page',
      then: deed(Joi.valid('go to page'), {
        page: idOrNone('page').required(),
      }),
    },
    {
      is: 'send event',
      then: deed(Joi.valid('send event'), {}),
      otherwise: Joi.forbidden().messages({ 'any.unknown': '{{#label}} is no deed a button knows' }),
    },
  ],
})

export const actionsSchema = itemList('rule', {
  on: Joi.string()
    .valid(...moments)
    .required(),
  deed: deedSchema.required(),
  repeatMs: Joi.number().integer().min(0).max(10_000).required(),
}).max(16)

/** A deed before anyone has said more. */
export function freshDeed(kind: Deed['do']): Deed {
  switch (kind) {
    case 'set':
      return { do: kind, variable: '', to: 1 }
    case 'step':
      return { do: kind, variable: '', by: 1, atEnd: 'stop' }
    case 'toggle':
    case 'one while pressed':
      return { do: kind, variable: '' }
    case 'go to page':
      return { do: kind, page: '' }
    case 'send event':
      return { do: kind }
    default:
      return { do: kind, variable: '', mask: 1 }
  }
}

const amountRefs = (value: Amount): Ref[] => (typeof value === 'number' ? [] : [{ to: value.follows, use: 'reads' }])

/** Everything an action refers to. */
export function actionRefs({ deed }: Action): Ref[] {
  if (deed.do === 'go to page') return [{ to: deed.page, use: 'names' }]
  if (deed.do === 'send event') return []
  const more = deed.do === 'set' ? amountRefs(deed.to) : deed.do === 'step' ? amountRefs(deed.by) : []
  return [{ to: deed.variable, use: 'writes' }, ...more]
}

/** The action without any reference to `id`. */
export function actionWithout(action: Action, id: string): Action {
  const { deed } = action
  const amountWithout = (value: Amount): Amount => (typeof value !== 'number' && value.follows === id ? 1 : value)
  if (deed.do === 'send event') return action
  if (deed.do === 'go to page') return deed.page === id ? { ...action, deed: { ...deed, page: '' } } : action
  const variable = deed.variable === id ? ('' as const) : deed.variable
  if (deed.do === 'set') return { ...action, deed: { ...deed, variable, to: amountWithout(deed.to) } }
  if (deed.do === 'step') return { ...action, deed: { ...deed, variable, by: amountWithout(deed.by) } }
  return { ...action, deed: { ...deed, variable } }
}

export type CompiledAmount = number | { cell: Cell }

/** An action in a build. A deed whose variable or page is missing is left out when compiling. */
export type CompiledAction = { on: Moment; repeatMs: number } & (
  | { do: 'set'; cell: Cell; to: CompiledAmount }
  | { do: 'step'; cell: Cell; by: CompiledAmount; atEnd: 'stop' | 'wrap' }
  | { do: 'toggle' | 'one while pressed'; cell: Cell }
  | { do: 'set bits' | 'clear bits' | 'toggle bits'; cell: Cell; mask: number }
  | { do: 'go to page'; page: number }
  | { do: 'send event' }
)

export function compileAction(
  action: Action,
  cellOf: (id: string) => Cell | null,
  pageOf: (id: string) => number | null,
): CompiledAction | null {
  const { on, repeatMs, deed } = action
  const amount = (value: Amount): CompiledAmount | null => {
    if (typeof value === 'number') return value
    const cell = cellOf(value.follows)
    return cell && { cell }
  }
  if (deed.do === 'send event') return { on, repeatMs, do: deed.do }
  if (deed.do === 'go to page') {
    const page = pageOf(deed.page)
    return page === null ? null : { on, repeatMs, do: deed.do, page }
  }
  const cell = cellOf(deed.variable)
  if (!cell) return null
  if (deed.do === 'set') {
    const to = amount(deed.to)
    return to === null ? null : { on, repeatMs, do: deed.do, cell, to }
  }
  if (deed.do === 'step') {
    const by = amount(deed.by)
    return by === null ? null : { on, repeatMs, do: deed.do, cell, by, atEnd: deed.atEnd }
  }
  if (deed.do === 'toggle' || deed.do === 'one while pressed') return { on, repeatMs, do: deed.do, cell }
  return { on, repeatMs, do: deed.do, cell, mask: deed.mask }
}

/** What the interpreter needs of the panel. A write is in shown units and counts as a completed touch. */
export interface World {
  read(cell: Cell): Value
  write(cell: Cell, value: Value): void
  goTo(page: number): void
  sendEvent(moment: Moment): void
}

/**
 * Does one deed. `one while pressed` is told apart by `lifted`. Nothing is converted: a deed that would make a number of a
 * text, or a text of a number, does nothing.
 */
export function perform(action: CompiledAction, world: World, lifted = false): void {
  const numberAt = (cell: Cell): number | null => {
    const value = world.read(cell)
    return typeof value === 'number' && !Number.isNaN(value) ? value : null
  }
  const change = (cell: Cell, to: (now: number) => number): void => {
    const now = numberAt(cell)
    if (now !== null) world.write(cell, to(now))
  }
  switch (action.do) {
    case 'set': {
      const value = typeof action.to === 'number' ? action.to : world.read(action.to.cell)
      if ((typeof value === 'string') === (action.cell.holds.type === 'text')) world.write(action.cell, value)
      return
    }
    case 'step': {
      const by = typeof action.by === 'number' ? action.by : numberAt(action.by.cell)
      return by === null ? undefined : change(action.cell, (now) => stepped(action.cell, now, by, action.atEnd))
    }
    case 'toggle':
      return change(action.cell, (now) => (now === 0 ? 1 : 0))
    case 'one while pressed':
      return change(action.cell, () => (lifted ? 0 : 1))
    case 'set bits':
      return change(action.cell, (now) => (now | action.mask) & 0xffff)
    case 'clear bits':
      return change(action.cell, (now) => now & ~action.mask & 0xffff)
    case 'toggle bits':
      return change(action.cell, (now) => (now ^ action.mask) & 0xffff)
    case 'go to page':
      return world.goTo(action.page)
    case 'send event':
      return world.sendEvent(action.on)
  }
}

/** A value one step further, inside the range of its variable; a choice steps through its words in order. */
export function stepped(cell: Cell, now: number, by: number, atEnd: 'stop' | 'wrap'): number {
  const { holds } = cell
  if (holds.type === 'choice') {
    const values = holds.choices.map((c) => c.value)
    if (!values.length) return now
    const next = values.indexOf(now) + by
    return values[atEnd === 'wrap' ? wrapInto(next, 0, values.length) : Math.min(values.length - 1, Math.max(0, next))]!
  }
  const [min, max] = isNumber(holds) ? [holds.min, holds.max] : holds.type === 'time' ? [0, 86_399] : [0, 65_535]
  const next = now + by
  const slack = Math.abs(by) * 1e-9
  if (next >= min - slack && next <= max + slack) return Math.min(max, Math.max(min, next))
  if (atEnd === 'stop') return next < min ? min : max
  // A circle has one step of resolution between its last value and its first: 359.9° + 0.1° is 0°.
  const resolution = isNumber(holds) ? (holds.type === 'f32' ? 0 : Math.abs(holds.factor)) : 1
  return Math.min(max, wrapInto(next, min, max - min + resolution))
}
