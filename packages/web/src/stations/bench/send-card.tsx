import { Button, Checkbox, Group, SegmentedControl } from '@mantine/core'
import { memo, useEffect, useMemo, useRef, useState } from 'react'
import { fromHex, sameBytes, sameJson, type VariableId } from '@moth-lamp/core/base'
import { causeWords, explainBytes } from '@moth-lamp/core/explain'
import type { Direction } from '@moth-lamp/core/frames'
import type { TextExtent } from '@moth-lamp/core/host'
import { bookOf, systemVariablesOf, type Project } from '@moth-lamp/core/project'
import { formatAddress, type Holds, type Value } from '@moth-lamp/core/variables'
import { Choice } from '../../controls/choice.tsx'
import { HexField } from '../../controls/hex-field.tsx'
import { ValueField } from '../../controls/value-field.tsx'
import { CalculatorButton } from '../../parts/calculator-button.tsx'
import { Bytes } from '../../parts/frame.tsx'
import { useRunningProtocol } from '../../parts/protocol.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { SendCommand } from './send-command.tsx'
import station from '../../parts/station.module.css'

type What = 'value' | 'command' | 'to panel' | 'to host'

/** Says something by hand: a value as the host, or bytes as either side. */
export function SendCard({ project }: { project: Project }) {
  const [chosen, setAs] = useState<What>('value')
  const hasCommands = project.commandOrder.length > 0
  const as = chosen === 'command' && !hasCommands ? 'value' : chosen
  return (
    <section className={station.card} aria-label="Send">
      <header>
        <h2>Send</h2>
        <SegmentedControl
          className="end"
          aria-label="What to send"
          value={as}
          data={[
            { value: 'value', label: 'Value' },
            ...(hasCommands ? [{ value: 'command', label: 'Command' }] : []),
            { value: 'to panel', label: '→ bytes' },
            { value: 'to host', label: '← bytes' },
          ]}
          onChange={(v) => setAs(v as What)}
        />
      </header>
      <div className={station.body}>
        {as === 'value' ? (
          <SendValue project={project} />
        ) : as === 'command' ? (
          <SendCommand project={project} />
        ) : (
          <SendBytes key={as} direction={as} />
        )}
      </div>
    </section>
  )
}

interface Sendable {
  id: string
  name: string
  address: number
  holds: Holds
  initial: Value
  group: string
}

/** Variables that a host may write, and writable system variables. */
function sendable(project: Project): Sendable[] {
  const variables = project.variableOrder
    .map((id) => project.variables[id]!)
    .filter((v) => v.travels !== 'stays')
    .map((v) => ({
      id: v.id as string,
      name: v.name,
      address: v.address,
      holds: v.holds,
      initial: v.initial,
      group: 'Variables',
    }))
  const own = systemVariablesOf(project.panel)
    .filter((w) => w.writable)
    .map((w) => ({
      id: w.id as string,
      name: w.name,
      address: project.panel.ownFrom + w.offset,
      holds: w.holds,
      initial: w.name === 'backlight' ? 100 : w.name === 'page' ? 1 : 0,
      group: 'System variables',
    }))
  return [...variables, ...own]
}

function SendValue({ project }: { project: Project }) {
  const session = useSession()
  const all = useMemo(() => sendable(project), [project])
  const [id, setId] = useState('')
  const chosen = all.find((s) => s.id === id) ?? all[0]
  const now = useStore(session.live, (l) => (chosen ? l.values[chosen.id as VariableId]?.value : undefined))
  const [typed, setTyped] = useState<{ id: string; value: Value } | null>(null)
  const [bytes, setBytes] = useState<Uint8Array | null>(null)
  const [extent, setExtent] = useState<TextExtent>('whole')
  const taken = useRef<Value | null>(null)
  const protocol = useRunningProtocol()
  const lastEntry = useStore(session.live, (l) => (l.running ? 0 : l.lastEntry))
  const value = chosen ? (typed?.id === chosen.id ? typed.value : (now ?? chosen.initial)) : 0
  useEffect(() => {
    let gone = false
    if (chosen)
      void session.worker
        .previewWrite(chosen.id, value, extent)
        .then((b) => !gone && setBytes((was) => (sameJson(was, b) ? was : b)))
    return () => void (gone = true)
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is chosen is told by its id
  }, [session, chosen?.id, value, extent, lastEntry])
  if (!chosen) return <p className="muted">No variable to send.</p>
  const send = (what = value) => session.hostWrites(chosen.id, what, extent)
  return (
    <form
      className="stack"
      onSubmit={(e) => {
        e.preventDefault()
        send()
      }}
      // Enter in the value takes it and sends it; one that cannot be taken keeps the focus.
      onKeyDown={(e) => {
        if (e.key === 'Enter' && e.target instanceof HTMLInputElement && document.activeElement !== e.target)
          send(taken.current ?? value)
        taken.current = null
      }}
    >
      <Which all={all} chosen={chosen.id} onChange={setId} />
      <Group gap={5} align="flex-start">
        <div className="grow">
          <ValueField
            holds={chosen.holds}
            label="Value to send"
            value={value}
            onChange={(next) => {
              taken.current = next
              setTyped({ id: chosen.id, value: next })
            }}
          />
        </div>
        <Button type="submit" variant="filled">
          Send ⏎
        </Button>
      </Group>
      {bytes && <Bytes bytes={bytes} most={24} anatomy={protocol?.dissect('to panel', bytes) ?? null} />}
      <Group gap={8}>
        <Button type="button" onClick={() => session.worker.send({ type: 'host asks', id: chosen.id })}>
          Read
        </Button>
        {chosen.holds.type === 'text' && (
          <Checkbox
            label="send used characters only"
            title="the panel clears the rest of the variable"
            checked={extent === 'as long as it is'}
            onChange={(e) => setExtent(e.currentTarget.checked ? 'as long as it is' : 'whole')}
          />
        )}
      </Group>
    </form>
  )
}

/** Which variable is said; drawn anew when it is another, while its value goes on. */
const Which = memo(function Which(props: { all: Sendable[]; chosen: string; onChange(id: string): void }) {
  const { all, chosen, onChange } = props
  const options = all.map((s) => ({
    value: s.id,
    label: s.name,
    detail: `${s.holds.type} ${formatAddress(s.address)}`,
    group: s.group,
  }))
  return <Choice label="Variable to send" value={chosen} searchable options={options} onChange={onChange} />
})

/** So many bytes are explained as they are typed; a log is read on Frames. */
const mostLooked = 2048

/** Bytes as they are typed: explained before they go, and put right where one wishes. */
function SendBytes({ direction }: { direction: Direction }) {
  const session = useSession()
  const project = session.project
  const protocol = useRunningProtocol()
  const [text, setText] = useState('')
  const isText = protocol?.isText[direction] ?? false
  const read = protocol ? protocol.typed(direction, text) : fromHex(text)
  const bytes = read.ok ? read.value : null
  const looked = bytes && bytes.length <= mostLooked ? bytes : null
  const said = looked && explainBytes(project.layout, bookOf(project), looked, direction, false)
  const mended = looked && protocol?.mend(direction, looked)
  const canMend = bytes && mended && !sameBytes(mended, bytes)
  const send = (what: Uint8Array) => session.worker.send({ type: 'send bytes', direction, bytes: what })
  const good = said?.parts.every((p) => p.good)
  return (
    <form
      className="stack"
      onSubmit={(e) => {
        e.preventDefault()
        if (bytes) send(bytes)
      }}
    >
      <HexField
        label={isText ? 'Line to send' : 'Bytes to send'}
        rows={2}
        placeholder={isText ? 'a line, or bytes in hex' : '7E 51 12 00 …'}
        value={text}
        {...(isText ? { wrong: null } : {})}
        onChange={setText}
      />
      {said && (
        <div className="small" aria-live="polite">
          {said.parts.slice(0, 4).map((part) => (
            <div key={part.from}>
              <Bytes bytes={part.bytes} most={24} anatomy={part.anatomy} marks={part.marks} />{' '}
              <strong className={part.good ? '' : 'bad'}>{part.says}</strong> {causeWords(part)}
            </div>
          ))}
        </div>
      )}
      {bytes && !looked && <p className="small muted">More than {mostLooked} bytes: they are sent as they are.</p>}
      <Group gap={5}>
        {canMend && !good && (
          <Button type="button" variant="filled" title="corrects length and checksum" onClick={() => send(mended)}>
            Fix length and checksum, send
          </Button>
        )}
        <CalculatorButton />
        <Button type="submit" disabled={!bytes} variant={canMend && !good ? 'default' : 'filled'}>
          Send {bytes ? `${bytes.length} bytes` : ''} {direction === 'to panel' ? 'to the panel' : 'to the host'}
        </Button>
      </Group>
    </form>
  )
}
