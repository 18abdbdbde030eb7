import { Group, UnstyledButton } from '@mantine/core'
import { useNavigate } from 'react-router'
import type { PageId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import { GlassCrop } from '../../glass/glass-crop.tsx'
import { useSession } from '../../session/context.tsx'
import { usersOffGlass, usersOnGlass } from '../../parts/lookups.ts'
import { Stop } from './stop.tsx'
import styles from './stops.module.css'

/** So many pages are shown as pictures; the others are named. */
const mostPages = 3

/** Where a variable is seen and touched: the piece of each page its widgets stand on, each leading there. */
export function UsersStop({ project, variable }: { project: Project; variable: string }) {
  const session = useSession()
  const navigate = useNavigate()
  const widgets = usersOnGlass(project, variable)
  const others = usersOffGlass(project, variable)
  const byPage = new Map<PageId, Widget[]>()
  for (const w of widgets) byPage.set(w.page, [...(byPage.get(w.page) ?? []), w])
  const pages = [...byPage.keys()].sort((a, b) => project.pageOrder.indexOf(a) - project.pageOrder.indexOf(b))
  const jump = (page: PageId, of: readonly Widget[]) => {
    session.view.set({ page, widgets: of.map((w) => w.id), variable: null })
    void navigate(`/project/${session.id}/pages`)
  }
  const count = widgets.length === 1 ? '1 widget' : `${widgets.length} widgets`
  return (
    <Stop
      title="On the glass"
      said={widgets.length ? `${count}, ${pages.length === 1 ? '1 page' : `${pages.length} pages`}` : 'nowhere'}
    >
      {pages.slice(0, mostPages).map((page) => (
        <UnstyledButton
          key={page}
          className={styles.user}
          title={byPage
            .get(page)!
            .map((w) => w.name)
            .join(', ')}
          onClick={() => jump(page, byPage.get(page)!)}
        >
          <Group justify="space-between" wrap="nowrap" gap={6}>
            <strong className="small">{project.pages[page]!.name}</strong>
            <span className="small muted cut">
              {byPage.get(page)!.length === 1 ? byPage.get(page)![0]!.name : `${byPage.get(page)!.length} widgets`} →
            </span>
          </Group>
          <GlassCrop project={project} widgets={byPage.get(page)!} height={84} width={250} />
        </UnstyledButton>
      ))}
      {pages.length > mostPages && (
        <div className="small muted">
          Also on{' '}
          {pages
            .slice(mostPages)
            .map((page) => project.pages[page]!.name)
            .join(', ')}
        </div>
      )}
      {others.length > 0 && <div className="small muted">Used by: {others.slice(0, 6).join(', ')}</div>}
    </Stop>
  )
}
