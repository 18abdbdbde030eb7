import { Button } from '@mantine/core'
import { useEffect, useState } from 'react'
import { formatAddress, formatValue, parseAddress, travelKinds, travelWords, type Travels } from '@moth-lamp/core/variables'
import type { WidgetId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import { signalPaths, type Selection, type SignalPath } from '@moth-lamp/core/signal-path'
import { widgetKind } from '@moth-lamp/core/widgets'
import { useStore } from '../session/store.ts'
import { useSession } from '../shell/context.tsx'
import { Choice } from '../controls/choice.tsx'
import { NumberField, TextField } from '../controls/fields.tsx'
import { Bytes, CopyFrame } from '../parts/frame.tsx'
import { useRunningProtocol } from '../parts/protocol.ts'
import type { PressFrames as Frames } from '../worker/messages.ts'

/** Glass, touch, variable, wire, host of what is selected; each stop can be changed where it stands. */
export function SignalPathColumn({ project, selection }: { project: Project; selection: Selection | null }) {
  const session = useSession()
  const values = useStore(session.live, (l) => l.values)
  if (!selection)
    return (
      <p className="muted" style={{ padding: '12px 4px' }}>
        Select something on the glass or in a list: its way from glass to host is shown here.
      </p>
    )
  const paths = signalPaths(project, selection, (id) => values[id]?.value)
  return (
    <section aria-label="Signal path">
      {paths.map((path, i) => (
        <div className="path" key={i} style={{ marginTop: i ? 14 : 0 }}>
          {path.widget && i === 0 && <GlassStop project={project} path={path} widget={path.widget} />}
          {(path.touches.length > 0 || (path.widget && widgetKind(path.widget.kind)?.touchable)) && i === 0 && (
            <div className="stop">
              <header>
                <h3>When touched</h3>
              </header>
              {path.touches.map((t) => (
                <div key={t}>{t}</div>
              ))}
              {!path.touches.length && <span className="muted">does nothing yet: add an action below</span>}
            </div>
          )}
          {path.variable && <VariableStopView path={path} />}
          {path.frames.length > 0 && <WireStop project={project} path={path} />}
          {path.calls.length > 0 && (
            <div className="stop">
              <header>
                <h3>In the host</h3>
                <span className="muted">C99</span>
              </header>
              <div className="calls">
                {path.calls.map((call) => (
                  <div key={call}>{call}</div>
                ))}
              </div>
            </div>
          )}
        </div>
      ))}
    </section>
  )
}

function GlassStop({ project, path, widget }: { project: Project; path: SignalPath; widget: Widget }) {
  const session = useSession()
  const place = (change: Partial<Widget['place']>) =>
    session.edit('place widgets', { places: { [widget.id]: { ...widget.place, ...change } } })
  const { x, y, width, height } = widget.place
  return (
    <div className="stop">
      <header>
        <h3>On the glass</h3>
        <span className="muted">
          {widgetKind(widget.kind)?.label.toLowerCase()} {widget.number} · {project.pages[widget.page]!.name}
        </span>
      </header>
      <div className="line">
        <span className="muted">Name</span>
        <TextField
          label="Name of the widget"
          value={widget.name}
          isName
          check={(t) => (t.trim() ? null : 'A widget has a name.')}
          onCommit={(name) => session.edit('name widget', { id: widget.id, name })}
        />
      </div>
      <div className="line">
        <span className="muted">Place</span>
        <span className="quad">
          <NumberField label="Left" value={x} whole onCommit={(v) => place({ x: v })} />
          <NumberField label="Top" value={y} whole onCommit={(v) => place({ y: v })} />
          <NumberField label="Width of the widget" value={width} min={1} whole onCommit={(v) => place({ width: v })} />
          <NumberField label="Height of the widget" value={height} min={1} whole onCommit={(v) => place({ height: v })} />
        </span>
      </div>
      {path.sizeMm && (
        <div className="line">
          <span className="muted">Size</span>
          <span className="small muted">
            {path.sizeMm.width.toFixed(1)} × {path.sizeMm.height.toFixed(1)} mm on this glass
          </span>
        </div>
      )}
    </div>
  )
}

function VariableStopView({ path }: { path: SignalPath }) {
  const session = useSession()
  const addresses = useStore(session.view, (v) => v.addresses)
  const stop = path.variable!
  const now = useStore(session.live, (l) => l.values[stop.id])
  const { variable, own } = stop
  const set = (values: Record<string, unknown>) => session.edit('set variable', { id: stop.id, values })
  return (
    <div className="stop">
      <header>
        <h3>Variable</h3>
        <span className="muted">{variable ? travelWords[variable.travels] : 'the panel’s own word'}</span>
      </header>
      <div className="line">
        <span className="muted">Name</span>
        {variable ? (
          <span className="row" style={{ gap: 4 }}>
            <span className="grow">
              <TextField
                mono
                label="Name of the variable"
                value={stop.name}
                isName
                check={nameProblem}
                onCommit={(name) => set({ name })}
              />
            </span>
            <span style={{ width: 76 }}>
              <TextField
                mono
                label="Address"
                value={formatAddress(stop.address, addresses)}
                check={(t) => (parseAddress(t) === null ? 'Not an address.' : null)}
                onCommit={(t) => set({ address: parseAddress(t) })}
              />
            </span>
          </span>
        ) : (
          <span className="mono">
            {stop.name} · {formatAddress(stop.address, addresses)}
          </span>
        )}
      </div>
      {variable && (
        <div className="line">
          <span className="muted">Travels</span>
          <Choice
            label="Travels"
            value={variable.travels}
            options={travelKinds.map((t) => ({ value: t, label: travelWords[t] }))}
            onChange={(travels) => set({ travels: travels as Travels })}
          />
        </div>
      )}
      <div className="line">
        <span className="muted">Holds</span>
        <span className="mono">
          {(variable?.holds ?? own!.holds).type} · {stop.words} {stop.words === 1 ? 'word' : 'words'}
        </span>
      </div>
      {now !== undefined && variable && (
        <div className="line">
          <span className="muted">Now</span>
          <span className="row" style={{ gap: 6 }}>
            <span className="mono">{formatValue(variable.holds, now.value)}</span>
            {now.written && now.value !== variable.initial && (
              <Button
                variant="subtle"
                size="compact-xs"
                className="end"
                title={`starts at ${formatValue(variable.holds, variable.initial)}; host or touch have written it since`}
                onClick={() => session.worker.send({ type: 'reset variable', id: variable.id })}
              >
                reset to {formatValue(variable.holds, variable.initial)}
              </Button>
            )}
          </span>
        </div>
      )}
      {stop.alsoOn.length > 0 && (
        <div className="small muted">
          also on: {stop.alsoOn.slice(0, 3).join(', ')}
          {stop.alsoOn.length > 3 ? ` and ${stop.alsoOn.length - 3} more` : ''}
        </div>
      )}
    </div>
  )
}

export const nameProblem = (name: string): string | null =>
  /^[a-z][a-z0-9_]{0,31}$/.test(name) ? null : 'Lower case letters, digits and _; a letter first; 32 at most.'

function WireStop({ path }: { project: Project; path: SignalPath }) {
  const first = path.frames[0]!
  return (
    <div className="stop">
      <header>
        <h3>On the wire</h3>
        <span className="muted">
          {first.bytes.length} bytes · {(first.lineUs / 1000).toFixed(1)} ms
        </span>
      </header>
      {path.frames.map((f) => (
        <div key={f.key} style={{ marginBottom: 4 }}>
          <div className={`small ${f.direction === 'to panel' ? 'to-panel' : 'to-host'}`}>
            {f.direction === 'to panel' ? 'host → panel' : 'panel → host'}, {f.operation} {f.operation === 'event' ? f.value : ''}
          </div>
          <Bytes bytes={f.bytes} anatomy={f.anatomy} />
          <div>
            <CopyFrame bytes={f.bytes} call={f.call} />
          </div>
        </div>
      ))}
      {path.widget && path.touches.length > 0 && <PressFrames key={path.widget.id} widget={path.widget.id} />}
    </div>
  )
}

/** What a press of a widget, and its lifting, would send now, with the values the panel has. */
function PressFrames({ widget }: { widget: string }) {
  const session = useSession()
  const protocol = useRunningProtocol()
  const [frames, setFrames] = useState<Frames | null>(null)
  const seen = useStore(session.live, (l) => `${l.count} ${l.running ? 0 : l.lastEntry}`)
  useEffect(() => {
    let gone = false
    void session.worker.framesOf(widget).then((found) => !gone && setFrames(found))
    return () => void (gone = true)
  }, [session, widget, seen])
  return (['pressed', 'lifted'] as const).flatMap((moment) =>
    (frames?.[moment] ?? []).map((bytes, i) => (
      <div key={`${moment} ${i}`} style={{ marginBottom: 4 }}>
        <div className="small to-host">panel → host, {moment} now, it would send</div>
        <Bytes bytes={bytes} anatomy={protocol?.dissect('to host', bytes) ?? null} />
      </div>
    )),
  )
}

export const widgetSelection = (ids: string[], project: Project): Selection | null => {
  const id = ids.length === 1 ? ids[0] : undefined
  return id && (id as WidgetId) in project.widgets ? { kind: 'widget', id } : null
}
