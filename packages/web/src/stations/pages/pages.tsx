import { Box } from '@mantine/core'
import { useEffect, useRef } from 'react'
import type { PageId } from '@moth-lamp/core/base'
import type { Page, Project } from '@moth-lamp/core/project'
import { AllSettings, AllSettingsButton } from '../../inspector/all-settings.tsx'
import { SignalPathColumn, widgetSelection } from '../../inspector/signal-path.tsx'
import { FindingBar } from '../../parts/finding-bar.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { ColumnForm } from '../../parts/column-form.tsx'
import { AddList } from './add-list.tsx'
import { CutForm } from './cut-form.tsx'
import { Desk } from './desk.tsx'
import { leaveForm } from './page-commands.ts'
import { PageColumn } from './page-column.tsx'
import { RepeatForm } from './repeat-form.tsx'
import { WidgetSheet } from './sheet/widget-sheet.tsx'
import { PageStrip } from './page-strip.tsx'
import styles from './pages.module.css'
import station from '../../parts/station.module.css'

/** Pages on the left, the glass in the middle, the way of what is selected on the right. */
export function PagesStation() {
  const session = useSession()
  const project = useProject()
  const live = useStore(session.live, (l) => l.page)
  const isRun = useStore(session.view, (v) => v.lamp === 'touch')
  const alt = useStore(session.view, (v) => v.alt)
  const touching = isRun || alt
  const viewed = useStore(session.view, (v) => v.page)
  const table = useStore(session.view, (v) => v.table)
  const page = project.pages[(touching ? (live ?? viewed) : viewed) as PageId] ?? project.pages[project.pageOrder[0]!]!
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
        <Column project={project} page={page} edits={!isRun && !table} />
      </aside>
    </div>
  )
}

/** The column: a form that needs the glass beside it, the path or all settings of what is selected, or the page. */
function Column({ project, page, edits }: { project: Project; page: Page; edits: boolean }) {
  const session = useSession()
  const column = useStore(session.view, (v) => v.column)
  const sought = useStore(session.view, (v) => v.sought)
  const picked = useStore(session.view, (v) => v.widgets)
  const selected = picked.filter((id) => id in project.widgets)
  const form = column !== 'path' && column !== 'settings'
  const before = useRef(picked)
  useEffect(() => {
    // Another selection: then its path is what one wants to see.
    const isOther = before.current !== picked && picked.length > 0
    before.current = picked
    if ((form && (!edits || isOther)) || (column !== 'path' && column !== 'add' && !picked.length))
      session.view.set({ column: 'path', adding: null, addingFor: '', addAt: null })
  }, [session, column, form, edits, picked])
  const done = () => leaveForm(session)
  if (column === 'add' && edits) return <AddList page={page} />
  if (!selected.length) return <PageColumn project={project} page={page} />
  if (column === 'repeat' && edits)
    return (
      <ColumnForm title="Repeat" onClose={done}>
        <RepeatForm project={project} page={page} picked={selected} onDone={done} />
      </ColumnForm>
    )
  if (column === 'slice' && edits)
    return (
      <ColumnForm title="Slice faces from a page image" onClose={done}>
        <CutForm project={project} page={page} picked={selected} onDone={done} />
      </ColumnForm>
    )
  if (column === 'settings') return <AllSettings key={sought} project={project} ids={selected} />
  return (
    <>
      <SignalPathColumn project={project} selection={widgetSelection(selected, project)} ids={selected} />
      <AllSettingsButton />
    </>
  )
}
