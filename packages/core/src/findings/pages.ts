import { kindOfId, type PageId } from '../base/index.ts'
import { refsOfPage, refsOfWidget, type Page, type Project } from '../project/index.ts'
import { doesFollow } from '../describe/index.ts'
import { factsOf, type Line } from '../rules/index.ts'
import { rulesOf, tailOf, widgetsOf, type Check, type Finding } from './finding.ts'

const atPage = (page: Page, code: string, facts: Finding['facts'], fix: Finding['fix']): Finding => ({
  code,
  severity: 'warning',
  station: 'Pages',
  at: page.id,
  facts: { name: page.name, ...facts },
  fix,
})

/** Pages that a page opens: by touches on it or on what it shares with others, by itself, as time goes on. */
function waysFrom(project: Project, page: Page): PageId[] {
  const shared = page.layer ? (project.pages[page.layer as PageId]?.widgets ?? []) : []
  const refs = [...[...page.widgets, ...shared].flatMap((id) => refsOfWidget(project.widgets[id]!)), ...refsOfPage(page)]
  return refs.flatMap(({ to }) => (kindOfId(to) === 'page' && to !== page.id ? [to as PageId] : []))
}

/** Whether a page is left by what names no page: back, or to the start. */
const goesBack = (project: Project, page: Page): boolean =>
  page.widgets.some((id) => rulesOf(project.widgets[id]!).some(({ lines }) => lines.some((line) => factsOf(line).leaves)))

/** Its layer is no way out by itself. */
const leads = (project: Project, page: Page): boolean =>
  waysFrom(project, page).some((to) => project.pages[to]?.kind === 'page') || goesBack(project, page)

export const cannotBeLeft: Check = ({ project }) => {
  if (project.pageOrder.length < 2) return []
  return project.pageOrder.flatMap((id) => {
    const page = project.pages[id]!
    if (page.kind !== 'page' || leads(project, page)) return []
    const to = project.startPage && project.startPage !== id ? project.startPage : project.pageOrder.find((p) => p !== id)!
    const target = project.pages[to]!
    const place = { x: 12, y: Math.max(0, project.panel.height - 64), width: Math.min(150, project.panel.width - 24), height: 52 }
    const widget = {
      id: `widget:back-${tailOf(id)}`.slice(0, 47),
      kind: 'button',
      name: `To ${target.name}`.slice(0, 60),
      place,
      settings: {
        text: target.name.slice(0, 12),
        rules: [{ on: { moment: 'lifted' }, lines: [{ action: 'go to page', with: { page: to } }] }],
      },
    }
    const free = !(widget.id in project.widgets)
    return [
      atPage(
        page,
        'dead-end',
        {},
        free
          ? { label: `Add a button to ${target.name}`, edit: 'add widgets', args: { page: id, after: '', widgets: [widget] } }
          : null,
      ),
    ]
  })
}

export const cannotBeReached: Check = ({ project }) => {
  if (!project.startPage) return []
  const home = project.conduct.homePage
  const reached = new Set<PageId>([project.startPage, ...(home ? [home as PageId] : [])])
  for (const id of reached) for (const to of waysFrom(project, project.pages[id]!)) if (project.pages[to]) reached.add(to)
  return project.pageOrder.filter((id) => !reached.has(id)).map((id) => atPage(project.pages[id]!, 'unreachable', {}, null))
}

const backlight = 'variable:own-backlight'

/** Whether an action means to leave 0 in the backlight: its own range stops steps at 1. */
function darkens(project: Project, line: Line): boolean {
  const { sets, clears } = factsOf(line)
  if (clears === backlight) return true
  if (sets?.variable !== backlight) return false
  const { to } = sets
  if (!doesFollow(to)) return Number(to) < 1
  const holds = project.variables[to.follows as keyof typeof project.variables]?.holds
  return !holds || !('min' in holds) || holds.min < 1
}

export const backlightToZero: Check = ({ project }) =>
  widgetsOf(project).flatMap((w): Finding[] => {
    const rules = rulesOf(w)
    if (!rules.some(({ lines }) => lines.some((line) => darkens(project, line)))) return []
    const mend = (line: Line): Line =>
      darkens(project, line) ? { ...line, action: 'set', with: { variable: backlight, to: 10 } } : line
    const mended = rules.map((rule) => ({ ...rule, lines: rule.lines.map(mend) }))
    return [
      {
        code: 'backlight',
        severity: 'error',
        station: 'Pages',
        at: w.id,
        facts: { name: w.name },
        fix: { label: 'Dim to 10 %', edit: 'set widgets', args: { ids: [w.id], values: { rules: mended } } },
      },
    ]
  })
