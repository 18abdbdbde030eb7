import type { PageId, VariableId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../session/context.tsx'
import { placed } from './placed.ts'
import styles from './glass.module.css'

/** Variables of the project that a widget shows. */
const shownBy = (project: Project, { kind, settings }: Widget): VariableId[] =>
  (widgetKind(kind)?.settings.refs(settings) ?? []).flatMap(({ ref }) =>
    ref.use === 'reads' && Object.hasOwn(project.variables, ref.to) ? [ref.to as VariableId] : [],
  )

/** Widgets of the page that the panel shows which show where a value starts: nobody has written it since power-on. */
export function useStartsShown(): Widget[] {
  const session = useSession()
  const project = useProject()
  const page = useStore(session.live, (l) => l.page)
  const values = useStore(session.live, (l) => l.values)
  return (project.pages[(page ?? '') as PageId]?.widgets ?? [])
    .map((id) => project.widgets[id]!)
    .filter((widget) => shownBy(project, widget).some((id) => values[id]?.written === false))
}

/** A dashed frame around each of them, over the live glass. */
export function StartMarks({ scale }: { scale: number }) {
  return useStartsShown().map((widget) => (
    <span key={widget.id} className={styles.area} data-starts={widget.name} style={placed(widget.place, scale)} aria-hidden />
  ))
}
