import { sentence, type Problem } from '../base/index.ts'

const sentences: Record<string, string> = {
  'exchange.no-variable': 'No variable selected (or it was deleted).',
  'exchange.no-widget': 'No widget selected (or it was deleted).',
  'exchange.value': '“{value}” is not valid for this variable.',
  'exchange.too-long': 'Stopped after one hour of simulated time.',
  'exchange.touch.not on this page': 'The widget is not on the page shown.',
  'exchange.touch.hidden': 'The widget is hidden.',
  'exchange.touch.outside the glass': 'The widget is outside the glass.',
  'exchange.touch.covered': 'Another widget covers it and takes the touch.',
  'exchange.touch.no-finger': 'No press to release.',
  'exchange.nothing-came': 'No frame within {ms} ms.',
  'exchange.command.gone': 'No such command in this build.',
  'exchange.command.other-way': 'The host does not send this command.',
  'exchange.no-answer': 'No reply within {ms} ms.',
  'exchange.other-value': 'The variable was reported with another value.',
  'exchange.other-try': 'Correct value, but on another attempt.',
  'exchange.something-else': 'Another frame came first.',
  'exchange.other-answer': 'Another reply came.',
  'exchange.other-shown': 'The widget shows another text.',
  'exchange.other-page': 'Another page is shown.',
  'exchange.other-memory': 'The variable has another value.',
  'exchange.something-came': 'Unexpected report or event.',
  'exchange.left-over': 'Unexpected report at the end.',
  'bytes.digit': '“{character}” is not a hex digit.',
  'bytes.odd': 'Odd number of hex digits in “{digits}”.',
  'bytes.empty': 'No bytes.',
  'bytes.long': 'Too many bytes at once.',
}

export const exchangeProblemWords = (problem: Problem): string => sentence(sentences[problem.code] ?? problem.code, problem.facts)
