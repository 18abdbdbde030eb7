import { mustHold, type PageId } from '../base/index.ts'
import { freshProject, passGate, type Project } from '../project/index.ts'
import { extremeOf, isNumber } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'

export const samplePage: PageId = 'page:sample'

/** So that a picture of a kind is of its middle: what stands at its start looks like nothing. */
const share = 0.62

/** A project with one widget of a kind, untouched, on a glass of its size: what pictures of kinds are made of. */
export function sampleProject(project: Project, kind: string): Project | null {
  const found = widgetKind(kind)
  if (!found) return null
  const { width, height } = { width: Math.max(16, found.size.width), height: Math.max(16, found.size.height) }
  const typefaces = project.typefaceOrder.map((id) => project.typefaces[id]!)
  let at = freshProject('sample', { ...project.panel, width, height }, typefaces)
  let n = 0
  const edit = (name: string, args: unknown) =>
    (at = mustHold(passGate(at, { changeId: `change:sample${++n}`, edit: name, args })).project)
  const { settings = {}, variable: holds } = found.fresh?.() ?? {}
  const initial =
    holds && (isNumber(holds) ? Math.round(holds.min + (Math.min(holds.max, 999) - holds.min) * share) : extremeOf(holds, 'most'))
  edit('add page', { id: samplePage, after: '', name: 'sample' })
  edit('add widgets', {
    page: samplePage,
    after: '',
    ...(holds
      ? {
          variables: [
            { id: 'variable:sample', name: 'sample', values: { holds, ...(holds.type === 'text' ? {} : { initial }) } },
          ],
        }
      : {}),
    widgets: [
      {
        id: 'widget:sample',
        kind,
        place: { x: 0, y: 0, width, height },
        settings: { ...settings, ...(holds ? { variable: 'variable:sample' } : {}) },
      },
    ],
  })
  return at
}
