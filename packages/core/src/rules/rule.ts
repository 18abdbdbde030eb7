import Joi from 'joi'
import { itemId, itemList, type Item, type Ref, type Type, type Values } from '../describe/index.ts'
import { eventKinds } from '../frames/index.ts'
import type { CompileContext } from '../settings/index.ts'
import { momentTexts, pageMoments, panelMoments, type ActionFacts, type Moment, type World } from './action.ts'
import { actionKind, actionKinds } from './table.ts'

/** One thing that is done: which action, and with what. */
export interface Line extends Item {
  action: string
  with: Values
}

/**
 * Actions at a moment, line by line. `everyMs` > 0: with `pressed`, again and again while held, `faster` the longer; with
 * `time`, so often.
 */
export interface Rule extends Item {
  on: { moment: Moment; everyMs: number; faster?: boolean }
  lines: readonly Line[]
}

const lineSchema = Joi.object({
  ...itemId('line'),
  action: Joi.string().max(40).required(),
  with: Joi.object().default({}),
}).custom((line: Line, helpers) => {
  const kind = actionKind(line.action)
  if (!kind) return helpers.message({ custom: `{{#label}} is no action that is known: ${line.action}` })
  const filled = kind.settings.fill(line.with)
  return filled.ok ? { ...line, with: filled.value } : helpers.message({ custom: String(filled.problem.facts['message']) })
})

const rulesSchema = (moments: readonly Moment[]) =>
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
export function freshLine(action: string, moment: Moment = 'pressed'): Line {
  const kind = actionKind(action) ?? actionKinds()[0]!
  return { action, with: { ...kind.settings.defaults, ...kind.fresh?.(moment) } }
}

const refsOfLine = ({ action, with: values }: Line): Ref[] =>
  actionKind(action)
    ?.settings.refs(values)
    .map(({ ref }) => ref) ?? []

/** References of a rule. */
export const refsOfRule = ({ lines }: Rule): Ref[] => lines.flatMap(refsOfLine)

function lineWithout(line: Line, id: string): Line {
  const values = actionKind(line.action)?.settings.without(line.with, id) ?? line.with
  return values === line.with ? line : { ...line, with: values }
}

/** A rule in a build. A line that names nothing where it needs something is left out. */
export interface CompiledRule {
  on: Moment
  everyMs: number
  faster: boolean
  lines: readonly CompiledLine[]
}
export interface CompiledLine {
  action: string
  with: Values
}

const compileLine = ({ action, with: values }: Line, context: CompileContext): CompiledLine[] => {
  const settings = actionKind(action)?.settings
  return settings?.isBound(values) ? [{ action, with: settings.compile(values, context) }] : []
}

/** Rules: actions at several moments. */
const rulesAt = (name: string, moments: readonly Moment[]): Type<readonly Rule[], readonly CompiledRule[], CompileContext> => ({
  name,
  schema: rulesSchema(moments),
  choices: moments,
  labels: momentTexts,
  refs: (rules) => rules.flatMap(refsOfRule),
  unbind: (rules, id) => rules.map((rule) => ({ ...rule, lines: rule.lines.map((line) => lineWithout(line, id)) })),
  compile: (rules, context) =>
    rules.map(({ on, lines }) => ({
      on: on.moment,
      everyMs: on.everyMs,
      faster: on.faster === true,
      lines: lines.flatMap((line) => compileLine(line, context)),
    })),
})

/** Of a widget that is touched, of a page, of the panel. */
export const rulesType = rulesAt('rules', eventKinds)
export const pageRulesType = rulesAt('page rules', pageMoments)
export const panelRulesType = rulesAt('panel rules', panelMoments)

/** The facts of a line, known without doing it. */
export const factsOf = ({ action, with: values }: Line): ActionFacts => actionKind(action)?.facts?.(values) ?? {}

/** Does one line. Nothing is converted: what would make a number of a text, or a text of a number, does nothing. */
export const perform = (line: CompiledLine, world: World): void => actionKind(line.action)?.run(line.with, world)

/** Ends what a line began. */
export const performEnd = (line: CompiledLine, world: World): void => actionKind(line.action)?.end?.(line.with, world)

/** Whether a line lasts as long as the touch does, and how often it is done again, ms. */
export const lasts = (line: CompiledLine): { everyMs: number } | null => {
  const kind = actionKind(line.action)
  return kind?.end ? { everyMs: kind.everyMs?.(line.with) ?? 0 } : null
}
