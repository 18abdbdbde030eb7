import { oneOf, type CompiledOf, type Described, type Fields, type RawOf } from '../describe/index.ts'
import { eventTexts, reasonTexts } from '../frames/index.ts'
import { described, settingTypes as t, type CompileContext } from '../settings/index.ts'

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
  of: { variable: 'variable', as: 'words' as const },
}
const command = { label: 'Command', type: t.command, default: '', group, essential: true }
const values = {
  label: 'Values',
  type: t.text,
  default: '',
  group,
  essential: true,
  hint: 'separated by commas; empty: as the host knows them',
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
const tolerance = { label: 'Tolerance', type: t.number, default: 0, min: 0, group }

/** A kind of step: what it is called and set to, and how it reads as a line. */
export interface StepRecord<F extends Fields<CompileContext>> {
  label: string
  expects: boolean
  settings: Described<CompileContext, F>
  words(settings: RawOf<F>, nameOf: (id: string) => string): string
  /** The same as a sentence with its settings in place, to edit: `Wait {ms} ms`. Without it, a list of settings. */
  phrase?: string
}
const stepOf = <const F extends Fields<CompileContext>>(kind: StepRecord<F>): StepRecord<F> => kind
const give = (tolerance: number): string => (tolerance ? ` ± ${tolerance}` : '')

const replyTexts = { done: 'acknowledge', refused: 'reject', value: 'value' } as const
const faultTexts = {
  'lose frames to the host': 'drop frames to host',
  'lose frames to the panel': 'drop frames to panel',
  'host falls silent': 'host offline',
  'host speaks again': 'host online',
} as const
const gestureTexts = { tap: 'Tap', press: 'Press', release: 'Release', hold: 'Hold', drag: 'Drag' } as const

/** The settings of each kind of step; schema, types, references and editor are derived from them. */
const shipped = {
  touch: stepOf({
    label: 'touch',
    phrase: '{gesture} {widget} × {times}, {holdMs} ms each',
    expects: false,
    settings: described({
      widget,
      gesture: {
        label: 'How',
        type: oneOf(gestureTexts),
        default: 'tap',
        group,
        essential: true,
      },
      times: { label: 'Times', type: t.whole, default: 1, min: 1, max: 100, group, essential: true },
      holdMs: { label: 'For', type: t.whole, default: 80, unit: 'ms', min: 1, max: 60_000, group },
      dx: { label: 'Drag x', type: t.whole, default: 0, unit: 'px', group },
      dy: { label: 'Drag y', type: t.whole, default: 0, unit: 'px', group },
    }),
    words: ({ gesture, widget: id, times, holdMs }, name) =>
      gesture === 'release'
        ? 'Release'
        : `${gestureTexts[gesture]} “${name(id)}”${gesture === 'hold' ? ` for ${holdMs} ms` : ''}${times > 1 ? `, ${times} times` : ''}`,
  }),
  'host writes': stepOf({
    label: 'host writes',
    phrase: 'The host writes {variable} = {value}',
    expects: false,
    settings: described({ variable, value }),
    words: (s, name) => `The host writes ${name(s.variable)} = ${s.value}`,
  }),
  'host asks': stepOf({
    label: 'host reads',
    phrase: 'The host reads {variable}',
    expects: false,
    settings: described({ variable }),
    words: (s, name) => `The host reads ${name(s.variable)}`,
  }),
  'host sends bytes': stepOf({
    label: 'host sends bytes',
    phrase: 'The host sends the bytes {bytes}',
    expects: false,
    settings: described({ bytes: { label: 'Bytes', type: t.text, default: '', group, essential: true, hint: 'hex' } }),
    words: (s) => `The host sends ${s.bytes}`,
  }),
  'host sends command': stepOf({
    label: 'host sends command',
    phrase: 'The host sends the command {command} {values}',
    expects: false,
    settings: described({ command, values }),
    words: (s, name) => `The host sends the command ${name(s.command)}${s.values ? ` (${s.values})` : ''}`,
  }),
  wait: stepOf({
    label: 'wait',
    phrase: 'Wait {ms} ms',
    expects: false,
    settings: described({
      ms: { label: 'For', type: t.whole, default: 1000, unit: 'ms', min: 1, max: 3_600_000, group, essential: true },
    }),
    words: (s) => `Wait ${s.ms} ms`,
  }),
  'power cycle': stepOf({
    label: 'power cycle',
    phrase: 'Power cycle: {which}',
    expects: false,
    settings: described({
      which: {
        label: 'Powered',
        type: oneOf({ panel: 'panel', host: 'host', both: 'both' }),
        default: 'panel',
        group,
        essential: true,
      },
    }),
    words: (s) => `Power cycle: ${s.which}`,
  }),
  trouble: stepOf({
    label: 'fault',
    phrase: 'Fault: {what} {count}',
    expects: false,
    settings: described({
      what: {
        label: 'What',
        type: oneOf(faultTexts),
        default: 'lose frames to the host',
        group,
        essential: true,
      },
      count: { label: 'How many', type: t.whole, default: 1, min: 1, max: 1000, group, essential: true },
    }),
    words: ({ what, count }) => `Fault: ${faultTexts[what].replace('frames', `${count} ${count === 1 ? 'frame' : 'frames'}`)}`,
  }),
  'expect report': stepOf({
    label: 'expect report',
    phrase: '{variable} is reported as {value} ± {tolerance} within {withinMs} ms, attempt {attempt}',
    expects: true,
    settings: described({
      variable,
      value,
      withinMs,
      tolerance,
      attempt: {
        label: 'Attempt',
        zero: 'any',
        type: t.whole,
        default: 0,
        min: 0,
        max: 20,
        group,
        hint: '0: any; 2: the first retry',
      },
    }),
    words: (s, name) =>
      `${name(s.variable)} is reported as ${s.value}${give(s.tolerance)} within ${s.withinMs} ms${s.attempt ? `, attempt ${s.attempt}` : ''}`,
  }),
  'expect event': stepOf({
    label: 'expect event',
    phrase: '{widget} sends {what} within {withinMs} ms',
    expects: true,
    settings: described({
      widget,
      what: { label: 'Says', type: oneOf(eventTexts), default: 'pressed', group, essential: true },
      withinMs,
    }),
    words: (s, name) => `“${name(s.widget)}” sends ${eventTexts[s.what]} within ${s.withinMs} ms`,
  }),
  'expect command': stepOf({
    label: 'expect command',
    phrase: 'The {from} sends the command {command} {values} within {withinMs} ms',
    expects: true,
    settings: described({
      from: { label: 'From', type: oneOf({ panel: 'panel', host: 'host' }), default: 'panel', group, essential: true },
      command,
      values: { ...values, hint: 'separated by commas; empty: any' },
      withinMs,
    }),
    words: (s, name) =>
      `The ${s.from} sends the command ${name(s.command)}${s.values ? ` (${s.values})` : ''} within ${s.withinMs} ms`,
  }),
  'expect answer': stepOf({
    label: 'expect reply',
    phrase: 'The {from} replies {answer} , reason {reason} , within {withinMs} ms',
    expects: true,
    settings: described({
      from: { label: 'From', type: oneOf({ panel: 'panel', host: 'host' }), default: 'host', group, essential: true },
      answer: {
        label: 'Reply',
        type: oneOf(replyTexts),
        default: 'done',
        group,
        essential: true,
      },
      reason: { label: 'Reason', type: oneOf({ any: 'any', ...reasonTexts }), default: 'any', group },
      withinMs,
    }),
    words: ({ from, answer, reason, withinMs: ms }) =>
      `The ${from} replies ${replyTexts[answer]}${answer === 'refused' && reason !== 'any' ? ` (${reasonTexts[reason]})` : ''} within ${ms} ms`,
  }),
  'expect shown': stepOf({
    label: 'expect text',
    phrase: '{widget} shows {text} within {withinMs} ms',
    expects: true,
    settings: described({
      widget,
      text: { label: 'Shows', type: t.text, default: '', group, essential: true, hint: 'what the widget shows in words' },
      withinMs,
    }),
    words: (s, name) => `“${name(s.widget)}” shows “${s.text}” within ${s.withinMs} ms`,
  }),
  'expect page': stepOf({
    label: 'expect page',
    phrase: 'Page {page} opens within {withinMs} ms',
    expects: true,
    settings: described({ page: { label: 'Page', type: t.page, default: '', group, essential: true }, withinMs }),
    words: (s, name) => `Page ${name(s.page)} opens within ${s.withinMs} ms`,
  }),
  'expect memory': stepOf({
    label: 'expect variable',
    phrase: '{variable} in memory is {value} ± {tolerance} within {withinMs} ms',
    expects: true,
    settings: described({ variable, value, withinMs, tolerance }),
    words: (s, name) => `${name(s.variable)} in memory is ${s.value}${give(s.tolerance)} within ${s.withinMs} ms`,
  }),
  'expect nothing': stepOf({
    label: 'expect no traffic',
    phrase: 'No report and no event for {ms} ms',
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
    words: (s) => `No report and no event for ${s.ms} ms`,
  }),
}

/** Kinds of steps of an exchange. */
export type StepKind = keyof typeof shipped
type FieldsOf<K extends StepKind> = (typeof shipped)[K]['settings']['fields']

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

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what stands in the settings is the kind's own business
type AnyStepRecord = StepRecord<any>
const table = new Map<string, AnyStepRecord>(Object.entries(shipped))

/** The kinds there are, in the order they are offered. */
export const stepKindNames = (): StepKind[] => [...table.keys()] as StepKind[]

/** The kind of that name. One that is not there is a mistake: the gate lets none in. */
export function stepKind(kind: string): AnyStepRecord {
  const found = table.get(kind)
  if (!found) throw new Error(`Not possible: a step “${kind}”`)
  return found
}
export const isStepKind = (kind: string): boolean => table.has(kind)

/** Adds a kind, told apart from how it is run; it is taken out again with the function that comes back. */
export function registerStepKind(kind: string, record: AnyStepRecord): () => void {
  table.set(kind, record)
  return () => void table.delete(kind)
}

/** A step as a sentence to read. */
export const stepWords = (step: { kind: string; settings: unknown }, nameOf: (id: string) => string): string =>
  stepKind(step.kind).words(step.settings as never, (id) => (id ? nameOf(id) : '…'))
