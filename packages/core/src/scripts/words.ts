import { eventTexts, reasonTexts } from '../frames/index.ts'
import type { Effect, HostOutput, Quantity, Reaction, Compare, Sending } from './host-script.ts'

/** How names and values are said: of an id its name, of a number the value of a variable in its own words. */
export interface Speech {
  name(id: string): string
  value(variable: string, value: number): string
  /** A bit by its name. */
  bit(variable: string, bit: number): string
}

const time = (ms: number): string => (ms >= 1000 && ms % 100 === 0 ? `${ms / 1000} s` : `${ms} ms`)

/** How a value of the host moves, without its name: `random 0 to 18 m/s, max step 0.8, every 1 s`. */
export function quantityWords({ kind, settings: s }: Quantity, speech: Speech): string {
  const { name, value } = speech
  const only = 'whenVariable' in s ? whileWords(s, speech) : ''
  const every = only + (s.everyMs ? `, every ${time(s.everyMs)}` : ', on change')
  const v = (n: number) => value(s.variable, n)
  switch (kind) {
    case 'constant':
      return `constant ${v(s.value)}${every}`
    case 'ramp':
      return `ramp ${v(s.from)} to ${v(s.to)}, ${s.perSecond}/s, then ${rampEnds[s.atEnd]}${every}`
    case 'approach':
      return `tracks ${name(s.target)} at ${s.perSecond}/s${s.circle ? ', shortest path' : ''}${every}`
    case 'list':
      return `table ${s.values}, ${time(s.stepMs)} each${every}`
    case 'walk':
      return `random ${v(s.low)} to ${v(s.high)}, max step ${s.step}${every}`
  }
}

const rampEnds = { stop: 'stops', 'begin again': 'restarts', back: 'reverses' }

const comparison: Record<Compare, string> = {
  is: '=',
  'is not': '≠',
  above: '>',
  below: '<',
  'has bit': 'has',
  'lacks bit': 'lacks',
}

/** A comparison of a variable: a bit by its name, all else as a value. */
const compared = (speech: Speech, variable: string, how: Compare, value: number): string =>
  `${speech.name(variable)} ${comparison[how]} ${how === 'has bit' || how === 'lacks bit' ? speech.bit(variable, value) : speech.value(variable, value)}`

type Condition = Pick<HostOutput['settings'], 'whenVariable' | 'whenCompare' | 'whenValue'>

/** ` while shutter_state = moving`; nothing where no variable is named. */
const whileWords = ({ whenVariable, whenCompare, whenValue }: Condition, speech: Speech): string =>
  whenVariable ? ` while ${compared(speech, whenVariable, whenCompare, whenValue)}` : ''

/** Doings of the host when it hears something: `on report shutter_order = open while weather_flags has rain: reject (busy)`. */
export function reactionWords({ settings: s }: Reaction, speech: Speech): string {
  const { name } = speech
  const heard =
    s.on === 'command'
      ? `on command ${name(s.command)}`
      : s.on === 'event'
        ? `on event ${name(s.widget)}${s.what === 'any' ? '' : ` ${eventTexts[s.what]}`}`
        : `on report ${s.compare === 'any' ? name(s.variable) : compared(speech, s.variable, s.compare, s.value)}`
  const after = s.answerAfterMs ? ` after ${time(s.answerAfterMs)}` : ''
  const answer =
    s.answer === 'nothing' ? 'no ACK' : s.answer === 'done' ? `ACK${after}` : `reject (${reasonTexts[s.reason]})${after}`
  const effects = s.effects.map((e) => `${e.afterMs ? `after ${time(e.afterMs)} ` : ''}${effectWords(e, speech)}`)
  return `${heard}${whileWords(s, speech)}: ${[answer, ...effects].join('; ')}`
}

/** An effect: a value that is set, a command that is sent, or both. */
const effectWords = ({ variable, value, command }: Effect, speech: Speech): string =>
  [
    ...(variable || !command ? [`set ${speech.name(variable)} = ${speech.value(variable, value)}`] : []),
    ...(command ? [`send ${speech.name(command)}`] : []),
  ].join(', ')

/** A frame that the host sends of its own accord: `command start at power-on`, `read pressure every 0.5 s`. */
export function sendingWords({ settings: s }: Sending, { name }: Speech): string {
  const what = s.what === 'ask' ? `read ${name(s.variable)}` : `command ${name(s.command)}${s.values ? ` (${s.values})` : ''}`
  return `${what} ${s.when === 'every' ? `every ${time(s.ms)}` : `at power-on${s.ms ? ` after ${time(s.ms)}` : ''}`}`
}

/** When a pin of the host stands which way: `high while shutter_state = moving`. */
export function outputWords({ settings: s }: HostOutput, speech: Speech): string {
  const level = s.activeLow ? 'low' : 'high'
  return s.whenVariable ? level + whileWords(s, speech) : `always ${s.activeLow ? 'high' : 'low'}: not assigned`
}
