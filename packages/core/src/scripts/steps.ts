import { oneOf, type CompiledOf, type RawOf } from '../describe/index.ts'
import { eventKinds, reasons } from '../frames/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'

const group = 'Step'
const variable = { label: 'Variable', type: t.variable, default: '', group, essential: true }
const widget = { label: 'Widget', type: t.widget, default: '', group, essential: true }
const value = {
  label: 'Value',
  type: t.text,
  default: '',
  group,
  essential: true,
  hint: 'as it is shown: 231.0, open, rain wind',
}
const withinMs = {
  label: 'Within',
  type: t.whole,
  default: 500,
  unit: 'ms',
  min: 0,
  max: 600_000,
  group,
  essential: true,
}
const tolerance = { label: 'give or take', type: t.number, default: 0, min: 0, group }

/** The settings of each kind of step; schema, types, references and editor are derived from them. */
export const stepKinds = {
  touch: {
    label: 'touch',
    expects: false,
    settings: described({
      widget,
      gesture: {
        label: 'How',
        type: oneOf('tap', 'press', 'release', 'hold', 'drag'),
        default: 'tap',
        group,
        essential: true,
      },
      times: { label: 'Times', type: t.whole, default: 1, min: 1, max: 100, group, essential: true },
      holdMs: { label: 'For', type: t.whole, default: 80, unit: 'ms', min: 1, max: 60_000, group },
      dx: { label: 'Drag right', type: t.whole, default: 0, unit: 'px', group },
      dy: { label: 'Drag down', type: t.whole, default: 0, unit: 'px', group },
    }),
  },
  'host writes': { label: 'host writes', expects: false, settings: described({ variable, value }) },
  'host asks': { label: 'host asks for', expects: false, settings: described({ variable }) },
  'host sends bytes': {
    label: 'host sends bytes',
    expects: false,
    settings: described({ bytes: { label: 'Bytes', type: t.text, default: '', group, essential: true, hint: 'hex' } }),
  },
  wait: {
    label: 'wait',
    expects: false,
    settings: described({
      ms: { label: 'For', type: t.whole, default: 1000, unit: 'ms', min: 1, max: 3_600_000, group, essential: true },
    }),
  },
  'power cycle': {
    label: 'power cycle',
    expects: false,
    settings: described({
      which: { label: 'Of', type: oneOf('panel', 'host', 'both'), default: 'panel', group, essential: true },
    }),
  },
  trouble: {
    label: 'trouble',
    expects: false,
    settings: described({
      what: {
        label: 'What',
        type: oneOf('lose frames to the host', 'lose frames to the panel', 'host falls silent', 'host speaks again'),
        default: 'lose frames to the host',
        group,
        essential: true,
      },
      count: { label: 'How many', type: t.whole, default: 1, min: 1, max: 1000, group, essential: true },
    }),
  },
  'expect report': {
    label: 'expect report',
    expects: true,
    settings: described({
      variable,
      value,
      withinMs,
      tolerance,
      attempt: {
        label: 'On try',
        type: t.whole,
        default: 0,
        min: 0,
        max: 20,
        group,
        hint: '0: whichever; 2: the first repeat',
      },
    }),
  },
  'expect event': {
    label: 'expect event',
    expects: true,
    settings: described({
      widget,
      what: { label: 'Says', type: oneOf(...eventKinds), default: 'pressed', group, essential: true },
      withinMs,
    }),
  },
  'expect answer': {
    label: 'expect answer',
    expects: true,
    settings: described({
      from: { label: 'From', type: oneOf('panel', 'host'), default: 'host', group, essential: true },
      answer: { label: 'Answer', type: oneOf('done', 'refused', 'value'), default: 'done', group, essential: true },
      reason: { label: 'Reason', type: oneOf('any', ...reasons), default: 'any', group },
      withinMs,
    }),
  },
  'expect shown': {
    label: 'expect shown',
    expects: true,
    settings: described({
      widget,
      text: { label: 'Shows', type: t.text, default: '', group, essential: true, hint: 'what the widget shows in words' },
      withinMs,
    }),
  },
  'expect page': {
    label: 'expect page',
    expects: true,
    settings: described({ page: { label: 'Page', type: t.page, default: '', group, essential: true }, withinMs }),
  },
  'expect memory': { label: 'expect memory', expects: true, settings: described({ variable, value, withinMs, tolerance }) },
  'expect nothing': {
    label: 'expect nothing',
    expects: true,
    settings: described({
      ms: {
        label: 'For',
        type: t.whole,
        default: 500,
        unit: 'ms',
        min: 1,
        max: 600_000,
        group,
        essential: true,
        hint: 'no report and no event',
      },
    }),
  },
}

/** What a step of an exchange does or expects. */
export type StepKind = keyof typeof stepKinds
type FieldsOf<K extends StepKind> = (typeof stepKinds)[K]['settings']['fields']

/** A step as it is stored: its settings are those of its kind. */
export type StepOf<K extends StepKind> = { id: string; kind: K; settings: RawOf<FieldsOf<K>> }
export type Step = { [K in StepKind]: StepOf<K> }[StepKind]

/** A step with its references resolved. */
export type CompiledStepOf<K extends StepKind> = { id: string; kind: K; settings: CompiledOf<FieldsOf<K>> }
export type CompiledStep = { [K in StepKind]: CompiledStepOf<K> }[StepKind]

/** A scripted check. It begins with the power-on of panel and host, with `seed` for all chance. */
export interface Exchange {
  id: string
  name: string
  seed: number
  /** Reports and events no step expects are passed over instead of failing the exchange. */
  allowsOthers: boolean
  steps: Record<string, Step>
  stepOrder: readonly string[]
}

export const stepKindNames = Object.keys(stepKinds) as StepKind[]
