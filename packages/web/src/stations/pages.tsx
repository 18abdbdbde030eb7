import { Button, UnstyledButton } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import type { PageId, WidgetId } from '@moth-lamp/core/base'
import type { Face } from '@moth-lamp/core/faces'
import { usersOf, type Page, type Project, type Widget } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { EditLayer } from '../glass/edit-layer.tsx'
import { Glass, putPainted } from '../glass/glass.tsx'
import { TouchLayer } from '../glass/touch-layer.tsx'
import { Inspector } from '../inspector/inspector.tsx'
import { FaceField } from '../inspector/face-field.tsx'
import { SignalPathColumn, widgetSelection } from '../inspector/signal-path.tsx'
import { FindingBar } from '../parts/finding-bar.tsx'
import { Choice } from '../controls/choice.tsx'
import { TextField } from '../controls/fields.tsx'
import { extremeOf } from '@moth-lamp/core/variables'
import { freshId, shownValues } from '../session/session.ts'
import { copiedText, pasteText } from './clipboard.ts'
import { PageTools } from './page-tools.tsx'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../shell/context.tsx'
import { isTyping } from '../controls/typing.ts'
import {
  addWidget,
  deleteWidgets,
  duplicateWidgets,
  layerWidgets,
  nudgeWidgets,
  sizeWidgets,
  walkWidgets,
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
      <PageStrip project={project} current={page.id} touching={touching} />
      <section className="desk" aria-label="Desk">
        <Desk project={project} page={page} touching={touching} />
        <div style={{ minHeight: 66 }}>
          <FindingBar station="Pages" />
        </div>
      </section>
      <aside className="column" aria-label="Selection">
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

function PageStrip({ project, current, touching }: { project: Project; current: string; touching: boolean }) {
  const session = useSession()
  const add = (kind: 'page' | 'layer') => {
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
  return (
    <nav className="strip" aria-label="Pages">
      {project.pageOrder.map((id) => (
        <UnstyledButton
          key={id}
          className="page"
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
          title="drag to reorder, or Alt with the arrows"
        >
          <Thumbnail page={id} stamp={stampOf(project, project.pages[id]!)} />
          <span className="page-name">
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
  const fit = Math.min((room.width - 40) / width, (room.height - 40) / height)
  const scale = zoom === 'auto' ? (fit >= 1 ? Math.min(3, Math.floor(fit)) : Math.max(0.1, fit)) : Number(zoom)
  useDeskKeys(page, touching)
  usePretended(touching)
  const power = () => session.worker.send({ type: 'restart' })
  return (
    <>
      <div className="tools">
        {touching ? (
          <span>
            <strong>The panel is live.</strong> Press what is on the glass; <span className="key">L</span> goes back to Edit.{' '}
            <Button onClick={power}>Power cycle</Button>
          </span>
        ) : (
          <PageTools project={project} page={page} />
        )}
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
      <PageFoot project={project} page={page} scale={scale} />
    </>
  )
}

/** What is known of the page, under the glass; how it is reached; and the way to try it. */
function PageFoot({ project, page, scale }: { project: Project; page: Page; scale: number }) {
  const session = useSession()
  const { width, height } = project.panel
  const live = useStore(session.live, (l) => l.page)
  const touching = useStore(session.view, (v) => v.lamp === 'touch' || v.alt)
  const viewed = useStore(session.view, (v) => v.page)
  const from = [...new Set(usersOf(project, page.id).flatMap((u) => project.widgets[u.from as WidgetId]?.page ?? []))]
  const other = touching && live && live !== viewed && viewed in project.pages ? project.pages[viewed as PageId] : null
  return (
    <div className="page-foot small muted">
      <span className="grow cut">
        {width} × {height} px{scale < 1 ? ` · preview ${Math.round(scale * 100)} %` : ''} ·{' '}
        {project.startPage === page.id ? 'shown at power-on · ' : ''}
        {from.length ? `reached from ${from.map((id) => project.pages[id]!.name).join(', ')} · ` : ''}
        {page.widgets.length} widgets
      </span>
      {other && (
        <Button onClick={() => session.worker.send({ type: 'host writes', id: 'variable:own-page', value: other.number })}>
          The panel is on {page.name}: open {other.name}
        </Button>
      )}
    </div>
  )
}

function useDeskKeys(page: Page, touching: boolean) {
  const session = useSession()
  useEffect(() => {
    if (touching) return
    const onKey = (e: KeyboardEvent) => {
      if (isTyping(e.target)) return
      const onDesk = !(e.target instanceof Element) || e.target === document.body || e.target.closest('.desk') !== null
      if (deskKey(session, page, e, onDesk)) e.preventDefault()
    }
    const onClip = (e: ClipboardEvent) => {
      if (isTyping(e.target)) return
      if (e.type === 'paste') {
        if (pasteText(session, page, e.clipboardData?.getData('text/plain') ?? '')) e.preventDefault()
        return
      }
      const text = copiedText(session.project, page, session.view.value.widgets)
      if (!text) return
      e.clipboardData?.setData('text/plain', text)
      e.preventDefault()
      if (e.type === 'cut') deleteWidgets(session)
    }
    window.addEventListener('keydown', onKey)
    for (const type of ['copy', 'cut', 'paste'] as const) window.addEventListener(type, onClip)
    return () => {
      window.removeEventListener('keydown', onKey)
      for (const type of ['copy', 'cut', 'paste'] as const) window.removeEventListener(type, onClip)
    }
  }, [session, page, touching])
}

const ways: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/** What a key does on the desk; false where it does nothing there. */
function deskKey(session: ReturnType<typeof useSession>, page: Page, e: KeyboardEvent, onDesk: boolean): boolean {
  const control = e.ctrlKey || e.metaKey
  const way = ways[e.key]
  const { widgets: picked, adding, shown, areas } = session.view.value
  if (way && onDesk && picked.length) {
    const step = e.shiftKey ? 10 : 1
    ;(control ? sizeWidgets : nudgeWidgets)(session, way[0] * step, way[1] * step)
    return true
  }
  if (control && e.key.toLowerCase() === 'd') return (duplicateWidgets(session, page), true)
  if (control && e.key.toLowerCase() === 'a') return (session.view.set({ widgets: [...page.widgets] }), true)
  if (control || e.altKey) return false
  switch (e.key) {
    case 'Delete':
    case 'Backspace':
      return (deleteWidgets(session), true)
    case 'Escape':
      return (session.view.set(adding ? { adding: null } : { widgets: [] }), true)
    case '[':
    case ']':
      return (walkWidgets(session, page, e.key === ']' ? 1 : -1), true)
    case '<':
    case '>': {
      const next = shownValues.indexOf(shown) + (e.key === '>' ? 1 : -1)
      return (session.view.set({ shown: shownValues[(next + shownValues.length) % shownValues.length]! }), true)
    }
    case 's':
    case 'S':
      return (session.view.set({ areas: !areas }), true)
    case 'PageUp':
    case 'PageDown':
      return onDesk && (layerWidgets(session, page, e.key === 'PageUp' ? 1 : -1), true)
    case 'Enter': {
      const kind = adding && widgetKind(adding)
      if (kind && onDesk) return (addWidget(session, page, kind), true)
      if (!onDesk || !(e.target instanceof HTMLElement) || e.target.dataset['glass'] !== 'edit') return false
      document.querySelector<HTMLElement>('.column input, .column button')?.focus()
      return picked.length > 0
    }
  }
  return false
}

/** The values the desk shows instead of those that are stored; gone with the lamp. */
function usePretended(touching: boolean) {
  const session = useSession()
  const project = useProject()
  const shown = useStore(session.view, (v) => v.shown)
  const which = touching ? 'now' : shown
  const values = useStore(session.live, (l) => l.values)
  const now = which === 'stale' ? values : null
  useEffect(() => {
    if (which === 'now') return session.pretend(null)
    const all = Object.values(project.variables).map(
      (v) => [v.id, which === 'stale' ? (now?.[v.id]?.value ?? v.initial) : extremeOf(v.holds, which)] as const,
    )
    session.pretend(Object.fromEntries(all), which === 'stale')
    return () => session.pretend(null)
  }, [session, which, project.variables, now])
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
