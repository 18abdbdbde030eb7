import type { WidgetId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import { signalPaths, type Selection } from '@moth-lamp/core/signal-path'
import { boundKey } from '@moth-lamp/core/widgets'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import { fieldOf } from '../parts/lookups.ts'
import { GlassStop } from './stops/glass-stop.tsx'
import { HostStop } from './stops/host-stop.tsx'
import { Stop } from './stops/stop.tsx'
import { TouchStop } from './stops/touch-stop.tsx'
import { TypedStop } from './stops/typed-stop.tsx'
import { UsersStop } from './stops/users-stop.tsx'
import { VariableStop } from './stops/variable-stop.tsx'
import { WireStop } from './stops/wire-stop.tsx'
import styles from './stops/stops.module.css'

/** Glass, touch, variable, wire, host of what is selected; each stop is edited where it stands. */
export function SignalPathColumn({
  project,
  selection,
  ids = [],
}: {
  project: Project
  selection: Selection | null
  ids?: string[]
}) {
  const session = useSession()
  const values = useStore(session.live, (l) => l.values)
  const own = useStore(session.live, (l) => (selection ? l.own[selection.id] : undefined))
  /** The bytes are those of the value that a thumb draws. */
  const swept = useStore(session.view, (v) => v.swept)
  const widgets = ids.map((id) => project.widgets[id as WidgetId]).filter((w): w is Widget => w !== undefined)
  const widget = widgets.length === 1 ? widgets[0] : undefined
  if (!selection && !widgets.length)
    return <p className="muted">Nothing selected. Select a widget or variable to see how it reaches the host.</p>
  const paths = selection
    ? signalPaths(project, selection, (id) =>
        swept?.variable === id ? swept.value : (values[id]?.value ?? (id === selection.id ? own : undefined)),
      )
    : []
  const acts = fieldOf(widget, 'rules') !== null
  const bound = fieldOf(widget, (widget && boundKey(widget.kind)) ?? '')
  return (
    <section aria-label="Signal path">
      {!paths.length && (
        <div className={styles.path}>
          <GlassStop project={project} widgets={widgets} />
        </div>
      )}
      {paths.map((path, i) => (
        <div className={styles.path} key={i}>
          {i === 0 && selection?.kind === 'variable' && <UsersStop project={project} variable={selection.id} />}
          {i === 0 && widgets.length > 0 && <GlassStop project={project} widgets={widgets} />}
          {i === 0 && widget && acts && <TouchStop project={project} widget={widget} />}
          {i === 0 && widget && fieldOf(widget, 'keypad') && <TypedStop project={project} widget={widget} />}
          {!widget && path.touches.length > 0 && (
            <Stop title="When touched">
              {path.touches.map((t) => (
                <div key={t}>{t}</div>
              ))}
            </Stop>
          )}
          <VariableStop
            project={project}
            path={path}
            widget={widget ?? null}
            whole={selection?.kind === 'variable'}
            binding={path.by === null || path.by === bound?.label ? bound : null}
          />
          {(path.frames.length > 0 || (acts && i === 0)) && <WireStop path={path} pressed={acts && i === 0} />}
          {path.calls.length > 0 && <HostStop calls={path.calls} />}
        </div>
      ))}
    </section>
  )
}

export const widgetSelection = (ids: string[], project: Project): Selection | null => {
  const id = ids.length === 1 ? ids[0] : undefined
  return id && (id as WidgetId) in project.widgets ? { kind: 'widget', id } : null
}
