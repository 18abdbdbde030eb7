import { sentence, type Problem } from '../base/index.ts'

const sentences: Record<string, string> = {
  'exchange.no-variable': 'The step names no variable, or one that was deleted.',
  'exchange.no-widget': 'The step names no widget, or one that was deleted.',
  'exchange.value': '“{value}” is nothing this variable can hold.',
  'exchange.too-long': 'An hour of the panel’s time has passed: the exchange is given up.',
  'exchange.touch.not on this page': 'The widget is not on the page shown.',
  'exchange.touch.hidden': 'The widget is hidden: no finger can reach it.',
  'exchange.touch.outside the glass': 'The widget lies outside the glass.',
  'exchange.touch.covered': 'Another widget lies on top and gets the touch.',
  'exchange.touch.no-finger': 'There is no finger on the glass to lift.',
  'exchange.nothing-came': 'Nothing came within {ms} ms.',
  'exchange.no-answer': 'No answer came within {ms} ms.',
  'exchange.other-value': 'A report of this variable came, with another value.',
  'exchange.other-try': 'The report came with the right value, on another try.',
  'exchange.something-else': 'Something else came first.',
  'exchange.other-answer': 'Another answer came.',
  'exchange.other-shown': 'The widget shows something else.',
  'exchange.other-page': 'Another page is shown.',
  'exchange.other-memory': 'The memory of the panel holds something else.',
  'exchange.something-came': 'A report or event came where none was expected.',
  'exchange.left-over': 'An unexpected report at the end: no step has asked for it.',
  'bytes.digit': '“{character}” is no hex digit.',
  'bytes.odd': '“{digits}” has half a byte too much or too little.',
  'bytes.empty': 'There are no bytes.',
  'bytes.long': 'These are too many bytes at once.',
}

export const exchangeProblemWords = (problem: Problem): string => sentence(sentences[problem.code] ?? problem.code, problem.facts)
