import type { Action, Line } from './actions.ts'
import type { Moment, NameOf } from './deed.ts'
import { deedKind } from './table.ts'

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
  deedKind(line.deed)?.words(line.with as never, nameOf) ?? line.deed

/** What an action does, with its moment: `on press: adds 1 to dome_target, then stops at the end`. */
export function actionSentence({ on, lines }: Action, nameOf: NameOf): string {
  const deeds = lines.map((line) => lineSentence(line, nameOf)).join('; ')
  if (on.moment === 'time') return `every ${on.everyMs} ms: ${deeds || 'nothing'}`
  const again = on.everyMs ? `, again every ${on.everyMs} ms while held${on.faster ? ', faster and faster' : ''}` : ''
  return `${momentWords[on.moment]}: ${deeds || 'nothing'}${again}`
}
