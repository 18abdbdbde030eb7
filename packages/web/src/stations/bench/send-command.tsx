import { Button, Group } from '@mantine/core'
import { useEffect, useState } from 'react'
import { sameJson } from '@moth-lamp/core/base'
import { bookOf, type Project } from '@moth-lamp/core/project'
import { contentOf, type Carried } from '@moth-lamp/core/protocols'
import type { Value } from '@moth-lamp/core/variables'
import { Choice } from '../../controls/choice.tsx'
import { TextField } from '../../controls/fields.tsx'
import { ValueField } from '../../controls/value-field.tsx'
import { Bytes } from '../../parts/frame.tsx'
import { useRunningProtocol } from '../../parts/protocol.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import form from '../../parts/fields.module.css'

/** A command of the host, with the values that it has been given here, or those that the host knows. */
export function SendCommand({ project }: { project: Project }) {
  const session = useSession()
  const protocol = useRunningProtocol()
  const lastEntry = useStore(session.live, (l) => (l.running ? 0 : l.lastEntry))
  const known = useStore(session.live, (l) => l.host)
  const ofHost = project.commandOrder.filter((id) => project.commands[id]!.sender !== 'panel')
  const [picked, setPicked] = useState('')
  const id = ofHost.find((one) => one === picked) ?? ofHost[0]
  const [typed, setTyped] = useState<Record<string, (Value | null)[]>>({})
  const [bytes, setBytes] = useState<Uint8Array | null>(null)
  const command = id && project.commands[id]
  const book = bookOf(project)
  const built = command && book.commands.find(({ number }) => number === command.number)
  const carried = built ? contentOf(built).carried : []
  const values = carried.map((_, k) => (id && typed[id]?.[k]) ?? null)
  const said = JSON.stringify(values)
  useEffect(() => {
    let gone = false
    if (id)
      void session.worker
        .previewCommand(id, JSON.parse(said) as (Value | null)[])
        .then((b) => !gone && setBytes((was) => (sameJson(was, b) ? was : b)))
    return () => void (gone = true)
  }, [session, id, said, built, lastEntry, known])
  if (!id || !command) return <p className="muted">No command of the host. Add one on Frames.</p>
  const nameOf = ({ cell }: Carried) => book.variables.find((one) => one.cell.index === cell?.index)?.name
  const valueOf = (one: Carried, k: number): Value => {
    const variable = nameOf(one)
    const ofIt = variable === undefined ? null : (known.find(({ name }) => name === variable)?.value ?? null)
    return values[k] ?? ofIt ?? one.value
  }
  const put = (k: number, value: Value) =>
    setTyped({ ...typed, [id]: carried.map((_, i) => (i === k ? value : (values[i] ?? null))) })
  return (
    <form
      className="stack"
      onSubmit={(e) => {
        e.preventDefault()
        session.worker.send({ type: 'host commands', id, values })
      }}
    >
      <Choice
        label="Command to send"
        value={id}
        searchable
        options={ofHost.map((one) => ({
          value: one,
          label: project.commands[one]!.name,
          detail: project.commands[one]!.meaning,
        }))}
        onChange={setPicked}
      />
      {carried.map((one, k) => (
        <div className={form.setting} key={k}>
          <label>{one.label}</label>
          {one.holds.type === 'text' ? (
            <TextField label={one.label} value={String(valueOf(one, k))} onCommit={(text) => put(k, text)} />
          ) : (
            <ValueField holds={one.holds} label={one.label} value={valueOf(one, k)} onChange={(value) => put(k, value)} />
          )}
        </div>
      ))}
      {bytes ? (
        <Bytes bytes={bytes} most={24} anatomy={protocol?.dissect('to panel', bytes) ?? null} />
      ) : (
        <p className="small bad" role="alert">
          It cannot be sent with these values.
        </p>
      )}
      <Group gap={8}>
        <Button type="submit" variant="filled" disabled={!bytes}>
          Send ⏎
        </Button>
      </Group>
    </form>
  )
}
