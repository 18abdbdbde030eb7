import { sentence, type Problem } from '../base/index.ts'
import type { Step } from '../scripts/index.ts'

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
  'exchange.left-over': 'At the end a report or event was left that no step expected.',
  'bytes.digit': '“{character}” is no hex digit.',
  'bytes.odd': '“{digits}” has half a byte too much or too little.',
  'bytes.empty': 'There are no bytes.',
  'bytes.long': 'These are too many bytes at once.',
}

export const exchangeProblemWords = (problem: Problem): string => sentence(sentences[problem.code] ?? problem.code, problem.facts)

/** A step as a line to read: what it does, to what, with what. */
export function stepWords(step: Step, nameOf: (id: string) => string): string {
  const s = step.settings
  const name = (key: string) => (s[key] ? nameOf(String(s[key])) : '…')
  const give = Number(s['tolerance']) ? ` ± ${String(s['tolerance'])}` : ''
  const within = `within ${String(s['withinMs'])} ms`
  switch (step.kind) {
    case 'touch': {
      const times = Number(s['times']) > 1 ? `, ${String(s['times'])} times` : ''
      return `${String(s['gesture'])} “${name('widget')}”${times}`
    }
    case 'host writes':
      return `${name('variable')} = ${String(s['value'])}`
    case 'host asks':
      return name('variable')
    case 'host sends bytes':
      return String(s['bytes'])
    case 'wait':
      return `${String(s['ms'])} ms`
    case 'power cycle':
      return String(s['which'])
    case 'trouble':
      return `${String(s['what'])}${String(s['what']).startsWith('lose') ? `: ${String(s['count'])}` : ''}`
    case 'expect report':
      return `${name('variable')} = ${String(s['value'])}${give} ${within}${Number(s['attempt']) ? `, on try ${String(s['attempt'])}` : ''}`
    case 'expect event':
      return `“${name('widget')}” ${String(s['what'])} ${within}`
    case 'expect answer':
      return `${String(s['answer'])} from the ${String(s['from'])}${s['answer'] === 'refused' && s['reason'] !== 'any' ? `, reason ${String(s['reason'])}` : ''} ${within}`
    case 'expect shown':
      return `“${name('widget')}” shows “${String(s['text'])}” ${within}`
    case 'expect page':
      return `${name('page')} ${within}`
    case 'expect memory':
      return `${name('variable')} = ${String(s['value'])}${give} ${within}`
    case 'expect nothing':
      return `for ${String(s['ms'])} ms`
  }
}
