import { ownWordById } from '../variables/index.ts'
import { actionSentence, type Amount, type Deed } from '../rules/index.ts'
import { actionsOf, widgetsOf, type Check, type Finding, type View } from './finding.ts'

/** Whether what an id names holds a text; null where it names nothing. */
function holdsText({ project }: View, id: string): boolean | null {
  const holds = project.variables[id as keyof typeof project.variables]?.holds ?? ownWordById.get(id)?.holds
  return holds ? holds.type === 'text' : null
}

/** A deed that would make a number of a text, or a text of a number: the panel does neither, so nothing happens. */
function isMistyped(view: View, deed: Deed): boolean {
  if (!('variable' in deed)) return false
  const target = holdsText(view, deed.variable)
  const amount = (value: Amount) => (typeof value === 'number' ? false : holdsText(view, value.follows))
  if (target === null) return false
  if (deed.do !== 'set') return target || (deed.do === 'step' && amount(deed.by) === true)
  const to = amount(deed.to)
  return to !== null && to !== target
}

export const mistypedDeed: Check = (view) =>
  widgetsOf(view.project).flatMap((w): Finding[] =>
    actionsOf(w)
      .filter(({ deed }) => isMistyped(view, deed))
      .map((action) => ({
        code: 'mistyped',
        severity: 'error',
        station: 'Pages',
        at: w.id,
        facts: { name: w.name, deed: actionSentence(action, (id) => view.project.variables[id as never]?.['name'] ?? id) },
        fix: null,
      })),
  )
