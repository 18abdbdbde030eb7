import { Box, Button, UnstyledButton } from '@mantine/core'
import { useState, type ReactNode } from 'react'
import type { IdKind } from '@moth-lamp/core/base'
import type { Project } from '@moth-lamp/core/project'
import { outputSettings, quantityKinds, reactionSettings, type QuantityKind, type Reaction } from '@moth-lamp/core/scripts'
import type { FormField, Values } from '@moth-lamp/core/describe'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { SettingRow } from '../inspector/setting-fields.tsx'
import { Choice } from '../controls/choice.tsx'
import { TextField, YesNo } from '../controls/fields.tsx'
import { freshId } from '../session/session.ts'
import { useSession } from '../shell/context.tsx'

type Part = 'quantities' | 'reactions' | 'outputs'
const idKind: Record<Part, IdKind> = { quantities: 'quantity', reactions: 'reaction', outputs: 'output' }

/** The stand-in in data, edited in place: what its values do by themselves, how it reacts, which pins follow. */
export function HostScriptCard({ project, onClose }: { project: Project; onClose(): void }) {
  const session = useSession()
  const { host } = project
  const name = (id: unknown) => (id ? nameOfId(project, String(id)) : '…')
  return (
    <Box component="section" className="card grow" aria-label="Stand-in" mih={200}>
      <header>
        <h2>Stand-in</h2>
        <Box component="span" w={160}>
          <TextField
            label="Name of the stand-in"
            value={host.name}
            isName
            check={(t) => (t.trim() ? null : 'It has a name.')}
            onCommit={(text) => session.edit('set host', { values: { name: text } })}
          />
        </Box>
        <label
          className="row"
          title="at its start, and when the panel starts, it writes what it owns and asks for what it does not know"
        >
          <YesNo
            label="Synchronises at start"
            value={host.synchronises}
            onChange={(synchronises) => session.edit('set host', { values: { synchronises } })}
          />
          synchronises
        </label>
        <Button className="end" onClick={onClose}>
          Done
        </Button>
      </header>
      <div className="body" style={{ display: 'grid', gridTemplateColumns: 'repeat(3, minmax(0, 1fr))', gap: 14 }}>
        <PartList
          title="Values"
          part="quantities"
          order={host.quantityOrder}
          words={(id) => `${name(host.quantities[id]!.settings.variable)} ${quantityKinds[host.quantities[id]!.kind].label}`}
          settingsOf={(id) => quantityKinds[host.quantities[id]!.kind].settings.list}
          valuesOf={(id) => host.quantities[id]!.settings}
          above={(id) => (
            <Choice
              label="How it moves"
              value={host.quantities[id]!.kind}
              options={Object.entries(quantityKinds).map(([kind, { label }]) => ({ value: kind, label }))}
              onChange={(kind) => session.edit('set in host', { part: 'quantities', id, kind: kind as QuantityKind })}
            />
          )}
        />
        <PartList
          title="Reactions"
          part="reactions"
          order={host.reactionOrder}
          words={(id) => reactionWords(host.reactions[id]!.settings, name)}
          settingsOf={() => reactionSettings.list}
          valuesOf={(id) => host.reactions[id]!.settings}
        />
        <PartList
          title="Outputs"
          part="outputs"
          order={host.outputOrder}
          words={(id) => host.outputs[id]!.settings.name}
          settingsOf={() => outputSettings.list}
          valuesOf={(id) => host.outputs[id]!.settings}
        />
      </div>
    </Box>
  )
}

function reactionWords(s: Reaction['settings'], name: (id: unknown) => string): string {
  const what = s.on === 'event' ? name(s.widget) : name(s.variable)
  const value = s.on === 'report' && s.compare !== 'any' ? ` ${s.compare} ${s.value}` : ''
  const when = s.whenVariable ? ` while ${name(s.whenVariable)} ${s.whenCompare} ${s.whenValue}` : ''
  const effects = s.effects.length
  return `${what}${value}${when}: ${s.answer}${effects ? `, ${effects} effect${effects > 1 ? 's' : ''}` : ''}`
}

interface ListProps {
  title: string
  part: Part
  order: readonly string[]
  words(id: string): string
  settingsOf(id: string): readonly FormField[]
  valuesOf(id: string): Values
  above?(id: string): ReactNode
}

function PartList({ title, part, order, words, settingsOf, valuesOf, above }: ListProps) {
  const session = useSession()
  const [open, setOpen] = useState<string | null>(null)
  const add = () => {
    const id = freshId(idKind[part])
    if (session.edit('add to host', { part, id, after: '' })) setOpen(id)
  }
  return (
    <div>
      <Box className="group" fw={700}>
        {title}
      </Box>
      {order.map((id, i) => (
        <div key={id}>
          <UnstyledButton
            className="listed"
            py={4}
            px={6}
            aria-expanded={open === id}
            onClick={() => setOpen(open === id ? null : id)}
          >
            <span className="cut">{words(id)}</span>
          </UnstyledButton>
          {open === id && (
            <div className="sub">
              {above?.(id)}
              {settingsOf(id).map((s) => (
                <SettingRow
                  key={s.key}
                  setting={s}
                  value={valuesOf(id)[s.key]}
                  mixed={false}
                  nameHint="value"
                  beside={valuesOf(id)}
                  onChange={(value) => session.edit('set in host', { part, id, values: { [s.key]: value } })}
                />
              ))}
              <span className="row">
                <Button
                  size="compact-xs"
                  disabled={i === 0}
                  onClick={() => session.edit('move in host', { part, id, after: order[i - 2] ?? null })}
                >
                  Earlier
                </Button>
                <Button size="compact-xs" className="end" onClick={() => session.edit('delete from host', { part, id })}>
                  Remove
                </Button>
              </span>
            </div>
          )}
        </div>
      ))}
      <Button size="compact-xs" onClick={add}>
        + {title.slice(0, -1)}
      </Button>
    </div>
  )
}
