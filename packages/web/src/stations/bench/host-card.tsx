import { Button } from '@mantine/core'
import type { VariableId } from '@moth-lamp/core/base'
import type { Project } from '@moth-lamp/core/project'
import { formatValue } from '@moth-lamp/core/variables'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../shell/context.tsx'
import { Sparkline } from './sparkline.tsx'
import styles from './bench.module.css'
import station from '../../parts/station.module.css'

/** What the host knows: each value with its last thirty seconds, taken by the hand where it is a number; its pins. */
export function HostCard({ project, onScript }: { project: Project; onScript(): void }) {
  const session = useSession()
  const host = useStore(session.live, (l) => l.host)
  const outputs = useStore(session.live, (l) => l.outputs)
  return (
    <section className={station.card} aria-label="Host">
      <header>
        <h2>Host</h2>
        <Button size="compact-xs" miw={0} title="what the stand-in does, in data" onClick={onScript}>
          <span className="cut">stand-in: {project.host.name}</span> ▸
        </Button>
      </header>
      <div className={station.body}>
        {host.map((h) => {
          const v = project.variables[h.id as VariableId]
          return (
            <div key={h.name} className={styles.value}>
              <span className="cut" title={h.owned ? 'kept by the host' : 'heard from the panel'}>
                {h.name}
                {h.owned ? '' : ' ←'}
              </span>
              <span className="mono cut">
                {h.value === null || !v ? <span className="muted">not heard</span> : formatValue(v.holds, h.value)}
              </span>
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
        {!host.length && <p className="muted">The host knows no variable yet.</p>}
      </div>
    </section>
  )
}
