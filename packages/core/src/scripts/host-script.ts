import { listOf, oneOf, type CompiledOf, type RawOf } from '../describe/index.ts'
import { eventTexts, reasonTexts } from '../frames/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'

const group = 'Value'
const everyMs = {
  label: 'Send interval',
  type: t.whole,
  default: 1000,
  group,
  essential: true,
  unit: 'ms',
  min: 0,
  max: 3_600_000,
  hint: '0: on change',
}
/** The two settings that all kinds of quantity have. */
const shared = { variable: { label: 'Variable', type: t.written, default: '', group, essential: true }, everyMs }
const of = { variable: 'variable', as: 'value' } as const
const number = (label: string, value: number) => ({ label, type: t.number, default: value, group, essential: true })
const valued = (label: string, value: number) => ({ ...number(label, value), of })
const perSecond = { ...number('Rate (units/s)', 1), min: 0 }

const compareTexts = {
  is: '=',
  'is not': '≠',
  above: '>',
  below: '<',
  'has bit': 'bit set',
  'lacks bit': 'bit clear',
} as const
export type Compare = keyof typeof compareTexts

/** A condition on a variable as the host knows it; no variable: always true. */
const condition = (label: string, group: string, essential: boolean) => ({
  whenVariable: { label, type: t.variable, default: '', group, essential },
  whenCompare: { label: 'Comparison', type: oneOf(compareTexts), default: 'is', group, essential },
  whenValue: {
    label: 'Compared value',
    type: t.number,
    default: 0,
    group,
    essential,
    of: { variable: 'whenVariable', as: 'value', compare: 'whenCompare' } as const,
  },
})

/** A value that moves may do so only while something holds, and stands meanwhile. */
const onlyWhile = condition('Additional condition', group, false)

/** How a value of the host moves by itself, by kind. */
export const quantityKinds = {
  constant: { label: 'constant', settings: described({ ...shared, value: valued('Value', 0) }) },
  ramp: {
    label: 'ramp',
    settings: described({
      ...shared,
      from: valued('From', 0),
      to: valued('To', 100),
      perSecond,
      atEnd: {
        label: 'At limit',
        type: oneOf({ stop: 'stop', 'begin again': 'restart', back: 'reverse' }),
        default: 'begin again',
        group,
      },
      ...onlyWhile,
    }),
  },
  approach: {
    label: 'track target',
    settings: described({
      ...shared,
      start: valued('Initial value', 0),
      target: { label: 'Target', type: t.variable, default: '', group, essential: true },
      perSecond,
      circle: { ...number('Wrap-around', 0), min: 0, hint: '360 for angles: the shortest path; 0: none' },
      ...onlyWhile,
    }),
  },
  list: {
    label: 'table',
    settings: described({
      ...shared,
      values: { label: 'Values', type: t.text, default: '0, 1', group, essential: true, hint: 'separated by commas' },
      stepMs: { label: 'Step time', type: t.whole, default: 1000, group, essential: true, unit: 'ms', min: 1 },
      ...onlyWhile,
    }),
  },
  walk: {
    label: 'random walk',
    settings: described({
      ...shared,
      low: valued('Minimum', 0),
      high: valued('Maximum', 10),
      start: valued('Initial value', 5),
      step: { ...number('Maximum step', 1), min: 0 },
      ...onlyWhile,
    }),
  },
}

export type QuantityKind = keyof typeof quantityKinds
type QuantityFields<K extends QuantityKind> = (typeof quantityKinds)[K]['settings']['fields']

/** One value the simulated host keeps and sends. Values are in shown units of the variable. */
export type Quantity = { [K in QuantityKind]: { id: string; kind: K; settings: RawOf<QuantityFields<K>> } }[QuantityKind]
/** The same in a host build. */
export type CompiledQuantity = { [K in QuantityKind]: { kind: K; settings: CompiledOf<QuantityFields<K>> } }[QuantityKind]

/** After so long, a value of the host becomes this. A later effect on the same variable cancels those still waiting. */
const effect = described({
  afterMs: { label: 'Delay', type: t.whole, default: 0, group: 'Effect', unit: 'ms', min: 0, max: 3_600_000 },
  variable: { label: 'Variable', type: t.written, default: '', group: 'Effect' },
  value: { label: 'New value', type: t.number, default: 0, group: 'Effect', of },
  command: { label: 'Command to send', type: t.command, default: '', group: 'Effect' },
})
export type Effect = { id?: string } & RawOf<typeof effect.fields>
export type CompiledEffect = CompiledOf<typeof effect.fields>
export const freshEffect: Effect = effect.defaults

/** Reaction of the simulated host to a message: the first reaction that fits is the one that counts. */
export const reactionSettings = described({
  on: {
    label: 'Trigger',
    type: oneOf({ report: 'report', event: 'event', command: 'command' }),
    default: 'report',
    group: 'When',
    essential: true,
  },
  variable: { label: 'Variable', type: t.variable, default: '', group: 'When', essential: true },
  widget: { label: 'Widget', type: t.widget, default: '', group: 'When' },
  command: { label: 'Command', type: t.command, default: '', group: 'When' },
  what: { label: 'Event', type: oneOf({ any: 'any', ...eventTexts }), default: 'any', group: 'When' },
  compare: { label: 'Condition', type: oneOf({ any: 'any', ...compareTexts }), default: 'any', group: 'When', essential: true },
  value: {
    label: 'Value',
    type: t.number,
    default: 0,
    group: 'When',
    essential: true,
    of: { variable: 'variable', as: 'value', compare: 'compare' },
  },
  ...condition('Additional condition', 'When', false),
  answer: {
    label: 'Response',
    type: oneOf({ done: 'acknowledge', refused: 'reject', nothing: 'none' }),
    default: 'done',
    group: 'Then',
    essential: true,
  },
  reason: { label: 'Reason', type: oneOf(reasonTexts), default: 'busy', group: 'Then' },
  answerAfterMs: { label: 'Response delay', type: t.whole, default: 5, unit: 'ms', min: 0, max: 60_000, group: 'Then' },
  effects: { label: 'Values to set', type: listOf('effects', 'effect', effect, 16), default: [], group: 'Then', essential: true },
})
export interface Reaction {
  id: string
  settings: RawOf<typeof reactionSettings.fields>
}
export type CompiledReaction = CompiledOf<typeof reactionSettings.fields>

/** A pin the host drives from a value it knows. */
export const outputSettings = described({
  name: { label: 'Name', type: t.text, default: 'output', group: 'Output', essential: true },
  ...condition('Output on when', 'Output', true),
  activeLow: {
    label: 'Active low',
    type: t.yesNo,
    default: false,
    group: 'Output',
    hint: 'the pin is low when the output is on',
  },
})
export interface HostOutput {
  id: string
  settings: RawOf<typeof outputSettings.fields>
}
export type CompiledOutput = CompiledOf<typeof outputSettings.fields>
/** A condition as a build holds it. */
export type CompiledCondition = Pick<CompiledOutput, 'whenVariable' | 'whenCompare' | 'whenValue'>

/** A frame that the host sends of its own accord: a command, or a read request. */
export const sendingSettings = described({
  what: {
    label: 'Frame',
    type: oneOf({ command: 'command', ask: 'read request' }),
    default: 'command',
    group: 'Sending',
    essential: true,
  },
  command: { label: 'Command', type: t.command, default: '', group: 'Sending', essential: true },
  variable: { label: 'Variable', type: t.variable, default: '', group: 'Sending', essential: true },
  when: {
    label: 'When',
    type: oneOf({ start: 'at power-on', every: 'periodically' }),
    default: 'start',
    group: 'Sending',
    essential: true,
  },
  ms: {
    label: 'Delay or period',
    type: t.whole,
    default: 0,
    unit: 'ms',
    min: 0,
    max: 3_600_000,
    group: 'Sending',
    essential: true,
  },
  values: {
    label: 'Values',
    type: t.text,
    default: '',
    group: 'Sending',
    hint: 'of the command, separated by commas; empty: as the host knows them',
  },
})
export interface Sending {
  id: string
  settings: RawOf<typeof sendingSettings.fields>
}
export type CompiledSending = CompiledOf<typeof sendingSettings.fields>

/** A simulated host in data: records by id, order as lists of ids. */
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
  sendings: Record<string, Sending>
  sendingOrder: readonly string[]
}

export const emptyHostScript: HostScript = {
  name: 'host',
  synchronises: true,
  quantities: {},
  quantityOrder: [],
  reactions: {},
  reactionOrder: [],
  outputs: {},
  outputOrder: [],
  sendings: {},
  sendingOrder: [],
}
