import type { WidgetId } from '../base/index.ts'
import type { Project, Widget } from './types.ts'

type Widgets = Readonly<Record<WidgetId, Widget>>

/** The first of those that are held together with a widget: all others name it as their parent. Itself where it is held with none. */
const leaderOf = (widgets: Widgets, id: WidgetId): WidgetId => widgets[id]?.parent || id

/** The group of a widget, itself included, from bottom to top; itself alone where it is held with none. */
export function heldWith(project: Pick<Project, 'widgets' | 'pages'>, id: WidgetId): WidgetId[] {
  const widget = project.widgets[id]
  const page = widget && project.pages[widget.page]
  if (!page) return [id]
  const leader = leaderOf(project.widgets, id)
  return page.widgets.filter((other) => leaderOf(project.widgets, other) === leader)
}

/** Every widget of some, and of what they are held together with, from bottom to top of their page. */
export function withHeld(project: Pick<Project, 'widgets' | 'pages'>, ids: readonly WidgetId[]): WidgetId[] {
  const all = new Set(ids.flatMap((id) => heldWith(project, id)))
  return [...all]
}

/** The leaders of copies: `parent` for each of `widgets`, named by the ids that their copies have. */
export function parentsOfCopies(widgets: readonly Widget[], copyOf: (id: WidgetId) => WidgetId): (WidgetId | '')[] {
  // Where the leader stays behind, the first of its followers leads the copies.
  const leads = new Map<WidgetId, WidgetId>()
  return widgets.map((w) => {
    const leader = w.parent || w.id
    const first = leads.get(leader)
    if (first) return first
    leads.set(leader, copyOf(w.id))
    return ''
  })
}
