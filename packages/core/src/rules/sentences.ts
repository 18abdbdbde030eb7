import type { Rule, Line } from './rule.ts'
import type { Moment, NameOf } from './action.ts'
import { actionKind } from './table.ts'

/** When something is done, in words. */
export const momentWords: Record<Moment, string> = {
  pressed: 'on press',
  lifted: 'on lifting',
  'slid off': 'on sliding off',
  held: 'held long',
  opened: 'on opening',
  left: 'on leaving',
  time: 'as time goes on',
  started: 'at the start',
}

/** What a line does, as a sentence: `adds 1 to dome_target, then stops at the end`. */
export const lineSentence = (line: Line, nameOf: NameOf): string =>
  actionKind(line.action)?.words(line.with as never, nameOf) ?? line.action

/** What a rule does, with its moment: `on press: adds 1 to dome_target, then stops at the end`. */
export function ruleSentence({ on, lines }: Rule, nameOf: NameOf): string {
  const actions = lines.map((line) => lineSentence(line, nameOf)).join('; ')
  if (on.moment === 'time') return `every ${on.everyMs} ms: ${actions || 'nothing'}`
  const again = on.everyMs ? `, again every ${on.everyMs} ms while held${on.faster ? ', faster and faster' : ''}` : ''
  return `${momentWords[on.moment]}: ${actions || 'nothing'}${again}`
}
