import { listOf, oneOf, type CompiledOf, type RawOf } from '../describe/index.ts'
import { eventKinds, reasons } from '../frames/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'

const group = 'Value'
const everyMs = {
  label: 'Sent every',
  type: t.whole,
  default: 1000,
  group,
  essential: true,
  unit: 'ms',
  min: 0,
  max: 3_600_000,
  hint: '0: only when it changes',
}
/** The two settings that all kinds of quantity have. */
const shared = { variable: { label: 'Variable', type: t.written, default: '', group, essential: true }, everyMs }
const of = { variable: 'variable', as: 'value' } as const
const number = (label: string, value: number) => ({ label, type: t.number, default: value, group, essential: true })
const valued = (label: string, value: number) => ({ ...number(label, value), of })
const perSecond = { ...number('Units a second', 1), min: 0 }

const compare = ['is', 'is not', 'above', 'below', 'has bit', 'lacks bit'] as const
export type Compare = (typeof compare)[number]

/** A condition on a variable as the host knows it; no variable: always true. */
const condition = (label: string, group: string, essential: boolean) => ({
  whenVariable: { label, type: t.variable, default: '', group, essential },
  whenCompare: { label: 'how', type: oneOf(...compare), default: 'is', group, essential },
  whenValue: {
    label: 'what',
    type: t.number,
    default: 0,
    group,
    essential,
    of: { variable: 'whenVariable', as: 'value', compare: 'whenCompare' } as const,
  },
})

/** A value that moves may do so only while something holds, and stands meanwhile. */
const onlyWhile = condition('only while', group, false)

/** How a value of the host moves by itself, by kind. */
export const quantityKinds = {
  constant: { label: 'stays at', settings: described({ ...shared, value: valued('Value', 0) }) },
  ramp: {
    label: 'goes from … to …',
    settings: described({
      ...shared,
      from: valued('From', 0),
      to: valued('To', 100),
      perSecond,
      atEnd: { label: 'At the end', type: oneOf('stop', 'begin again', 'back'), default: 'begin again', group },
      ...onlyWhile,
    }),
  },
  approach: {
    label: 'approaches',
    settings: described({
      ...shared,
      start: valued('Begins at', 0),
      target: { label: 'Target', type: t.variable, default: '', group, essential: true },
      perSecond,
      circle: { ...number('Circle of', 0), min: 0, hint: '360 for an angle: the short way round. 0: no circle' },
      ...onlyWhile,
    }),
  },
  list: {
    label: 'steps through',
    settings: described({
      ...shared,
      values: { label: 'Values', type: t.text, default: '0, 1', group, essential: true, hint: 'separated by commas' },
      stepMs: { label: 'Each for', type: t.whole, default: 1000, group, essential: true, unit: 'ms', min: 1 },
      ...onlyWhile,
    }),
  },
  walk: {
    label: 'wanders',
    settings: described({
      ...shared,
      low: valued('Between', 0),
      high: valued('and', 10),
      start: valued('Begins at', 5),
      step: { ...number('By at most', 1), min: 0 },
      ...onlyWhile,
    }),
  },
}

export type QuantityKind = keyof typeof quantityKinds
type QuantityFields<K extends QuantityKind> = (typeof quantityKinds)[K]['settings']['fields']

/** One value the stand-in keeps and sends. Values are in shown units of the variable. */
export type Quantity = { [K in QuantityKind]: { id: string; kind: K; settings: RawOf<QuantityFields<K>> } }[QuantityKind]
/** The same in a host build. */
export type CompiledQuantity = { [K in QuantityKind]: { kind: K; settings: CompiledOf<QuantityFields<K>> } }[QuantityKind]

/** After so long, a value of the host becomes this. A later effect on the same variable cancels those still waiting. */
const effect = described({
  afterMs: { label: 'After', type: t.whole, default: 0, group: 'Effect', unit: 'ms', min: 0, max: 3_600_000 },
  variable: { label: 'variable', type: t.written, default: '', group: 'Effect' },
  value: { label: 'becomes', type: t.number, default: 0, group: 'Effect', of },
})
export type Effect = { id?: string } & RawOf<typeof effect.fields>
export type CompiledEffect = CompiledOf<typeof effect.fields>
export const freshEffect: Effect = effect.defaults

/** What the stand-in does when it hears something: the first reaction that fits is the one that counts. */
export const reactionSettings = described({
  on: { label: 'On', type: oneOf('report', 'event'), default: 'report', group: 'When', essential: true },
  variable: { label: 'of variable', type: t.variable, default: '', group: 'When', essential: true },
  widget: { label: 'of widget', type: t.widget, default: '', group: 'When' },
  what: { label: 'when it was', type: oneOf('any', ...eventKinds), default: 'any', group: 'When' },
  compare: { label: 'and the value', type: oneOf('any', ...compare), default: 'any', group: 'When', essential: true },
  value: {
    label: 'compared with',
    type: t.number,
    default: 0,
    group: 'When',
    essential: true,
    of: { variable: 'variable', as: 'value', compare: 'compare' },
  },
  ...condition('and only when', 'When', false),
  answer: { label: 'Answers', type: oneOf('done', 'refused', 'nothing'), default: 'done', group: 'Then', essential: true },
  reason: { label: 'Reason', type: oneOf(...reasons), default: 'busy', group: 'Then' },
  answerAfterMs: { label: 'Answers after', type: t.whole, default: 5, unit: 'ms', min: 0, max: 60_000, group: 'Then' },
  effects: { label: 'Effects', type: listOf('effects', 'effect', effect, 16), default: [], group: 'Then', essential: true },
})
export interface Reaction {
  id: string
  settings: RawOf<typeof reactionSettings.fields>
}
export type CompiledReaction = CompiledOf<typeof reactionSettings.fields>

/** A pin the host drives from a value it knows. */
export const outputSettings = described({
  name: { label: 'Name', type: t.text, default: 'output', group: 'Output', essential: true },
  ...condition('On when', 'Output', true),
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
