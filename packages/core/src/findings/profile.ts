import { hasSystemVariable, usersOf } from '../project/index.ts'
import { actionKind } from '../rules/index.ts'
import { nameOfId } from '../signal-path/index.ts'
import { systemVariableNamed, systemVariables } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'
import { rulesOf, widgetsOf, type Check, type Finding } from './finding.ts'

const at = (id: string, code: string, severity: Finding['severity'], facts: Finding['facts']): Finding => ({
  code,
  severity,
  station: 'Pages',
  at: id,
  facts,
  fix: null,
})

/** Features that the project uses and the module lacks. */
export const absentFromPanel: Check = ({ project }) => [
  ...systemVariables()
    .filter((word) => !hasSystemVariable(project.panel, word))
    .flatMap((word) =>
      [...new Set(usersOf(project, word.id).map((user) => user.from))].map((from) =>
        at(from, 'absent', 'error', { what: word.name, name: `“${nameOfId(project, from)}”` }),
      ),
    ),
  ...(project.panel.touch === 'none'
    ? widgetsOf(project)
        .filter((w) => widgetKind(w.kind)?.touchable)
        .map((w) => at(w.id, 'absent', 'error', { what: 'touch', name: `“${w.name}”` }))
    : []),
]

const backlight = systemVariableNamed('backlight').id

/** A touch that dims the glass to what nobody reads on this module. */
export const tooDark: Check = ({ project }) =>
  widgetsOf(project).flatMap((w) =>
    rulesOf(w)
      .flatMap(({ lines }) => lines)
      .filter(
        ({ action, with: values }) => actionKind(action) && values['variable'] === backlight && typeof values['to'] === 'number',
      )
      .map(({ with: values }) => Number(values['to']))
      .filter((to) => to >= 1 && to < project.panel.darkest)
      .map((to) => at(w.id, 'dark', 'warning', { name: w.name, to, darkest: project.panel.darkest })),
  )
