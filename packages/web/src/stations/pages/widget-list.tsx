import { UnstyledButton } from '@mantine/core'
import { useState } from 'react'
import type { WidgetId } from '@moth-lamp/core/base'
import type { Page, Project } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { FindField } from '../../controls/find-field.tsx'
import { useSession } from '../../session/context.tsx'
import station from '../../parts/station.module.css'

/** More widgets than these are found by a part of their name. */
const fewWidgets = 12

/** The widgets of a page, front to back. */
export function WidgetList({ project, page }: { project: Project; page: Page }) {
  const session = useSession()
  const [find, setFind] = useState('')
  const widgets = [...page.widgets].reverse().map((id) => project.widgets[id as WidgetId]!)
  const kindOf = (kind: string) => widgetKind(kind)?.label.toLowerCase() ?? kind
  const found = widgets.filter((w) => `${w.name} ${kindOf(w.kind)}`.toLowerCase().includes(find.trim().toLowerCase()))
  if (!widgets.length) return <p className="muted">Empty page. Press A to add a widget.</p>
  return (
    <div>
      <p className="muted small">front to back; a click selects</p>
      {widgets.length > fewWidgets && <FindField label="Find a widget" value={find} onChange={setFind} />}
      {found.map((w) => (
        <UnstyledButton key={w.id} className={station.listed} py={3} px={8} onClick={() => session.view.set({ widgets: [w.id] })}>
          <span className="grow cut">{w.name}</span>
          <span className="muted small">{kindOf(w.kind)}</span>
        </UnstyledButton>
      ))}
      {!found.length && <p className="muted">No match</p>}
    </div>
  )
}
