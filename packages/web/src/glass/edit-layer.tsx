import { Menu, UnstyledButton, VisuallyHidden } from '@mantine/core'
import { useRef, useState } from 'react'
import { around, type PageId, type Rect, type WidgetId } from '@moth-lamp/core/base'
import { heldWith, type Page, type Project, type Widget } from '@moth-lamp/core/project'
import { boundTo, widgetKind } from '@moth-lamp/core/widgets'
import { Items } from '../controls/pop.tsx'
import type { Session } from '../session/session.ts'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import { addOffered } from '../commands/add-commands.ts'
import { dropOnGlass, dropOnWidgets } from '../commands/drop-pictures.ts'
import { handles, useDeskDrag, widgetsAt, type Handle, type Pointer } from './desk-drag.ts'
import { FaceHandles } from './face-handles.tsx'
import styles from './glass.module.css'
import { placed } from './placed.ts'
import { ReferencePicture } from './reference-picture.tsx'
import { Rim } from './rim.tsx'
import { Sweep } from './sweep.tsx'
import { WordsOnGlass } from './words-on-glass.tsx'

interface Props {
  project: Project
  page: Page
  scale: number
}

/** Selecting, adding, moving and sizing on the desk. */
export function EditLayer({ project, page, scale }: Props) {
  const session = useSession()
  const picked = useStore(session.view, (v) => v.widgets)
  const adding = useStore(session.view, (v) => v.adding)
  const addAt = useStore(session.view, (v) => v.addAt)
  const areas = useStore(session.view, (v) => v.areas)
  const [hover, setHover] = useState<string | null>(null)
  const [stack, setStack] = useState<Stack | null>(null)
  const [wording, setWording] = useState<WidgetId | null>(null)
  const layer = useRef<HTMLDivElement>(null)
  const { drag, shown } = useDeskDrag({
    session,
    project,
    page,
    onAdd: (at) => {
      const { adding, addingFor } = session.view.value
      if (adding) addOffered(session, page, adding, at, addingFor)
    },
  })
  const placeOf = (id: string): Rect => shown.places[id] ?? project.widgets[id as WidgetId]!.place
  const css = (rect: Rect) => placed(rect, scale)
  const at = (e: React.MouseEvent): Pointer => {
    const box = layer.current!.getBoundingClientRect()
    return {
      x: (e.clientX - box.left) / scale,
      y: (e.clientY - box.top) / scale,
      shift: e.shiftKey,
      free: e.ctrlKey,
      handle: (e.target as HTMLElement).dataset['handle'] as Handle | undefined,
    }
  }
  const under = (e: React.MouseEvent) => widgetsAt(project, page, at(e).x, at(e).y)
  const chosen = picked.filter((id) => id in project.widgets && project.widgets[id as WidgetId]!.page === page.id)
  const [one] = chosen.length === 1 ? chosen.map((id) => project.widgets[id as WidgetId]!) : []
  return (
    <div
      ref={layer}
      className={`${styles.edit} ${adding ? styles.adding : ''}`}
      tabIndex={0}
      role="application"
      aria-label={`Page ${page.name}. [ ] select, arrows move, Enter opens settings`}
      data-glass="edit"
      data-station-home
      onPointerDown={(e) => {
        if (e.button !== 0) return
        e.currentTarget.setPointerCapture(e.pointerId)
        drag.begin(at(e))
      }}
      onPointerMove={(e) => (drag.isUnderWay ? drag.move(at(e)) : setHover(under(e).find((w) => !w.locked)?.id ?? null))}
      onPointerUp={(e) => drag.end(at(e))}
      onPointerCancel={() => drag.giveUp()}
      onPointerLeave={() => setHover(null)}
      onClick={(e) => {
        const shared = page.layer ? project.pages[page.layer as PageId] : undefined
        const hit = shared && !adding && !under(e).length ? widgetsAt(project, shared, at(e).x, at(e).y)[0] : undefined
        if (shared && hit) sayShared(session, shared, hit)
      }}
      onDoubleClick={(e) => {
        const hit = under(e).find((w) => typeof w.settings['text'] === 'string')
        if (hit) setWording(hit.id)
      }}
      onDragOver={(e) => e.dataTransfer.types.includes('Files') && e.preventDefault()}
      onDrop={(e) => {
        const files = [...e.dataTransfer.files]
        if (!files.length) return
        e.preventDefault()
        const [widget] = under(e)
        const { widgets } = session.view.value
        const several = widget && widgets.length > 1 && widgets.includes(widget.id)
        const onto = several ? page.widgets.filter((id) => widgets.includes(id)).map((id) => project.widgets[id]!) : [widget]
        if (widget) void dropOnWidgets(session, files, onto as Widget[])
        else void dropOnGlass(session, files, page, at(e))
      }}
      onContextMenu={(e) => {
        e.preventDefault()
        const ids = under(e).map((w) => w.id)
        if (ids.length) setStack({ x: at(e).x * scale, y: at(e).y * scale, ids })
      }}
    >
      <ReferencePicture project={project} page={page} scale={scale} />
      {areas &&
        page.widgets
          .filter((id) => widgetKind(project.widgets[id]!.kind)?.touchable)
          .map((id) => <div key={id} className={styles.area} style={css(placeOf(id))} />)}
      {hover && !picked.includes(hover) && hover in project.widgets && (
        <div className={styles.hover} style={css(placeOf(hover))} />
      )}
      {chosen.map((id) => (
        <div
          key={id}
          className={`${styles.picked} ${project.widgets[id as WidgetId]!.locked ? styles.locked : ''}`}
          style={css(placeOf(id))}
        >
          {one && !one.locked && handles.map((handle) => <span key={handle} className={styles.handle} data-handle={handle} />)}
        </div>
      ))}
      {one && !one.locked && !shown.places[one.id] && <FaceHandles widget={one} scale={scale} />}
      {chosen.length > 0 && <Rim rect={chosen.map(placeOf).reduce(around)} scale={scale} project={project} ids={chosen} />}
      {one && <Sweep project={project} widget={one} scale={scale} />}
      {shown.guides.x.map((x) => (
        <div key={`x${x}`} className={styles.guideX} style={placed({ x, y: 0, width: 0, height: 0 }, scale, 'x')} />
      ))}
      {shown.guides.y.map((y) => (
        <div key={`y${y}`} className={styles.guideY} style={placed({ x: 0, y, width: 0, height: 0 }, scale, 'y')} />
      ))}
      {addAt && !shown.marquee && <div className={styles.marquee} style={css(addAt)} />}
      {shown.marquee && <div className={styles.marquee} style={css(shown.marquee)} />}
      {wording && wording in project.widgets && (
        <WordsOnGlass widget={project.widgets[wording]!} box={css(placeOf(wording))} onDone={() => setWording(null)} />
      )}
      {stack && <StackMenu project={project} stack={stack} onClose={() => setStack(null)} />}
      <VisuallyHidden role="status">{selectionWords(project, chosen)}</VisuallyHidden>
    </div>
  )
}

/** Tells that a shared widget is edited on its layer, for all pages that show it. */
function sayShared(session: Session, layer: Page, widget: Widget): void {
  session.say(`“${widget.name}” belongs to layer ${layer.name}.`, 'info', false, {
    label: `Edit ${layer.name}`,
    run: () => session.view.set({ page: layer.id, widgets: [widget.id], variable: null }),
  })
}

/** Selection and its place in words, for screen readers. */
function selectionWords(project: Project, ids: readonly string[]): string {
  if (ids.length > 1) {
    const held = heldWith(project, ids[0] as WidgetId)
    const one = held.length === ids.length && held.every((id) => ids.includes(id))
    return `${ids.length} widgets are selected${one ? ' (group)' : ''}`
  }
  const widget = project.widgets[ids[0] as WidgetId]
  if (!widget) return ''
  const { x, y, width, height } = widget.place
  const shows = project.variables[boundTo(widget) as keyof typeof project.variables]
  return `${widgetKind(widget.kind)?.label} “${widget.name}”${shows ? `, shows ${shows.name}` : ''}, at ${x}, ${y}, ${width} by ${height}${widget.locked ? ', locked' : ''}`
}

interface Stack {
  x: number
  y: number
  ids: WidgetId[]
}

/** Menu of the widgets at a point, locked ones too. */
function StackMenu({ project, stack, onClose }: { project: Project; stack: Stack; onClose(): void }) {
  const session = useSession()
  return (
    <Menu opened onChange={(open) => !open && onClose()} position="bottom-start" withinPortal>
      <Menu.Target>
        <UnstyledButton
          className={styles.anchor}
          aria-label="Widgets at this point"
          tabIndex={-1}
          style={{ left: stack.x, top: stack.y }}
        />
      </Menu.Target>
      <Items onPointerDown={(e) => e.stopPropagation()}>
        <Menu.Label>Widgets at this point (front first)</Menu.Label>
        {stack.ids
          .filter((id) => id in project.widgets)
          .map((id) => (
            <Menu.Item key={id} onClick={() => session.view.set({ widgets: [id], variable: null })}>
              {project.widgets[id]!.name}{' '}
              <span className="muted small">
                {project.widgets[id]!.kind}
                {project.widgets[id]!.locked ? ' · locked' : ''}
              </span>
            </Menu.Item>
          ))}
      </Items>
    </Menu>
  )
}
