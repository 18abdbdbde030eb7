import { Box, Button, UnstyledButton } from '@mantine/core'
import { useState, type ReactNode } from 'react'
import type { IdKind, VariableId } from '@moth-lamp/core/base'
import type { FormField, Values } from '@moth-lamp/core/describe'
import type { Project } from '@moth-lamp/core/project'
import {
  outputSettings,
  outputWords,
  quantityKinds,
  quantityWords,
  reactionSettings,
  reactionWords,
  sendingSettings,
  sendingWords,
  type QuantityKind,
  type Speech,
} from '@moth-lamp/core/scripts'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { formatValue } from '@moth-lamp/core/variables'
import { Choice } from '../../controls/choice.tsx'
import { TextField, YesNo } from '../../controls/fields.tsx'
import { holdsOf } from '../../parts/lookups.ts'
import { SettingRow } from '../../inspector/setting-fields.tsx'
import { freshId } from '../../session/chance.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { Sparkline } from './sparkline.tsx'
import styles from './bench.module.css'
import station from '../../parts/station.module.css'
import form from '../../parts/fields.module.css'

type Part = 'quantities' | 'reactions' | 'outputs' | 'sendings'
const idKind: Record<Part, IdKind> = { quantities: 'quantity', reactions: 'reaction', outputs: 'output', sendings: 'sending' }

/** Names and values in the words of the project. */
const speechOf = (project: Project): Speech => ({
  name: (id) => (id ? nameOfId(project, id) : '…'),
  value: (variable, value) => {
    const holds = holdsOf(project, variable)
    return holds ? formatValue(holds, value) : String(value)
  },
  bit: (variable, bit) => {
    const holds = holdsOf(project, variable)
    return (holds?.type === 'flags' && holds.names[bit]) || `bit ${bit}`
  },
})

/** The simulated host at full height: what its values do by themselves, how it reacts, which pins follow; each a sentence that opens. */
export function SimulatedHostCard({ project, onClose }: { project: Project; onClose(): void }) {
  const session = useSession()
  const { host } = project
  const speech = speechOf(project)
  return (
    <section className={station.card} aria-label="Simulated host">
      <header>
        <h2>Simulated host</h2>
        <Box component="span" w={150}>
          <TextField
            label="Name of the simulated host"
            value={host.name}
            isName
            check={(t) => (t.trim() ? null : 'Enter a name.')}
            onCommit={(text) => session.edit('set host', { values: { name: text } })}
          />
        </Box>
        <Button className="end" onClick={onClose}>
          Close
        </Button>
      </header>
      <Box component="div" className={`${station.scroll} grow`} onKeyDown={(e) => e.key === 'Escape' && onClose()}>
        <Section title="Values" add="Value" part="quantities">
          {host.quantityOrder.map((id, i) => {
            const quantity = host.quantities[id]!
            const variable = project.variables[quantity.settings.variable as VariableId]
            return (
              <Thing
                key={id}
                part="quantities"
                id={id}
                before={host.quantityOrder[i - 2] ?? null}
                first={i === 0}
                head={variable?.name ?? 'choose a variable'}
                said={quantityWords(quantity, speech)}
                picture={variable && <LiveLine variable={variable} />}
                settings={quantityKinds[quantity.kind].settings.list}
                values={quantity.settings}
                above={
                  <Choice
                    label="Signal"
                    value={quantity.kind}
                    options={Object.entries(quantityKinds).map(([kind, { label }]) => ({ value: kind, label }))}
                    onChange={(kind) => session.edit('set in host', { part: 'quantities', id, kind: kind as QuantityKind })}
                  />
                }
              />
            )
          })}
        </Section>
        <Section title="Reactions" hint="first match applies" add="Reaction" part="reactions">
          {host.reactionOrder.map((id, i) => (
            <Thing
              key={id}
              part="reactions"
              id={id}
              before={host.reactionOrder[i - 2] ?? null}
              first={i === 0}
              said={`${i + 1}. ${reactionWords(host.reactions[id]!, speech)}`}
              settings={reactionSettings.list}
              values={host.reactions[id]!.settings}
            />
          ))}
        </Section>
        <Section title="Scheduled frames" hint="commands and read requests" add="Frame" part="sendings">
          {host.sendingOrder.map((id, i) => (
            <Thing
              key={id}
              part="sendings"
              id={id}
              before={host.sendingOrder[i - 2] ?? null}
              first={i === 0}
              said={sendingWords(host.sendings[id]!, speech)}
              settings={sendingSettings.list}
              values={host.sendings[id]!.settings}
            />
          ))}
        </Section>
        <Section title="Outputs" hint="current output levels" add="Output" part="outputs">
          {host.outputOrder.map((id, i) => (
            <Thing
              key={id}
              part="outputs"
              id={id}
              before={host.outputOrder[i - 2] ?? null}
              first={i === 0}
              head={host.outputs[id]!.settings.name}
              said={outputWords(host.outputs[id]!, speech)}
              picture={<Pin name={host.outputs[id]!.settings.name} />}
              settings={outputSettings.list}
              values={host.outputs[id]!.settings}
            />
          ))}
        </Section>
        <div className={styles.section}>
          <YesNo
            label="Synchronise on start-up"
            words="Synchronise on start-up: write host values, read panel values"
            value={host.synchronises}
            onChange={(synchronises) => session.edit('set host', { values: { synchronises } })}
          />
        </div>
      </Box>
    </section>
  )
}

function Section(props: { title: string; hint?: string; add: string; part: Part; children: ReactNode }) {
  const session = useSession()
  return (
    <div className={styles.section}>
      <div className={styles.sectionHead}>
        <span>
          <strong>{props.title}</strong> {props.hint && <span className="small muted">{props.hint}</span>}
        </span>
        <Button
          size="compact-xs"
          onClick={() => session.edit('add to host', { part: props.part, id: freshId(idKind[props.part]), after: '' })}
        >
          + {props.add}
        </Button>
      </div>
      {props.children}
    </div>
  )
}

function LiveLine({ variable }: { variable: Project['variables'][VariableId] }) {
  const value = useStore(useSession().live, (l) => l.host.find((h) => h.id === variable.id)?.value ?? null)
  return <Sparkline variable={variable} value={value} owned />
}

function Pin({ name }: { name: string }) {
  const output = useStore(useSession().live, (l) => l.outputs.find((o) => o.name === name))
  return (
    <span className="mono small">
      {output?.on ? '● on' : '○ off'} {output?.level}
    </span>
  )
}

interface ThingProps {
  part: Part
  id: string
  /** Its predecessor after it has moved one up. */
  before: string | null
  first: boolean
  head?: string
  said: string
  picture?: ReactNode
  settings: readonly FormField[]
  values: Values
  above?: ReactNode
}

/** One value, reaction or output: a sentence, and behind a click its words to edit. */
function Thing({ part, id, before, first, head, said, picture, settings, values, above }: ThingProps) {
  const session = useSession()
  const [open, setOpen] = useState(false)
  return (
    <div>
      <div className={`${styles.thing} ${open ? styles.open : ''}`}>
        <UnstyledButton className={picture ? '' : styles.wide} aria-expanded={open} onClick={() => setOpen(!open)}>
          {head && <strong>{head}</strong>}
          <div className={styles.said}>{said}</div>
        </UnstyledButton>
        {picture}
      </div>
      {open && (
        <div className={form.sub}>
          {above}
          {settings.map((s) => (
            <SettingRow
              key={s.key}
              setting={s}
              value={values[s.key]}
              mixed={false}
              nameHint="value"
              siblings={values}
              onChange={(value) => session.edit('set in host', { part, id, values: { [s.key]: value } })}
            />
          ))}
          <span className="row">
            <Button size="compact-xs" disabled={first} onClick={() => session.edit('move in host', { part, id, after: before })}>
              Move up
            </Button>
            <Button size="compact-xs" className="end" onClick={() => session.edit('delete from host', { part, id })}>
              Remove
            </Button>
          </span>
        </div>
      )}
    </div>
  )
}
