import type { HostOutput, Quantity, Reaction, Compare } from './host-script.ts'

/** How names and values are said: of an id its name, of a number the value of a variable in its own words. */
export interface Speech {
  name(id: string): string
  value(variable: string, value: number): string
  /** A bit by its name. */
  bit(variable: string, bit: number): string
}

const time = (ms: number): string => (ms >= 1000 && ms % 100 === 0 ? `${ms / 1000} s` : `${ms} ms`)

/** How a value of the host moves, as a sentence without its subject: `wanders between 0 and 18 m/s by at most 0.8, every 1 s`. */
export function quantityWords({ kind, settings: s }: Quantity, speech: Speech): string {
  const { name, value } = speech
  const only = 'whenVariable' in s ? whileWords(s, speech) : ''
  const every = only + (s.everyMs ? `, every ${time(s.everyMs)}` : ', sent when it changes')
  const v = (n: number) => value(s.variable, n)
  switch (kind) {
    case 'constant':
      return `stays at ${v(s.value)}${every}`
    case 'ramp': {
      const end = { stop: 'and stops there', 'begin again': 'and begins again', back: 'and back' }[s.atEnd]
      return `goes from ${v(s.from)} to ${v(s.to)} by ${s.perSecond} a second ${end}${every}`
    }
    case 'approach':
      return `approaches ${name(s.target)} by ${s.perSecond} a second${s.circle ? ', the short way round' : ''}${every}`
    case 'list':
      return `steps through ${s.values}, each for ${time(s.stepMs)}${every}`
    case 'walk':
      return `wanders between ${v(s.low)} and ${v(s.high)} by at most ${s.step}${every}`
  }
}

const comparison: Record<Compare, string> = {
  is: 'as',
  'is not': 'as not',
  above: 'as above',
  below: 'as below',
  'has bit': 'with',
  'lacks bit': 'without',
}
const condition: Record<Compare, string> = {
  is: 'is',
  'is not': 'is not',
  above: 'is above',
  below: 'is below',
  'has bit': 'has',
  'lacks bit': 'has no',
}

/** What a value is compared with: a bit by its name, all else as a value. */
const compared = (speech: Speech, variable: string, how: Compare | 'any', value: number): string =>
  how === 'has bit' || how === 'lacks bit' ? speech.bit(variable, value) : speech.value(variable, value)

type Condition = Pick<HostOutput['settings'], 'whenVariable' | 'whenCompare' | 'whenValue'>

/** ` while shutter_state is moving`; nothing where no variable is named. */
const whileWords = ({ whenVariable, whenCompare, whenValue }: Condition, speech: Speech): string =>
  whenVariable
    ? ` while ${speech.name(whenVariable)} ${condition[whenCompare]} ${compared(speech, whenVariable, whenCompare, whenValue)}`
    : ''

/** What the host does when it hears something: `shutter_order reported as open while weather_flags has rain: refused, busy`. */
export function reactionWords({ settings: s }: Reaction, speech: Speech): string {
  const { name, value } = speech
  const heard =
    s.on === 'event'
      ? `${name(s.widget)} ${s.what === 'any' ? 'touched' : s.what}`
      : `${name(s.variable)} reported${s.compare === 'any' ? '' : ` ${comparison[s.compare]} ${compared(speech, s.variable, s.compare, s.value)}`}`
  const only = whileWords(s, speech)
  const after = s.answerAfterMs ? ` after ${time(s.answerAfterMs)}` : ''
  const answer = s.answer === 'nothing' ? 'no answer' : `${s.answer}${s.answer === 'refused' ? `, ${s.reason}` : ''}${after}`
  const effects = s.effects.map(
    (e) => `${e.afterMs ? `after ${time(e.afterMs)} ` : ''}${name(e.variable)} becomes ${value(e.variable, e.value)}`,
  )
  return `${heard}${only}: ${[answer, ...effects].join('; ')}`.replaceAll('  ', ' ')
}

/** When a pin of the host stands which way: `high while shutter_state is moving`. */
export function outputWords({ settings: s }: HostOutput, speech: Speech): string {
  const level = s.activeLow ? 'low' : 'high'
  return s.whenVariable ? level + whileWords(s, speech) : `always ${s.activeLow ? 'high' : 'low'}: it follows nothing yet`
}
