import { dropAsPages } from '../../commands/drop-pictures.ts'
import { Button, UnstyledButton } from '@mantine/core'
import { memo, useEffect, useRef, useState } from 'react'
import type { PageId } from '@moth-lamp/core/base'
import type { Project } from '@moth-lamp/core/project'
import { FindField } from '../../controls/find-field.tsx'
import { useRoving } from '../../controls/roving.ts'
import { putPainted } from '../../glass/glass.tsx'
import { stampOf } from '../../glass/page-pictures.ts'
import { freshId } from '../../session/chance.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { PictureMenu } from './picture-menu.tsx'
import styles from './pages.module.css'

/** So many are seen at once: only more want a field to find them by. */
const fewPages = 7

/** The pages as small pictures: one is opened by a click, moved by a drag or by Alt with the arrows. */
export const PageStrip = memo(function PageStrip(props: { project: Project; current: string; touching: boolean }) {
  const { project, current, touching } = props
  const session = useSession()
  const [find, setFind] = useState('')
  const roving = useRoving<HTMLDivElement>()
  const add = (kind: 'page' | 'layer' | 'pop-up') => {
    const id = freshId('page')
    if (session.edit('add page', { id, after: current, kind })) session.view.set({ page: id, widgets: [] })
  }
  /** In Touch the panel itself goes there, as if its host had sent it; in Edit the desk does. */
  const open = (id: PageId) => {
    const { number, kind } = project.pages[id]!
    if (touching && kind === 'page') session.worker.send({ type: 'host writes', id: 'variable:own-page', value: number })
    session.view.set({ page: id, widgets: [] })
  }
  const move = (from: string, to: string) => {
    if (from === to || !(from in project.pages)) return
    const order = project.pageOrder.filter((id) => id !== from)
    const down = project.pageOrder.indexOf(from as PageId) < project.pageOrder.indexOf(to as PageId)
    const at = order.indexOf(to as PageId) + (down ? 1 : 0)
    session.edit('move page', { id: from, after: order[at - 1] ?? null })
  }
  const shown = project.pageOrder.filter((id) => {
    const { number, name } = project.pages[id]!
    return `${number} ${name}`.toLowerCase().includes(find.trim().toLowerCase())
  })
  return (
    <nav
      className={styles.strip}
      data-side
      aria-label="Pages"
      onDragOver={(e) => e.dataTransfer.types.includes('Files') && e.preventDefault()}
      onDrop={(e) => {
        if (!e.dataTransfer.files.length) return
        e.preventDefault()
        void dropAsPages(session, [...e.dataTransfer.files], current)
      }}
    >
      <div className={styles.stripList} role="toolbar" aria-orientation="vertical" aria-label="Pages" {...roving}>
        {shown.map((id) => (
          <UnstyledButton
            key={id}
            className={styles.page}
            aria-current={id === current ? 'page' : undefined}
            onClick={() => open(id)}
            draggable
            onDragStart={(e) => e.dataTransfer.setData('text/moth-lamp-page', id)}
            onDragOver={(e) => e.dataTransfer.types.includes('text/moth-lamp-page') && e.preventDefault()}
            onDrop={(e) => move(e.dataTransfer.getData('text/moth-lamp-page'), id)}
            onKeyDown={(e) => {
              if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return
              e.preventDefault()
              const at = project.pageOrder.indexOf(id)
              const to = project.pageOrder[at + (e.key === 'ArrowUp' ? -1 : 1)]
              if (to) move(id, to)
            }}
            title="Drag or Alt+Up/Down to reorder"
          >
            <Thumbnail page={id} stamp={stampOf(project, project.pages[id]!)} />
            <span className={styles.pageName}>
              {project.pages[id]!.number} · {project.pages[id]!.name}
              {project.pages[id]!.kind !== 'page' && <span className="muted"> · {project.pages[id]!.kind}</span>}
            </span>
          </UnstyledButton>
        ))}
        {!shown.length && <span className="small muted">No match</span>}
        <Button onClick={() => add('page')}>+ Page</Button>
        <Button size="compact-xs" title="Layer: shown with the pages that share it" onClick={() => add('layer')}>
          + Layer
        </Button>
        <Button size="compact-xs" title="Pop-up: shown above a page until closed" onClick={() => add('pop-up')}>
          + Pop-up
        </Button>
        <PictureMenu page={current as PageId} />
      </div>
      {project.pageOrder.length > fewPages && (
        <div className={styles.stripFind}>
          <FindField label="Find a page" placeholder="Find …" value={find} onChange={setFind} />
        </div>
      )}
    </nav>
  )
})

const Thumbnail = memo(function Thumbnail({ page, stamp }: { page: string; stamp: number }) {
  const session = useSession()
  const canvas = useRef<HTMLCanvasElement>(null)
  const letters = useStore(session.live, (l) => l.letters)
  useEffect(() => {
    let gone = false
    const timer = window.setTimeout(() => {
      void session.thumbnail(page, 184).then((painted) => {
        if (gone || !painted || !canvas.current) return
        canvas.current.width = painted.rect.width
        canvas.current.height = painted.rect.height
        putPainted(canvas.current, painted)
      })
    }, 200)
    return () => {
      gone = true
      clearTimeout(timer)
    }
  }, [session, page, stamp, letters])
  return <canvas ref={canvas} width={184} height={110} aria-hidden />
})
