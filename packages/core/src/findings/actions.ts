import { actionKind, lineSentence } from '../rules/index.ts'
import { nameOfId } from '../signal-path/index.ts'
import { doersOf, holdsIn, type Check, type Finding } from './finding.ts'

/** An action that would make a number of a text, or a text of a number: the panel does neither, so nothing happens. */
export const mistypedAction: Check = ({ project }) => {
  const holdsOf = holdsIn(project)
  return doersOf(project).flatMap(({ at, name, rules }): Finding[] =>
    rules
      .flatMap(({ lines }) => lines)
      .filter(({ action, with: values }) => actionKind(action)?.mistyped?.(values as never, holdsOf))
      .map((line) => ({
        code: 'mistyped',
        severity: 'error',
        station: 'Pages',
        at,
        facts: { name, action: lineSentence(line, (id) => nameOfId(project, id)) },
        fix: null,
      })),
  )
}
