import { NothingYet } from '../../parts/nothing-yet.tsx'
import { Button, UnstyledButton } from '@mantine/core'
import { useState } from 'react'
import type { VariableId } from '@moth-lamp/core/base'
import type { Project, Variable } from '@moth-lamp/core/project'
import { formatValue, isNumber, type Value } from '@moth-lamp/core/variables'
import { Pop } from '../../controls/pop.tsx'
import { Sentence } from '../../controls/sentence.tsx'
import { ValueField } from '../../controls/value-field.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { Sparkline } from './sparkline.tsx'
import styles from './bench.module.css'
import station from '../../parts/station.module.css'

/** Values of the host: each with its last thirty seconds, taken by the hand where it is a number; its pins. */
export function HostCard({ project, onScript }: { project: Project; onScript(): void }) {
  const session = useSession()
  const host = useStore(session.live, (l) => l.host)
  const outputs = useStore(session.live, (l) => l.outputs)
  const isTold = ({ id }: { id: string }) => project.variables[id as VariableId]?.travels !== 'stays'
  return (
    <section className={station.card} aria-label="Host">
      <header>
        <h2>Host</h2>
        <Button size="compact-xs" miw={0} title="edit behaviour" onClick={onScript}>
          <span className="cut">Simulated host: {project.host.name}</span> ▸
        </Button>
      </header>
      <div className={station.body}>
        {host.filter(isTold).map((h) => {
          const v = project.variables[h.id as VariableId]
          return (
            <div key={h.name} className={styles.value}>
              <span className="cut" title={h.owned ? 'written by host' : 'reported by panel'}>
                <span className={h.owned ? 'to-panel' : 'to-host'}>{h.owned ? '→' : '←'}</span> {h.name}
              </span>
              {v ? <HostValue variable={v} value={h.value} /> : <span className="muted">none</span>}
              {v && <Sparkline variable={v} value={h.value} owned={h.owned} />}
            </div>
          )
        })}
        {outputs.map((o) => (
          <div key={o.name} className={styles.value}>
            <span className="cut">{o.name}</span>
            <span className="mono" title={`the pin is ${o.level}`}>
              {o.on ? '● on' : '○ off'}
            </span>
            <span className="muted small">pin {o.level}</span>
          </div>
        ))}
        {!host.length && (
          <NothingYet label="Add a widget" to="pages">
            No variables yet.
          </NothingYet>
        )}
      </div>
    </section>
  )
}

/** The host's value of a variable, sent to the panel as soon as another is taken: Enter, or a choice. */
function HostValue({ variable, value }: { variable: Variable; value: Value | null }) {
  const session = useSession()
  const [given, setGiven] = useState(false)
  if (value === null && !given)
    return (
      <Button size="compact-xs" variant="subtle" title="set a value" onClick={() => setGiven(true)}>
        not received
      </Button>
    )
  const field = (
    <ValueField
      holds={variable.holds}
      label={`${variable.name}: value of the host`}
      value={value ?? variable.initial}
      onChange={(next) => session.hostWrites(variable.id, next)}
    />
  )
  if (variable.holds.type !== 'flags')
    return (
      <Sentence className={styles.hostWords}>
        {field}
        {isNumber(variable.holds) && variable.holds.unit && <span className="small muted">{variable.holds.unit}</span>}
      </Sentence>
    )
  return (
    <Pop
      position="top"
      width={240}
      target={
        <UnstyledButton className={`mono cut ${styles.hostFlags}`} title="change the bits">
          {formatValue(variable.holds, value ?? variable.initial)}
        </UnstyledButton>
      }
    >
      {field}
    </Pop>
  )
}
