import { Box } from '@mantine/core'
import type { PageId } from '@moth-lamp/core/base'
import { Inspector } from '../../inspector/inspector.tsx'
import { SignalPathColumn, widgetSelection } from '../../inspector/signal-path.tsx'
import { FindingBar } from '../../parts/finding-bar.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { Desk } from './desk.tsx'
import { PageSettings } from './page-settings.tsx'
import { WidgetSheet } from './sheet/widget-sheet.tsx'
import { PageStrip } from './page-strip.tsx'
import styles from './pages.module.css'
import station from '../../parts/station.module.css'

/** Pages on the left, the glass in the middle, the way of what is selected on the right. */
export function PagesStation() {
  const session = useSession()
  const project = useProject()
  const live = useStore(session.live, (l) => l.page)
  const touching = useStore(session.view, (v) => v.lamp === 'touch' || v.alt)
  const viewed = useStore(session.view, (v) => v.page)
  const table = useStore(session.view, (v) => v.table)
  const picked = useStore(session.view, (v) => v.widgets)
  const page = project.pages[(touching ? (live ?? viewed) : viewed) as PageId] ?? project.pages[project.pageOrder[0]!]!
  const selected = picked.filter((id) => id in project.widgets)
  return (
    <div className={styles.pages} data-sided>
      <PageStrip project={project} current={page.id} touching={touching} />
      <section className={styles.desk} data-desk aria-label="Desk">
        {table && !touching ? (
          <WidgetSheet key={page.id} project={project} page={page} onClose={() => session.view.set({ table: false })} />
        ) : (
          <Desk project={project} page={page} touching={touching} />
        )}
        <Box mih={66}>
          <FindingBar station="Pages" />
        </Box>
      </section>
      <aside className={station.column} data-column data-side aria-label="Selection">
        {selected.length ? (
          <>
            <SignalPathColumn project={project} selection={widgetSelection(selected, project)} ids={selected} />
            <Inspector project={project} ids={selected} />
          </>
        ) : (
          <PageSettings project={project} page={page} />
        )}
      </aside>
    </div>
  )
}
