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
  const name = (id: string) => (id ? nameOf(id) : '…')
  const give = (tolerance: number) => (tolerance ? ` ± ${tolerance}` : '')
  switch (step.kind) {
    case 'touch': {
      const { gesture, widget, times } = step.settings
      return `${gesture} “${name(widget)}”${times > 1 ? `, ${times} times` : ''}`
    }
    case 'host writes':
      return `${name(step.settings.variable)} = ${step.settings.value}`
    case 'host asks':
      return name(step.settings.variable)
    case 'host sends bytes':
      return step.settings.bytes
    case 'wait':
      return `${step.settings.ms} ms`
    case 'power cycle':
      return step.settings.which
    case 'trouble': {
      const { what, count } = step.settings
      return what.startsWith('lose') ? `${what}: ${count}` : what
    }
    case 'expect report': {
      const { variable, value, tolerance, withinMs, attempt } = step.settings
      return `${name(variable)} = ${value}${give(tolerance)} within ${withinMs} ms${attempt ? `, on try ${attempt}` : ''}`
    }
    case 'expect event': {
      const { widget, what, withinMs } = step.settings
      return `“${name(widget)}” ${what} within ${withinMs} ms`
    }
    case 'expect answer': {
      const { from, answer, reason, withinMs } = step.settings
      const why = answer === 'refused' && reason !== 'any' ? `, reason ${reason}` : ''
      return `${answer} from the ${from}${why} within ${withinMs} ms`
    }
    case 'expect shown': {
      const { widget, text, withinMs } = step.settings
      return `“${name(widget)}” shows “${text}” within ${withinMs} ms`
    }
    case 'expect page':
      return `${name(step.settings.page)} within ${step.settings.withinMs} ms`
    case 'expect memory': {
      const { variable, value, tolerance, withinMs } = step.settings
      return `${name(variable)} = ${value}${give(tolerance)} within ${withinMs} ms`
    }
    case 'expect nothing':
      return `for ${step.settings.ms} ms`
  }
}
