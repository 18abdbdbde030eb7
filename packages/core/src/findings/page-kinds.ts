import type { PageId } from '../base/index.ts'
import type { FormField, Values } from '../describe/index.ts'
import { conductSettings, pageSettings, type Project } from '../project/index.ts'
import { actionKind, type Rule } from '../rules/index.ts'
import { widgetKind } from '../widgets/index.ts'
import { doersOf, widgetsOf, type Check, type Finding } from './finding.ts'

/** A setting that names a page, and the kinds of page that it is made for. */
interface NamedPage {
  page: PageId
  accepts: readonly string[]
}

/** The pages that settings name, those of items in lists as well. */
function pagesNamed(fields: readonly FormField[], values: Values): NamedPage[] {
  return fields.flatMap(({ key, type, accepts }): NamedPage[] => {
    const value = values[key]
    if (type.items && Array.isArray(value)) return value.flatMap((item) => pagesNamed(type.items!.fields, item as Values))
    return type.name === 'page' && accepts?.length && value ? [{ page: value as PageId, accepts }] : []
  })
}

const pagesOfRules = (rules: readonly Rule[]): NamedPage[] =>
  rules.flatMap(({ lines }) =>
    lines.flatMap((line) => pagesNamed((actionKind(line.action)?.settings.list ?? []) as readonly FormField[], line.with)),
  )

/** A page where one of another kind belongs: a layer that is opened as a pop-up, say. The panel does what it can with it. */
export const unfitPage: Check = ({ project }) => {
  const told = (at: string, name: string, named: readonly NamedPage[]) => named.flatMap((one) => finding(project, at, name, one))
  return [
    ...widgetsOf(project).flatMap((w) =>
      told(w.id, w.name, pagesNamed((widgetKind(w.kind)?.settings.list ?? []) as readonly FormField[], w.settings)),
    ),
    ...Object.values(project.pages).flatMap((page) =>
      told(page.id, page.name, pagesNamed(pageSettings.list as readonly FormField[], page as unknown as Values)),
    ),
    ...told('', 'The panel', pagesNamed(conductSettings.list as readonly FormField[], project.conduct)),
    ...doersOf(project).flatMap(({ at, name, rules }) => told(at, name, pagesOfRules(rules))),
  ]
}

function finding(project: Project, at: string, name: string, { page: id, accepts }: NamedPage): Finding[] {
  const page = project.pages[id]
  if (!page || accepts.includes(page.kind)) return []
  const facts = { name, page: page.name, kind: page.kind, wanted: accepts.join(' or a ') }
  return [{ code: 'page-kind', severity: 'warning', station: 'Pages', at, facts, fix: null }]
}
