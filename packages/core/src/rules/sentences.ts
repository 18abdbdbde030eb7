import type { EventKind } from '../frames/index.ts'
import type { Action, Line } from './actions.ts'
import type { NameOf } from './deed.ts'
import { deedKind } from './table.ts'

/** When something is done, in words. */
export const momentWords: Record<EventKind, string> = {
  pressed: 'on press',
  lifted: 'on lifting',
  'slid off': 'on sliding off',
  held: 'held long',
}

/** What a line does, as a sentence: `adds 1 to dome_target, then stops at the end`. */
export const lineSentence = (line: Line, nameOf: NameOf): string =>
  deedKind(line.deed)?.words(line.with as never, nameOf) ?? line.deed

/** What an action does, with its moment: `on press: adds 1 to dome_target, then stops at the end`. */
export function actionSentence({ on, lines }: Action, nameOf: NameOf): string {
  const deeds = lines.map((line) => lineSentence(line, nameOf)).join('; ')
  return `${momentWords[on.moment]}: ${deeds || 'nothing'}${on.everyMs ? `, again every ${on.everyMs} ms while held` : ''}`
}
