import { Button, Group, Stack, UnstyledButton } from '@mantine/core'
import { useMemo, useState, type KeyboardEvent } from 'react'
import { hexByte } from '@moth-lamp/core/base'
import type { FormField, Values } from '@moth-lamp/core/describe'
import { framesOfCommand } from '@moth-lamp/core/explain'
import { findingWords } from '@moth-lamp/core/findings'
import { nameStyleOf, usersOf, type Command, type Project } from '@moth-lamp/core/project'
import {
  commandSettings,
  fieldKind,
  fieldKinds,
  freshField,
  likelyField,
  markField,
  type CommandField,
} from '@moth-lamp/core/protocols'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { SettingRow } from '../../inspector/setting-fields.tsx'
import { DeleteUsed } from '../../parts/delete-used.tsx'
import { Bytes, Character, CopyFrame } from '../../parts/frame.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { AddPart, moved, PartBox, replaced } from './part-box.tsx'
import styles from './frames.module.css'

/** Settings that have a place of their own here, or none where they do not matter. */
const isShown = (key: string, { frame, answer }: Command, hasLines: boolean): boolean =>
  key === 'wireName'
    ? hasLines
    : key === 'code' || key === 'address'
      ? frame === 'layout'
      : key === 'answerBy'
        ? answer === 'command'
        : key === 'waitMs'
          ? answer !== 'none'
          : key !== 'fields'

/** A command: its content as a row of fields, the bytes that come of it, who sends it, what answers it and what it sets. */
export function CommandColumn({ project, command }: { project: Project; command: Command }) {
  const session = useSession()
  const findings = useStore(session.live, (l) => l.findings)
  const { id } = command
  const set = (values: Values) => session.edit('set command', { id, values })
  const users = [...new Set(usersOf(project, id).map(({ from }) => nameOfId(project, from)))]
  const remove = () => {
    if (session.edit('delete command', { id })) session.view.set({ command: null })
  }
  const close = () => session.view.set({ command: null })
  return (
    <section className="stack" aria-label="Command">
      <Group gap={6} wrap="nowrap">
        <h2 className="grow">Command</h2>
        <DeleteUsed name={command.name} users={users} then="They send and expect no command any more." onDelete={remove} />
        <Button onClick={close}>Close</Button>
      </Group>
      <Group gap={6} wrap="nowrap">
        <div className="grow">
          <TextField
            label="Name of the command"
            value={command.name}
            isName
            check={(t) => (t.trim() ? null : 'Enter a name.')}
            onCommit={(name) => set({ name })}
          />
        </div>
        <span className="small muted">number</span>
        <div className={styles.number}>
          <NumberField
            label="Number of the command"
            value={command.number}
            min={0}
            max={65_535}
            whole
            onCommit={(number) => set({ number })}
          />
        </div>
      </Group>
      <TextField label="Meaning" value={command.meaning} placeholder="meaning" onCommit={(meaning) => set({ meaning })} />
      {findings
        .filter((finding) => finding.at === id)
        .map((finding) => (
          <p key={finding.code} className="bad small" role="alert">
            {findingWords(finding)}
          </p>
        ))}
      <FieldsEditor command={command} onChange={(fields) => set({ fields })} />
      <Examples project={project} command={command} />
      <div>
        {(commandSettings.list as readonly FormField[])
          .filter(({ key }) => isShown(key, command, nameStyleOf(project) !== null))
          .map((setting) => (
            <SettingRow
              key={setting.key}
              setting={setting}
              value={command[setting.key as keyof Command]}
              mixed={false}
              nameHint="value"
              siblings={command as unknown as Values}
              onChange={(value) => set({ [setting.key]: value })}
            />
          ))}
      </div>
      {users.length > 0 && <p className="small muted">Used by: {users.join(', ')}</p>}
      {!users.length && command.sender !== 'host' && (
        <p className="small muted">Nothing sends it yet. Add the action “sends a command” to a button, a page or the panel.</p>
      )}
    </section>
  )
}

interface FieldsProps {
  command: Command
  onChange(fields: readonly CommandField[]): void
}

/** Fields in their order; a stretch of a constant becomes one of its own. */
function FieldsEditor({ command, onChange }: FieldsProps) {
  const fields = command.fields
  return (
    <Stack gap={5} role="group" aria-label="Content">
      {fields.map((field, index) => {
        const kind = fieldKind(field.field)
        if (!kind) return null
        const settings = kind.settings.list as readonly FormField[]
        const bytes = field.field === 'constant' ? (field['bytes'] as readonly number[]) : null
        return (
          <div key={field.id ?? index} className={styles.field}>
            <PartBox
              part={field}
              label={bytes ? kind.label : String(field['label'] || kind.label)}
              made={bytes ? `${bytes.length} ${bytes.length === 1 ? 'byte' : 'bytes'}` : kind.made(field as never)}
              tint={kind.tint}
              fields={settings}
              list={`fields of ${command.id}`}
              index={index}
              count={fields.length}
              scope={command.name}
              onChange={(next) => onChange(replaced(fields, index, next as CommandField | null))}
              onMove={(from, to) => onChange(moved(fields, from, to))}
            />
            {bytes && <Marking bytes={bytes} onMark={(at, size, made) => onChange(markField(fields, index, at, size, made))} />}
          </div>
        )
      })}
      <div className={styles.adders}>
        <AddPart
          where="field"
          kinds={fieldKinds().map(({ field, label }) => ({ part: field, label }))}
          onAdd={(kind) => onChange([...fields, freshField(kind)])}
        />
        {!fields.length && <span className="small muted">No content yet.</span>}
      </div>
    </Stack>
  )
}

/** The bytes of a constant, of which a stretch is marked by a drag, by Shift and a click, or by Shift and arrows. */
function Marking({ bytes, onMark }: { bytes: readonly number[]; onMark(at: number, size: number, field: CommandField): void }) {
  const [mark, setMark] = useState<{ from: number; to: number } | null>(null)
  const isText = bytes.every((byte) => (byte >= 0x20 && byte < 0x7f) || byte === 9)
  const first = mark ? Math.min(mark.from, mark.to) : 0
  const size = mark ? Math.abs(mark.to - mark.from) + 1 : 0
  const marked = bytes.slice(first, first + size)
  const take = (field: CommandField) => {
    setMark(null)
    onMark(first, size, field)
  }
  const onKey = (e: KeyboardEvent, at: number) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key]
    if (!by || e.altKey) return
    e.preventDefault()
    const next = at + by
    if (next < 0 || next >= bytes.length) return
    setMark({ from: e.shiftKey ? (mark?.from ?? at) : next, to: next })
    ;(e.currentTarget.parentElement?.children[next] as HTMLElement | undefined)?.focus()
  }
  const likely = size ? likelyField(marked) : null
  return (
    <div>
      <div className={styles.cells} role="group" aria-label="Bytes of the constant">
        {bytes.map((byte, k) => (
          <UnstyledButton
            key={k}
            className={styles.cell}
            aria-pressed={mark !== null && k >= first && k < first + size}
            aria-label={`byte ${k}: ${hexByte(byte)}`}
            tabIndex={k === (mark?.to ?? 0) ? 0 : -1}
            onPointerDown={(e) => {
              e.currentTarget.releasePointerCapture(e.pointerId)
              setMark(e.shiftKey && mark ? { from: mark.from, to: k } : { from: k, to: k })
            }}
            onPointerEnter={(e) => {
              if (e.buttons === 1 && mark) setMark({ from: mark.from, to: k })
            }}
            onKeyDown={(e) => onKey(e, k)}
          >
            {isText ? <Character byte={byte} /> : hexByte(byte)}
          </UnstyledButton>
        ))}
      </div>
      {likely && (
        <Group gap={5} mt={4}>
          <span className="small">{size === 1 ? '1 byte is' : `${size} bytes are`}</span>
          <Button size="compact-xs" variant="filled" onClick={() => take(likely)}>
            a {likely.field}
          </Button>
          {likely.field !== 'text' && (
            <Button size="compact-xs" onClick={() => take({ ...freshField('text'), size: isText ? 0 : size, value: '' })}>
              a text
            </Button>
          )}
          <Button size="compact-xs" variant="subtle" onClick={() => setMark(null)}>
            Cancel
          </Button>
        </Group>
      )}
    </div>
  )
}

/** Frames of the command with the values of its fields, the least, the most, and each label. */
function Examples({ project, command }: { project: Project; command: Command }) {
  const frames = useMemo(() => framesOfCommand(project, command.id), [project, command.id])
  if (!frames.length) return null
  return (
    <div className={styles.frames} role="group" aria-label="Example frames">
      {frames.map((f) => (
        <div key={f.key} className={styles.example}>
          <span className={f.direction === 'to panel' ? 'to-panel' : 'to-host'} aria-label={f.direction}>
            {f.direction === 'to panel' ? '→' : '←'}
          </span>
          <div className="grow">
            <Bytes bytes={f.bytes} anatomy={f.anatomy} />
            <div className="small">{f.value}</div>
          </div>
          <CopyFrame bytes={f.bytes} call={f.call} isText={f.anatomy.isText === true} />
        </div>
      ))}
    </div>
  )
}
