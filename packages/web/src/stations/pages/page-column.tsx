import { Tabs } from '@mantine/core'
import type { Page, Project } from '@moth-lamp/core/project'
import { columnTabs, type ColumnTab } from '../../session/state.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { PageSettings } from './page-settings.tsx'
import { ThemeSettings } from './theme-settings.tsx'
import { WidgetList } from './widget-list.tsx'
import styles from './pages.module.css'

const tabTexts: Readonly<Record<ColumnTab, string>> = { page: 'Page', theme: 'Theme', widgets: 'Widgets' }

/** The column while no widget is selected: the page, the theme of the project, and the widgets of the page. */
export function PageColumn({ project, page }: { project: Project; page: Page }) {
  const session = useSession()
  const tab = useStore(session.view, (v) => v.tab)
  return (
    <Tabs
      value={tab}
      onChange={(next) => session.view.set({ tab: (next ?? 'page') as ColumnTab })}
      keepMounted={false}
      classNames={{ tab: styles.tab!, panel: styles.tabPanel! }}
    >
      <Tabs.List grow aria-label="Column">
        {columnTabs.map((one) => (
          <Tabs.Tab key={one} value={one}>
            {tabTexts[one]}
            {one === 'widgets' && <span className="muted small"> {page.widgets.length}</span>}
          </Tabs.Tab>
        ))}
      </Tabs.List>
      <Tabs.Panel value="page">
        <PageSettings project={project} page={page} />
      </Tabs.Panel>
      <Tabs.Panel value="theme">
        <ThemeSettings project={project} />
      </Tabs.Panel>
      <Tabs.Panel value="widgets">
        <WidgetList project={project} page={page} />
      </Tabs.Panel>
    </Tabs>
  )
}
