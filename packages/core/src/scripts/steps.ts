import { eventKinds, reasons } from '../frames/index.ts'
import { defaultsOf, settingTypes as t, type Setting, type SettingValues } from '../settings/index.ts'

/** What a step of an exchange does or expects. */
export type StepKind =
  | 'touch'
  | 'host writes'
  | 'host asks'
  | 'host sends bytes'
  | 'wait'
  | 'power cycle'
  | 'trouble'
  | 'expect report'
  | 'expect event'
  | 'expect answer'
  | 'expect shown'
  | 'expect page'
  | 'expect memory'
  | 'expect nothing'

export interface Step {
  id: string
  kind: StepKind
  settings: SettingValues
}

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

const group = 'Step'
const variable: Setting = { key: 'variable', label: 'Variable', type: t.variable, default: '', group, essential: true }
const widget: Setting = { key: 'widget', label: 'Widget', type: t.widget, default: '', group, essential: true }
const valueText: Setting = {
  key: 'value',
  label: 'Value',
  type: t.text,
  default: '',
  group,
  essential: true,
  hint: 'as it is shown: 231.0, open, rain wind',
}
const within: Setting = {
  key: 'withinMs',
  label: 'Within',
  type: t.whole,
  default: 500,
  unit: 'ms',
  min: 0,
  max: 600_000,
  group,
  essential: true,
}
const tolerance: Setting = { key: 'tolerance', label: 'give or take', type: t.number, default: 0, min: 0, group }

/** The settings of each kind of step; schema, references and editor are derived from them. */
export const stepKinds: Record<StepKind, { label: string; expects: boolean; settings: Setting[] }> = {
  touch: {
    label: 'touch',
    expects: false,
    settings: [
      widget,
      {
        key: 'gesture',
        label: 'How',
        type: t.choice,
        choices: ['tap', 'press', 'release', 'hold', 'drag'],
        default: 'tap',
        group,
        essential: true,
      },
      { key: 'times', label: 'Times', type: t.whole, default: 1, min: 1, max: 100, group, essential: true },
      { key: 'holdMs', label: 'For', type: t.whole, default: 80, unit: 'ms', min: 1, max: 60_000, group },
      { key: 'dx', label: 'Drag right', type: t.whole, default: 0, unit: 'px', group },
      { key: 'dy', label: 'Drag down', type: t.whole, default: 0, unit: 'px', group },
    ],
  },
  'host writes': { label: 'host writes', expects: false, settings: [variable, valueText] },
  'host asks': { label: 'host asks for', expects: false, settings: [variable] },
  'host sends bytes': {
    label: 'host sends bytes',
    expects: false,
    settings: [{ key: 'bytes', label: 'Bytes', type: t.text, default: '', group, essential: true, hint: 'hex' }],
  },
  wait: {
    label: 'wait',
    expects: false,
    settings: [
      { key: 'ms', label: 'For', type: t.whole, default: 1000, unit: 'ms', min: 1, max: 3_600_000, group, essential: true },
    ],
  },
  'power cycle': {
    label: 'power cycle',
    expects: false,
    settings: [
      { key: 'which', label: 'Of', type: t.choice, choices: ['panel', 'host', 'both'], default: 'panel', group, essential: true },
    ],
  },
  trouble: {
    label: 'trouble',
    expects: false,
    settings: [
      {
        key: 'what',
        label: 'What',
        type: t.choice,
        choices: ['lose frames to the host', 'lose frames to the panel', 'host falls silent', 'host speaks again'],
        default: 'lose frames to the host',
        group,
        essential: true,
      },
      { key: 'count', label: 'How many', type: t.whole, default: 1, min: 1, max: 1000, group, essential: true },
    ],
  },
  'expect report': {
    label: 'expect report',
    expects: true,
    settings: [
      variable,
      valueText,
      within,
      tolerance,
      {
        key: 'attempt',
        label: 'On try',
        type: t.whole,
        default: 0,
        min: 0,
        max: 20,
        group,
        hint: '0: whichever; 2: the first repeat',
      },
    ],
  },
  'expect event': {
    label: 'expect event',
    expects: true,
    settings: [
      widget,
      { key: 'what', label: 'Says', type: t.choice, choices: eventKinds, default: 'pressed', group, essential: true },
      within,
    ],
  },
  'expect answer': {
    label: 'expect answer',
    expects: true,
    settings: [
      { key: 'from', label: 'From', type: t.choice, choices: ['panel', 'host'], default: 'host', group, essential: true },
      {
        key: 'answer',
        label: 'Answer',
        type: t.choice,
        choices: ['done', 'refused', 'value'],
        default: 'done',
        group,
        essential: true,
      },
      { key: 'reason', label: 'Reason', type: t.choice, choices: ['any', ...reasons], default: 'any', group },
      within,
    ],
  },
  'expect shown': {
    label: 'expect shown',
    expects: true,
    settings: [
      widget,
      { key: 'text', label: 'Shows', type: t.text, default: '', group, essential: true, hint: 'what the widget shows in words' },
      within,
    ],
  },
  'expect page': {
    label: 'expect page',
    expects: true,
    settings: [{ key: 'page', label: 'Page', type: t.page, default: '', group, essential: true }, within],
  },
  'expect memory': { label: 'expect memory', expects: true, settings: [variable, valueText, within, tolerance] },
  'expect nothing': {
    label: 'expect nothing',
    expects: true,
    settings: [
      {
        key: 'ms',
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
    ],
  },
}

export const stepKindNames = Object.keys(stepKinds) as StepKind[]

export const freshStep = (kind: StepKind): SettingValues => defaultsOf(stepKinds[kind].settings)
