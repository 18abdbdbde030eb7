import Joi from 'joi'
import { itemId, itemList, type Item, type Ref, type Type, type Values } from '../describe/index.ts'
import { eventKinds } from '../frames/index.ts'
import type { CompileContext } from '../settings/index.ts'
import { pageMoments, panelMoments, type DeedFacts, type Moment, type World } from './deed.ts'
import { deedKind, deedKinds } from './table.ts'

/** One thing that is done: which deed, and with what. */
export interface Line extends Item {
  deed: string
  with: Values
}

/**
 * What is done at a moment, line by line. `everyMs` > 0: with `pressed`, again and again while held, `faster` the longer; with
 * `time`, so often.
 */
export interface Action extends Item {
  on: { moment: Moment; everyMs: number; faster?: boolean }
  lines: readonly Line[]
}

const lineSchema = Joi.object({
  ...itemId('line'),
  deed: Joi.string().max(40).required(),
  with: Joi.object().default({}),
}).custom((line: Line, helpers) => {
  const kind = deedKind(line.deed)
  if (!kind) return helpers.message({ custom: `{{#label}} is no deed a button knows: ${line.deed}` })
  const filled = kind.settings.fill(line.with)
  return filled.ok ? { ...line, with: filled.value } : helpers.message({ custom: String(filled.problem.facts['message']) })
})

const actionsSchema = (moments: readonly Moment[]) =>
  itemList('rule', {
    on: Joi.object({
      moment: Joi.string()
        .valid(...moments)
        .required(),
      everyMs: Joi.number().integer().min(0).max(86_400_000).default(0),
      faster: Joi.boolean(),
    }).required(),
    lines: itemList('line', lineSchema).max(16).required(),
  }).max(16)

/** A line before anyone has said more, under a moment. */
export function freshLine(deed: string, moment: Moment = 'pressed'): Line {
  const kind = deedKind(deed) ?? deedKinds()[0]!
  return { deed, with: { ...kind.settings.defaults, ...kind.fresh?.(moment) } }
}

const refsOfLine = ({ deed, with: values }: Line): Ref[] =>
  deedKind(deed)
    ?.settings.refs(values)
    .map(({ ref }) => ref) ?? []

function lineWithout(line: Line, id: string): Line {
  const values = deedKind(line.deed)?.settings.without(line.with, id) ?? line.with
  return values === line.with ? line : { ...line, with: values }
}

/** An action in a build. A line that names nothing where it needs something is left out. */
export interface CompiledAction {
  on: Moment
  everyMs: number
  faster: boolean
  lines: readonly CompiledLine[]
}
export interface CompiledLine {
  deed: string
  with: Values
}

const compileLine = ({ deed, with: values }: Line, context: CompileContext): CompiledLine[] => {
  const settings = deedKind(deed)?.settings
  return settings?.isBound(values) ? [{ deed, with: settings.compile(values, context) }] : []
}

/** What is done at some moments. */
const actionsAt = (
  name: string,
  moments: readonly Moment[],
): Type<readonly Action[], readonly CompiledAction[], CompileContext> => ({
  name,
  schema: actionsSchema(moments),
  choices: moments,
  refs: (actions) => actions.flatMap(({ lines }) => lines.flatMap(refsOfLine)),
  unbind: (actions, id) => actions.map((action) => ({ ...action, lines: action.lines.map((line) => lineWithout(line, id)) })),
  compile: (actions, context) =>
    actions.map(({ on, lines }) => ({
      on: on.moment,
      everyMs: on.everyMs,
      faster: on.faster === true,
      lines: lines.flatMap((line) => compileLine(line, context)),
    })),
})

/** Of a widget that is touched, of a page, of the panel. */
export const actionsType = actionsAt('actions', eventKinds)
export const pageActionsType = actionsAt('page actions', pageMoments)
export const panelActionsType = actionsAt('panel actions', panelMoments)

/** The facts of a line, known without doing it. */
export const factsOf = ({ deed, with: values }: Line): DeedFacts => deedKind(deed)?.facts?.(values) ?? {}

/** Does one line. Nothing is converted: what would make a number of a text, or a text of a number, does nothing. */
export const perform = (line: CompiledLine, world: World): void => deedKind(line.deed)?.run(line.with, world)

/** Ends what a line began. */
export const performEnd = (line: CompiledLine, world: World): void => deedKind(line.deed)?.end?.(line.with, world)

/** Whether a line lasts as long as the touch does, and how often it is done again, ms. */
export const lasts = (line: CompiledLine): { everyMs: number } | null => {
  const kind = deedKind(line.deed)
  return kind?.end ? { everyMs: kind.everyMs?.(line.with) ?? 0 } : null
}
