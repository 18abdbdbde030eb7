import { Button, Stack } from '@mantine/core'
import { useState } from 'react'
import { fromHex } from '@moth-lamp/core/base'
import type { Direction } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { typedFrame } from '@moth-lamp/core/protocols'
import { Choice } from '../../controls/choice.tsx'
import { TextField } from '../../controls/fields.tsx'
import { HexField } from '../../controls/hex-field.tsx'
import { Pop } from '../../controls/pop.tsx'
import { useProtocol } from '../../parts/protocol.ts'
import { freshId } from '../../session/chance.ts'
import { useSession } from '../../session/context.tsx'

const senderOptions = [
  { value: 'host', label: 'host → panel' },
  { value: 'panel', label: 'panel → host' },
  { value: 'both', label: 'both ways' },
]

interface Typed {
  name: string
  sender: string
  text: string
}
const nothingTyped: Typed = { name: '', sender: 'host', text: '' }

/** A command begun from the frame that stands in a manual: its bytes, or its line. */
export function NewCommand({ project }: { project: Project }) {
  const [open, setOpen] = useState(false)
  /** It is kept while the form is closed, until it has become a command. */
  const [typed, setTyped] = useState(nothingTyped)
  return (
    <Pop
      opened={open}
      onChange={setOpen}
      position="bottom-end"
      width={330}
      target={
        <Button size="compact-xs" onClick={() => setOpen(!open)} aria-expanded={open}>
          + Command
        </Button>
      }
    >
      {open && (
        <NewCommandForm
          project={project}
          typed={typed}
          onType={(values) => setTyped((before) => ({ ...before, ...values }))}
          onDone={() => {
            setTyped(nothingTyped)
            setOpen(false)
          }}
        />
      )}
    </Pop>
  )
}

interface FormProps {
  project: Project
  typed: Typed
  onType(values: Partial<Typed>): void
  onDone(): void
}

function NewCommandForm({ project, typed: { name, sender, text }, onType, onDone }: FormProps) {
  const session = useSession()
  const protocol = useProtocol()
  const direction: Direction = sender === 'panel' ? 'to host' : 'to panel'
  const isText = protocol?.isText[direction] ?? false
  const bytes = protocol ? protocol.typed(direction, text) : fromHex(text)
  const taken = bytes.ok ? typedFrame(project.layout, direction, bytes.value) : null
  const inMessages = protocol?.can(direction, 'message') ?? false
  const create = () => {
    const id = freshId('command')
    const fields = taken?.ok ? [{ field: 'constant', bytes: [...taken.value.content] }] : []
    const frame = taken?.ok
      ? { frame: taken.value.frame, code: taken.value.code, address: taken.value.address }
      : { frame: inMessages ? 'message' : 'bare' }
    const values = { sender, ...frame, fields: fields.filter(({ bytes }) => bytes.length) }
    if (!session.edit('add command', { id, after: '', ...(name.trim() ? { name: name.trim() } : {}), values })) return
    session.view.set({ command: id })
    onDone()
  }
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault()
        if (!text.trim() || taken?.ok) create()
      }}
    >
      <Stack gap={7}>
        <HexField
          label="Frame from the manual"
          rows={3}
          placeholder={isText ? 'a line from the manual, or bytes in hex' : 'bytes from the manual, in hex'}
          value={text}
          {...(isText ? { wrong: null } : {})}
          onChange={(now) => onType({ text: now })}
        />
        <p className="small muted">
          {taken?.ok
            ? taken.value.frame === 'layout'
              ? 'Header and trailer are those of the layout; they are made by themselves.'
              : `${taken.value.content.length} bytes of content. Mark the values in it afterwards.`
            : 'Paste the whole frame. Without one, the content is built from fields.'}
        </p>
        <Choice
          label="Sender of the new command"
          value={sender}
          options={senderOptions}
          onChange={(now) => onType({ sender: now })}
        />
        <TextField
          label="Name of the new command"
          value={name}
          isName
          placeholder="name, such as start pump"
          onCommit={(now) => onType({ name: now })}
        />
        <Button type="submit" variant="filled" disabled={text.trim() !== '' && !taken?.ok}>
          Create
        </Button>
      </Stack>
    </form>
  )
}
