import Joi from 'joi'
import { itemList, type Item } from '../describe/index.ts'
import { defaultsOf, settingTypes as t, type Setting, type SettingValues } from '../settings/index.ts'

/** How a value of the host moves by itself. */
export type QuantityKind = 'constant' | 'ramp' | 'approach' | 'list' | 'walk'

/** One value the stand-in keeps and sends. Values are in shown units of the variable. */
export interface Quantity {
  id: string
  kind: QuantityKind
  settings: SettingValues
}

/** What the stand-in does when it hears something: the first reaction that fits is the one that counts. */
export interface Reaction {
  id: string
  settings: SettingValues
}

/** A pin the host drives from a value it knows. */
export interface HostOutput {
  id: string
  settings: SettingValues
}

/** A stand-in in data: records by id, order as lists of ids. */
export interface HostScript {
  name: string
  /** At its own start and when the panel reports its version, it writes what it owns and asks for what it does not know. */
  synchronises: boolean
  quantities: Record<string, Quantity>
  quantityOrder: readonly string[]
  reactions: Record<string, Reaction>
  reactionOrder: readonly string[]
  outputs: Record<string, HostOutput>
  outputOrder: readonly string[]
}

export const emptyHostScript: HostScript = {
  name: 'stand-in',
  synchronises: true,
  quantities: {},
  quantityOrder: [],
  reactions: {},
  reactionOrder: [],
  outputs: {},
  outputOrder: [],
}

const variable = (key: string, label: string, group = 'Value'): Setting => ({
  key,
  label,
  type: t.variable,
  default: '',
  group,
  essential: true,
})
const number = (key: string, label: string, value: number, more: Partial<Setting> = {}): Setting => ({
  key,
  label,
  type: t.number,
  default: value,
  group: 'Value',
  essential: true,
  ...more,
})

const shared: Setting[] = [
  variable('variable', 'Variable'),
  number('everyMs', 'Sent every', 1000, { type: t.whole, unit: 'ms', min: 0, max: 3_600_000, hint: '0: only when it changes' }),
]

/** The settings of each kind of quantity; the first two are the same for all. */
export const quantityKinds: Record<QuantityKind, { label: string; settings: Setting[] }> = {
  constant: { label: 'stays at', settings: [...shared, number('value', 'Value', 0)] },
  ramp: {
    label: 'goes from … to …',
    settings: [
      ...shared,
      number('from', 'From', 0),
      number('to', 'To', 100),
      number('perSecond', 'Units a second', 1, { min: 0 }),
      {
        key: 'atEnd',
        label: 'At the end',
        type: t.choice,
        choices: ['stop', 'begin again', 'back'],
        default: 'begin again',
        group: 'Value',
      },
    ],
  },
  approach: {
    label: 'approaches',
    settings: [
      ...shared,
      number('start', 'Begins at', 0),
      variable('target', 'Target'),
      number('perSecond', 'Units a second', 1, { min: 0 }),
      number('circle', 'Circle of', 0, { min: 0, hint: '360 for an angle: the short way round. 0: no circle' }),
    ],
  },
  list: {
    label: 'steps through',
    settings: [
      ...shared,
      {
        key: 'values',
        label: 'Values',
        type: t.text,
        default: '0, 1',
        group: 'Value',
        essential: true,
        hint: 'separated by commas',
      },
      number('stepMs', 'Each for', 1000, { type: t.whole, unit: 'ms', min: 1 }),
    ],
  },
  walk: {
    label: 'wanders',
    settings: [
      ...shared,
      number('low', 'Between', 0),
      number('high', 'and', 10),
      number('start', 'Begins at', 5),
      number('step', 'By at most', 1, { min: 0 }),
    ],
  },
}

const compare = ['is', 'is not', 'above', 'below', 'has bit', 'lacks bit'] as const
export type Compare = (typeof compare)[number]

/** A condition on a variable as the host knows it; no variable: always true. */
const condition = (prefix: string, label: string, group: string): Setting[] => [
  { key: `${prefix}Variable`, label, type: t.variable, default: '', group },
  { key: `${prefix}Compare`, label: 'how', type: t.choice, choices: compare, default: 'is', group },
  { key: `${prefix}Value`, label: 'what', type: t.number, default: 0, group },
]

export const reactionSettings: Setting[] = [
  { key: 'on', label: 'On', type: t.choice, choices: ['report', 'event'], default: 'report', group: 'When', essential: true },
  { key: 'variable', label: 'of variable', type: t.variable, default: '', group: 'When', essential: true },
  { key: 'widget', label: 'of widget', type: t.widget, default: '', group: 'When' },
  {
    key: 'what',
    label: 'when it was',
    type: t.choice,
    choices: ['any', 'pressed', 'released inside', 'held', 'released outside'],
    default: 'any',
    group: 'When',
  },
  {
    key: 'compare',
    label: 'and the value',
    type: t.choice,
    choices: ['any', ...compare],
    default: 'any',
    group: 'When',
    essential: true,
  },
  { key: 'value', label: 'compared with', type: t.number, default: 0, group: 'When', essential: true },
  ...condition('when', 'and only when', 'When'),
  {
    key: 'answer',
    label: 'Answers',
    type: t.choice,
    choices: ['done', 'refused', 'nothing'],
    default: 'done',
    group: 'Then',
    essential: true,
  },
  {
    key: 'reason',
    label: 'Reason',
    type: t.choice,
    choices: ['operation', 'address', 'not writable', 'length', 'value', 'busy'],
    default: 'busy',
    group: 'Then',
  },
  { key: 'answerAfterMs', label: 'Answers after', type: t.whole, default: 5, unit: 'ms', min: 0, max: 60_000, group: 'Then' },
  { key: 'effects', label: 'Effects', type: effectsType(), default: [], group: 'Then', essential: true },
]

/** After so long, a value of the host becomes this. A later effect on the same variable cancels those still waiting. */
export interface Effect extends Item {
  afterMs: number
  variable: string
  value: number
}

function effectsType() {
  const schema = itemList('effect', {
    afterMs: Joi.number().integer().min(0).max(3_600_000).required(),
    variable: t.variable.schema.required(),
    value: Joi.number().required(),
  }).max(16)
  return {
    name: 'effects',
    schema,
    refs: (value: unknown) => (value as Effect[]).map((e) => e.variable),
    unbind: (value: unknown, gone: string) => (value as Effect[]).map((e) => (e.variable === gone ? { ...e, variable: '' } : e)),
    compile: (value: unknown, context: { cell(id: string): unknown }) =>
      (value as Effect[]).flatMap(({ afterMs, variable, value: to }) => {
        const cell = context.cell(variable)
        return cell ? [{ afterMs, cell, value: to }] : []
      }),
  }
}

export const outputSettings: Setting[] = [
  { key: 'name', label: 'Name', type: t.text, default: 'output', group: 'Output', essential: true },
  ...condition('when', 'On when', 'Output').map((s) => ({ ...s, essential: true })),
  {
    key: 'activeLow',
    label: 'Active low',
    type: t.yesNo,
    default: false,
    group: 'Output',
    hint: 'the pin is low when the output is on',
  },
]

export const freshQuantity = (kind: QuantityKind): SettingValues => defaultsOf(quantityKinds[kind].settings)
