import { Button, Menu, UnstyledButton } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import type { PageId, WidgetId } from '@moth-lamp/core/base'
import type { Face } from '@moth-lamp/core/faces'
import type { Page, Project, Widget } from '@moth-lamp/core/project'
import { widgetKinds } from '@moth-lamp/core/widgets'
import { EditLayer } from '../glass/edit-layer.tsx'
import { Glass, putPainted } from '../glass/glass.tsx'
import { TouchLayer } from '../glass/touch-layer.tsx'
import { Inspector } from '../inspector/inspector.tsx'
import { FaceField } from '../inspector/face-field.tsx'
import { SignalPathColumn, widgetSelection } from '../inspector/signal-path.tsx'
import { FindingBar } from '../parts/finding-bar.tsx'
import { Choice } from '../controls/choice.tsx'
import { TextField } from '../controls/fields.tsx'
import { freshId } from '../session/session.ts'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../shell/context.tsx'
import { isTyping } from '../controls/typing.ts'
import {
  addWidget,
  alignments,
  alignWidgets,
  deleteWidgets,
  duplicateWidgets,
  layerWidgets,
  nudgeWidgets,
  tabToWidget,
} from './page-commands.ts'

/** Pages on the left, the glass in the middle, the way of what is selected on the right. */
export function PagesStation() {
  const session = useSession()
  const project = useProject()
  const view = useStore(session.view, (v) => v)
  const live = useStore(session.live, (l) => l.page)
  const touching = view.lamp === 'touch' || view.alt
  const page = project.pages[(touching ? (live ?? view.page) : view.page) as PageId] ?? project.pages[project.pageOrder[0]!]!
  const selected = view.widgets.filter((id) => id in project.widgets)
  return (
    <div className="pages">
      <PageStrip project={project} current={page.id} />
      <section className="desk" aria-label="Desk">
        <Desk project={project} page={page} touching={touching} />
        <div style={{ minHeight: 66 }}>
          <FindingBar station="Pages" />
        </div>
      </section>
      <aside className="column" aria-label="Selection">
        {selected.length ? (
          <>
            {selected.length === 1 && <SignalPathColumn project={project} selection={widgetSelection(selected, project)} />}
            <Inspector project={project} ids={selected} />
          </>
        ) : (
          <PageSettings project={project} page={page} />
        )}
      </aside>
    </div>
  )
}

function PageStrip({ project, current }: { project: Project; current: string }) {
  const session = useSession()
  const add = (kind: 'page' | 'layer') => {
    const id = freshId('page')
    if (session.edit('add page', { id, after: current, kind })) session.view.set({ page: id, widgets: [] })
  }
  return (
    <nav className="strip" aria-label="Pages">
      {project.pageOrder.map((id) => (
        <UnstyledButton
          key={id}
          className="page"
          aria-current={id === current ? 'page' : undefined}
          onClick={() => session.view.set({ page: id, widgets: [], lamp: 'edit' })}
        >
          <Thumbnail page={id} stamp={stampOf(project, project.pages[id]!)} />
          <span className="cut" style={{ display: 'block' }}>
            {project.pages[id]!.number} · {project.pages[id]!.name}
            {project.pages[id]!.kind !== 'page' && <span className="muted"> · {project.pages[id]!.kind}</span>}
          </span>
        </UnstyledButton>
      ))}
      <Button onClick={() => add('page')}>+ Page</Button>
      <Button size="compact-xs" title="it lies over a page until it is closed" onClick={() => add('layer')}>
        + Layer
      </Button>
    </nav>
  )
}

const stamps = new WeakMap<Page, { widgets: Widget[]; stamp: number }>()
let lastStamp = 0

/** Another number when the page or one of its widgets is another record: only then its picture is made again. */
function stampOf(project: Project, page: Page): number {
  const widgets = page.widgets.map((id) => project.widgets[id]!)
  const before = stamps.get(page)
  if (before?.widgets.every((w, i) => w === widgets[i])) return before.stamp
  stamps.set(page, { widgets, stamp: ++lastStamp })
  return lastStamp
}

function Thumbnail({ page, stamp }: { page: string; stamp: number }) {
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
}

function Desk({ project, page, touching }: { project: Project; page: Page; touching: boolean }) {
  const session = useSession()
  const ground = useRef<HTMLDivElement>(null)
  const [zoom, setZoom] = useState('auto')
  const [room, setRoom] = useState({ width: 800, height: 600 })
  useEffect(() => {
    const watch = new ResizeObserver(
      ([entry]) => entry && setRoom({ width: entry.contentRect.width, height: entry.contentRect.height }),
    )
    watch.observe(ground.current!)
    return () => watch.disconnect()
  }, [])
  const { width, height } = project.panel
  const fit = Math.min((room.width - 26) / width, (room.height - 26) / height)
  const scale = zoom === 'auto' ? (fit >= 1 ? Math.min(3, Math.floor(fit)) : Math.max(0.1, fit)) : Number(zoom)
  useDeskKeys(page, touching)
  return (
    <>
      <div className="tools">
        {touching ? (
          <span>
            <strong>The panel is live.</strong> Press what is on the glass; <span className="key">L</span> goes back to Edit.
          </span>
        ) : (
          <Tools page={page} />
        )}
        <span className="end mono muted">
          {width} × {height} · 16-bit colour{scale < 1 ? ` · preview ${Math.round(scale * 100)} %` : ''}
        </span>
        <span style={{ width: 84 }}>
          <Choice
            label="Size on the screen"
            value={zoom}
            options={[
              { value: 'auto', label: scale >= 1 && zoom === 'auto' ? `${scale * 100} %` : 'fitted' },
              { value: '1', label: '100 %' },
              { value: '2', label: '200 %' },
              { value: '3', label: '300 %' },
            ]}
            onChange={setZoom}
          />
        </span>
      </div>
      <div
        className="ground"
        ref={ground}
        onPointerDown={(e) => e.target === e.currentTarget && session.view.set({ widgets: [] })}
      >
        <Glass page={touching ? null : page.id} scale={scale} live={touching} label={`Glass: ${page.name}`}>
          {touching ? <TouchLayer scale={scale} /> : <EditLayer project={project} page={page} scale={scale} />}
        </Glass>
      </div>
    </>
  )
}

function Tools({ page }: { page: Page }) {
  const session = useSession()
  const picked = useStore(session.view, (v) => v.widgets)
  const [open, setOpen] = useState(false)
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() !== 'a' || e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return
      e.preventDefault()
      setOpen(true)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return (
    <>
      <Menu opened={open} onChange={setOpen} position="bottom-start" width={330} transitionProps={{ duration: 0 }}>
        <Menu.Target>
          <Button>
            + Add <span className="key">A</span>
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          {widgetKinds().map((kind) => (
            <Menu.Item key={kind.kind} onClick={() => addWidget(session, page, kind)}>
              <strong>{kind.label}</strong> <span className="muted">{kind.meaning}</span>
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      <Menu position="bottom-start" disabled={picked.length < 1}>
        <Menu.Target>
          <Button disabled={picked.length < 1}>Align ▾</Button>
        </Menu.Target>
        <Menu.Dropdown>
          {alignments.map((a) => (
            <Menu.Item key={a.label} disabled={picked.length < a.least} onClick={() => alignWidgets(session, a)}>
              {a.label}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      <Button disabled={!picked.length} onClick={() => duplicateWidgets(session, page)}>
        Duplicate
      </Button>
      <Button disabled={!picked.length} onClick={() => deleteWidgets(session)}>
        Delete
      </Button>
    </>
  )
}

function useDeskKeys(page: Page, touching: boolean) {
  const session = useSession()
  useEffect(() => {
    if (touching) return
    const onKey = (e: KeyboardEvent) => {
      if (isTyping(e.target)) return
      const onDesk = !(e.target instanceof Element) || e.target === document.body || e.target.closest('.desk') !== null
      const step = e.shiftKey ? 10 : 1
      const control = e.ctrlKey || e.metaKey
      const ways: Record<string, [number, number]> = {
        ArrowLeft: [-step, 0],
        ArrowRight: [step, 0],
        ArrowUp: [0, -step],
        ArrowDown: [0, step],
      }
      const way = ways[e.key]
      const done = () => e.preventDefault()
      if (way && onDesk && session.view.value.widgets.length) {
        done()
        nudgeWidgets(session, ...way)
      } else if (control && e.key.toLowerCase() === 'd') {
        done()
        duplicateWidgets(session, page)
      } else if (control && e.key.toLowerCase() === 'a') {
        done()
        session.view.set({ widgets: [...page.widgets] })
      } else if (e.key === 'Delete' || e.key === 'Backspace') deleteWidgets(session)
      else if (e.key === 'Escape') session.view.set({ widgets: [] })
      else if ((e.key === 'PageUp' || e.key === 'PageDown') && onDesk) {
        done()
        layerWidgets(session, page, e.key === 'PageUp' ? 1 : -1)
      } else if (
        e.key === 'Tab' &&
        e.target instanceof HTMLElement &&
        e.target.dataset['glass'] === 'edit' &&
        tabToWidget(session, page, e.shiftKey ? -1 : 1)
      )
        done()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [session, page, touching])
}

function PageSettings({ project, page }: { project: Project; page: Page }) {
  const session = useSession()
  const set = (values: Partial<Page>) => session.edit('set page', { id: page.id, values })
  const at = project.pageOrder.indexOf(page.id)
  return (
    <section aria-label="Page settings" className="stack" style={{ paddingTop: 6 }}>
      <div className="row">
        <h2 className="grow">Page {page.number}</h2>
        <span className="muted small">{page.widgets.length} widgets</span>
      </div>
      <div className="setting">
        <label>Name</label>
        <TextField
          label="Name of the page"
          value={page.name}
          isName
          check={(t) => (t.trim() ? null : 'A page has a name.')}
          onCommit={(name) => set({ name })}
        />
      </div>
      <div className="setting">
        <label>Background</label>
        <FaceField label="Background" value={page.background} onChange={(background: Face) => set({ background })} />
      </div>
      <div className="setting tall">
        <label>What it is for</label>
        <TextField lines={3} label="What the page is for" value={page.note} onCommit={(note) => set({ note })} />
      </div>
      <div className="row wrap">
        <Button
          disabled={project.startPage === page.id || page.kind !== 'page'}
          onClick={() => session.edit('set start page', { id: page.id })}
        >
          {project.startPage === page.id ? 'Shown at power-on' : 'Show at power-on'}
        </Button>
        <Button
          disabled={at <= 0}
          onClick={() => session.edit('move page', { id: page.id, after: project.pageOrder[at - 2] ?? null })}
        >
          Up
        </Button>
        <Button
          disabled={at >= project.pageOrder.length - 1}
          onClick={() => session.edit('move page', { id: page.id, after: project.pageOrder[at + 1] })}
        >
          Down
        </Button>
        <Button disabled={project.pageOrder.length < 2} onClick={() => session.edit('delete page', { id: page.id })}>
          Delete page
        </Button>
      </div>
      {!page.widgets.length && (
        <p className="muted" style={{ paddingTop: 10 }}>
          This page is empty. Press <span className="key">A</span> to add a number, an indicator, a button.
        </p>
      )}
      <WidgetList project={project} page={page} />
    </section>
  )
}

function WidgetList({ project, page }: { project: Project; page: Page }) {
  const session = useSession()
  if (!page.widgets.length) return null
  return (
    <details>
      <summary className="muted">All widgets of this page, top to bottom</summary>
      {[...page.widgets].reverse().map((id) => (
        <UnstyledButton
          key={id}
          className="listed"
          style={{ padding: '3px 8px' }}
          onClick={() => session.view.set({ widgets: [id] })}
        >
          <span className="grow cut">{project.widgets[id as WidgetId]!.name}</span>
          <span className="muted small">{project.widgets[id as WidgetId]!.kind}</span>
        </UnstyledButton>
      ))}
    </details>
  )
}
