import { Box, Button, Group, TextInput } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import { fromHex, type VariableId } from '@moth-lamp/core/base'
import type { Direction } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { formatValue, parseValue } from '@moth-lamp/core/variables'
import { Glass } from '../glass/glass.tsx'
import { TouchLayer } from '../glass/touch-layer.tsx'
import { Choice } from '../controls/choice.tsx'
import { NumberField, YesNo } from '../controls/fields.tsx'
import { HexField } from '../controls/hex-field.tsx'
import { Bytes } from '../parts/frame.tsx'
import { useRunningProtocol } from '../parts/protocol.ts'
import { valueProblemWords } from '../parts/value-words.ts'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../shell/context.tsx'
import { isTyping } from '../controls/typing.ts'
import { ConversationCard } from './conversation.tsx'
import { HostScriptCard } from './host-script.tsx'

const seconds = (us: number) => `${(us / 1_000_000).toFixed(3)} s`

/** The room inside an element, as it changes. */
function useRoom(element: HTMLElement | null): { width: number; height: number } {
  const [room, setRoom] = useState({ width: 850, height: 720 })
  useEffect(() => {
    if (!element) return
    const watch = new ResizeObserver(() => setRoom({ width: element.clientWidth, height: element.clientHeight }))
    watch.observe(element)
    return () => watch.disconnect()
  }, [element])
  return room
}

/** The panel live with its host: glass, values, sending, conversation. */
export function BenchStation() {
  const project = useProject()
  const [scripting, setScripting] = useState(false)
  const [left, setLeft] = useState<HTMLDivElement | null>(null)
  const room = useRoom(left)
  const { width, height } = project.panel
  // The glass takes the width there is and leaves some height for what is below; small glasses are doubled.
  const fit = Math.min((room.width - 43) / width, Math.max(200, room.height - 210) / height)
  const scale = fit >= 2 ? Math.min(3, Math.floor(fit)) : fit >= 1 ? 1 : Math.max(0.2, fit)
  return (
    <div className="bench">
      <div className="left" ref={setLeft}>
        <div className="bench-glass">
          <Glass page={null} scale={scale} live label="Glass of the live panel">
            <TouchLayer scale={scale} />
          </Glass>
          {scale < 1 && <span className="small muted">preview {Math.round(scale * 100)} %</span>}
        </div>
        {scripting ? (
          <HostScriptCard project={project} onClose={() => setScripting(false)} />
        ) : (
          <div className="under">
            <HostCard project={project} onScript={() => setScripting(true)} />
            <SendCard project={project} />
            <ClockCard />
          </div>
        )}
      </div>
      <ConversationCard project={project} />
    </div>
  )
}

function HostCard({ project, onScript }: { project: Project; onScript(): void }) {
  const session = useSession()
  const host = useStore(session.live, (l) => l.host)
  const outputs = useStore(session.live, (l) => l.outputs)
  return (
    <section className="card" aria-label="Host">
      <header>
        <h2>Host</h2>
        <Button size="compact-xs" className="end" miw={0} title="what the stand-in does, in data" onClick={onScript}>
          <span className="cut">stand-in: {project.host.name}</span> ▸
        </Button>
      </header>
      <div className="body">
        <div className="values">
          {host.map((h) => {
            const v = project.variables[h.id as VariableId]
            return [
              <span key={h.name} className="cut" title={h.owned ? 'kept by the host' : 'heard from the panel'}>
                {h.name}
                {h.owned ? '' : ' ←'}
              </span>,
              <span key={`${h.name} value`} className="mono">
                {h.value === null || !v ? <span className="muted">not heard</span> : formatValue(v.holds, h.value)}
              </span>,
            ]
          })}
          {outputs.map((o) => [
            <span key={o.name}>{o.name}</span>,
            <span key={`${o.name} state`} className="mono" title={`the pin is ${o.level}`}>
              {o.on ? '● on' : '○ off'}
            </span>,
          ])}
        </div>
        {!host.length && <p className="muted">The host knows no variable yet.</p>}
      </div>
    </section>
  )
}

function SendCard({ project }: { project: Project }) {
  const session = useSession()
  const [as, setAs] = useState<'value' | 'to panel' | 'to host'>('value')
  return (
    <section className="card" aria-label="Send">
      <header>
        <h2>Send</h2>
        <Box component="span" className="end" w={142}>
          <Choice
            label="What to send"
            value={as}
            options={[
              { value: 'value', label: 'a value, as host' },
              { value: 'to panel', label: 'bytes, as host' },
              { value: 'to host', label: 'bytes, as panel' },
            ]}
            onChange={(v) => setAs(v as typeof as)}
          />
        </Box>
      </header>
      <div className="body">
        {as === 'value' ? <SendValue session={session} project={project} /> : <SendBytes key={as} direction={as} />}
      </div>
    </section>
  )
}

function SendValue({ session, project }: { session: ReturnType<typeof useSession>; project: Project }) {
  const choices = project.variableOrder.map((id) => project.variables[id]!).filter((v) => v.travels !== 'stays')
  const [id, setId] = useState<string>(choices[0]?.id ?? '')
  const variable = project.variables[id as VariableId] ?? choices[0]
  const [text, setText] = useState<string | null>(null)
  const [bytes, setBytes] = useState<Uint8Array | null>(null)
  const protocol = useRunningProtocol()
  const lastEntry = useStore(session.live, (l) => (l.running ? 0 : l.lastEntry))
  const shown = text ?? (variable ? formatValue(variable.holds, variable.initial, false) : '')
  const read = variable ? parseValue(variable.holds, shown) : null
  const value = read?.ok ? read.value : null
  useEffect(() => {
    let gone = false
    if (variable && value !== null) void session.worker.previewWrite(variable.id, value).then((b) => !gone && setBytes(b))
    return () => void (gone = true)
  }, [session, variable, value, lastEntry])
  if (!variable) return <p className="muted">There is no variable to send.</p>
  const send = () => value !== null && session.hostWrites(variable.id, value)
  return (
    <form
      className="stack"
      onSubmit={(e) => {
        e.preventDefault()
        send()
      }}
    >
      <span className="row">
        <Choice
          label="Variable to send"
          value={variable.id}
          options={choices.map((v) => ({ value: v.id, label: v.name }))}
          onChange={(v) => (setId(v), setText(null))}
        />
        <TextInput
          aria-label="Value to send"
          classNames={{ input: 'mono' }}
          error={!read?.ok}
          value={shown}
          onChange={(e) => setText(e.currentTarget.value)}
        />
      </span>
      {read && !read.ok ? (
        <span className="wrong-words" role="alert">
          {valueProblemWords(read.problem)}
        </span>
      ) : (
        bytes && <Bytes bytes={bytes} anatomy={protocol?.dissect('to panel', bytes) ?? null} />
      )}
      <span className="row">
        <Button type="submit" disabled={value === null}>
          Send ⏎
        </Button>
        <Button type="button" onClick={() => session.worker.send({ type: 'host asks', id: variable.id })}>
          Ask for it
        </Button>
      </span>
    </form>
  )
}

function SendBytes({ direction }: { direction: Direction }) {
  const session = useSession()
  const [text, setText] = useState('')
  const read = fromHex(text)
  const send = () => {
    if (read.ok) session.worker.send({ type: 'send bytes', direction, bytes: read.value })
  }
  return (
    <form
      className="stack"
      onSubmit={(e) => {
        e.preventDefault()
        send()
      }}
    >
      <HexField label="Bytes to send" rows={3} placeholder="7E 51 12 00 …" value={text} onChange={setText} />
      <span className="row">
        <Button type="submit" disabled={!read.ok}>
          Send {read.ok ? `${read.value.length} bytes` : ''} {direction === 'to panel' ? 'to the panel' : 'to the host'}
        </Button>
      </span>
    </form>
  )
}

function ClockCard() {
  const session = useSession()
  const { nowUs, running, speed, silent } = useStore(session.live, (l) => l)
  const [stepMs, setStepMs] = useState(100)
  const hold = () => session.setClock(!running)
  const ref = useRef(hold)
  useEffect(() => {
    ref.current = hold
  })
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key !== ' ' || isTyping(e.target) || e.target instanceof HTMLButtonElement) return
      e.preventDefault()
      ref.current()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return (
    <section className="card" aria-label="Clock and power">
      <header>
        <h2>Clock</h2>
        <output className="end mono" aria-label="Time since power-on">
          {seconds(nowUs)}
        </output>
      </header>
      <div className="body stack">
        <span className="row">
          <Button flex="none" aria-pressed={!running} onClick={hold} w={66}>
            {running ? 'Hold' : 'Run'}
          </Button>
          <Button flex="none" disabled={running} onClick={() => session.worker.send({ type: 'step', us: stepMs * 1000 })}>
            Step
          </Button>
          <NumberField label="Length of a step" value={stepMs} min={1} max={600_000} whole unit="ms" onCommit={setStepMs} />
        </span>
        <span className="row">
          <span className="muted">Speed</span>
          <Choice
            label="Speed"
            value={String(speed)}
            options={[
              { value: '0.1', label: '1/10' },
              { value: '0.5', label: '1/2' },
              { value: '1', label: '1' },
              { value: '4', label: '4 times' },
              { value: '10', label: '10 times' },
            ]}
            onChange={(s) => session.setClock(running, Number(s))}
          />
        </span>
        <Group gap={5}>
          <Button onClick={() => session.worker.send({ type: 'restart' })} title="panel and host begin anew, at 0.000 s">
            Power cycle
          </Button>
          <Button onClick={() => session.worker.send({ type: 'power', which: 'panel' })}>panel only</Button>
          <Button onClick={() => session.worker.send({ type: 'power', which: 'host' })}>host only</Button>
        </Group>
        <YesNo
          label="host is silent"
          words="host is silent"
          value={silent}
          onChange={(is) => session.worker.send({ type: 'host silent', silent: is })}
        />
      </div>
    </section>
  )
}
