import { deedKind, lineSentence } from '../rules/index.ts'
import { nameOfId } from '../signal-path/index.ts'
import { doersOf, holdsIn, type Check, type Finding } from './finding.ts'

/** A deed that would make a number of a text, or a text of a number: the panel does neither, so nothing happens. */
export const mistypedDeed: Check = ({ project }) => {
  const holdsOf = holdsIn(project)
  return doersOf(project).flatMap(({ at, name, actions }): Finding[] =>
    actions
      .flatMap(({ lines }) => lines)
      .filter(({ deed, with: values }) => deedKind(deed)?.mistyped?.(values as never, holdsOf))
      .map((line) => ({
        code: 'mistyped',
        severity: 'error',
        station: 'Pages',
        at,
        facts: { name, deed: lineSentence(line, (id) => nameOfId(project, id)) },
        fix: null,
      })),
  )
}
