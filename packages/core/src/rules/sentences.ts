import type { Rule, Line } from './rule.ts'
import { momentTexts, type NameOf } from './action.ts'
import { actionKind } from './table.ts'

/** Sentence of a line: `adds 1 to dome_target, then stops at the end`. */
export const lineSentence = (line: Line, nameOf: NameOf): string =>
  actionKind(line.action)?.words(line.with as never, nameOf) ?? line.action

/** Sentence of a rule with its moment: `on press: adds 1 to dome_target, then stops at the end`. */
export function ruleSentence({ on, lines }: Rule, nameOf: NameOf): string {
  const actions = lines.map((line) => lineSentence(line, nameOf)).join('; ')
  if (on.moment === 'time') return `every ${on.everyMs} ms: ${actions || 'nothing'}`
  const again = on.everyMs ? `, repeats every ${on.everyMs} ms while pressed${on.faster ? ', accelerating' : ''}` : ''
  return `${momentTexts[on.moment]}: ${actions || 'nothing'}${again}`
}
