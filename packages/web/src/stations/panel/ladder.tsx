import { SegmentedControl } from '@mantine/core'
import { scaleLinear } from 'd3-scale'
import { byteEndUs, type LinkSettings } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { NumberField } from '../../controls/fields.tsx'
import { useProtocol } from '../../parts/protocol.ts'
import { useSession } from '../../session/context.tsx'
import styles from './panel.module.css'

const width = 600
const lanes = { panel: 26, host: 84 }

/** What a host takes before it answers, where nobody says, ms. */
const hostWorksMs = 5

/** A report and its done to scale; and, when no done comes, the tries and the end. */
export function Ladder({ project }: { project: Project }) {
  const session = useSession()
  const protocol = useProtocol()
  const { link } = project
  const set = (values: Partial<LinkSettings>) => session.edit('set link', { values })
  const report = protocol?.encode('to host', {
    operation: 'report',
    sequence: 1,
    address: project.panel.memoryFrom,
    payload: [0, 0],
  })
  const done = protocol?.encode('to panel', { operation: 'done', sequence: 1, address: project.panel.memoryFrom })
  const reportMs = report?.ok ? byteEndUs(link, 0, report.value.length) / 1000 : 5
  const doneMs = done?.ok ? byteEndUs(link, 0, done.value.length) / 1000 : 4
  const answered = reportMs + hostWorksMs
  const settled = answered + doneMs
  const x = scaleLinear([0, settled * 1.08], [60, 372])
  const tries = Array.from({ length: Math.min(link.tries, 8) }, (_, i) => i * (reportMs + link.confirmTimeoutMs))
  const givesUp = link.tries * (reportMs + link.confirmTimeoutMs)
  const late = scaleLinear([0, givesUp], [404, 580])
  const tip = reportMs * 0.3
  return (
    <div className={styles.ladder}>
      <div className={styles.lineHead}>
        <strong>A report and its done</strong>
        <SegmentedControl
          className="end"
          aria-label="Reports wait for done"
          value={link.confirm ? 'wait' : 'forget'}
          data={[
            { value: 'wait', label: 'wait for done' },
            { value: 'forget', label: 'send and forget' },
          ]}
          onChange={(v) => set({ confirm: v === 'wait' })}
        />
      </div>
      <svg
        viewBox={`0 0 ${width} 122`}
        className={styles.wave}
        role="img"
        aria-label="A report, its done, and what happens without"
      >
        <text x="2" y={lanes.panel + 4} className={styles.toHost}>
          panel
        </text>
        <text x="2" y={lanes.host + 4} className={styles.toPanel}>
          host
        </text>
        <line x1="56" x2={link.confirm ? 380 : 590} y1={lanes.panel} y2={lanes.panel} stroke="var(--ink)" />
        <line x1="56" x2={link.confirm ? 380 : 590} y1={lanes.host} y2={lanes.host} stroke="var(--ink)" />
        <path
          d={`M${x(0)} ${lanes.panel}L${x(tip)} ${lanes.host}H${x(reportMs + tip)}L${x(reportMs)} ${lanes.panel}Z`}
          className={styles.report}
        />
        <text x={x((reportMs + tip) / 2)} y="59" textAnchor="middle" className={styles.toHost}>
          report
        </text>
        <circle cx={x(0)} cy={lanes.panel} r="4.5" fill="var(--panel)" />
        <text x={x(0)} y="14" textAnchor="middle" className={styles.bold}>
          press
        </text>
        {link.confirm && (
          <>
            <text x={x((reportMs + tip + answered) / 2)} y="59" textAnchor="middle" className={styles.bitName}>
              host works
            </text>
            <path
              d={`M${x(answered)} ${lanes.host}L${x(answered + tip)} ${lanes.panel}H${x(settled)}L${x(settled - tip)} ${lanes.host}Z`}
              className={styles.done}
            />
            <text x={x((answered + settled) / 2)} y="59" textAnchor="middle" className={styles.toPanel}>
              done
            </text>
            <circle cx={x(settled)} cy={lanes.panel} r="4.5" fill="var(--sheet)" stroke="var(--host)" strokeWidth="2" />
            <text x={x(settled)} y="14" textAnchor="middle" className={styles.okText}>
              ✓ settled
            </text>
          </>
        )}
        {[0, reportMs, ...(link.confirm ? [answered, settled] : [])].map((ms, i) => (
          <text key={i} x={x(ms)} y="101" textAnchor="middle" className={styles.tick}>
            {ms === 0 ? '0 ms' : ms.toFixed(1)}
          </text>
        ))}
        {link.confirm && (
          <>
            <path
              d={`M386 ${lanes.panel - 6}l-6 12M392 ${lanes.panel - 6}l-6 12M386 ${lanes.host - 6}l-6 12M392 ${lanes.host - 6}l-6 12`}
              stroke="#9aa0ad"
              fill="none"
            />
            <line x1="396" x2="590" y1={lanes.panel} y2={lanes.panel} stroke="var(--ink)" />
            <line x1="396" x2="590" y1={lanes.host} y2={lanes.host} stroke="var(--ink)" />
            <text x="396" y="14" className={styles.bitName}>
              no done:
            </text>
            {tries.map((ms, i) => (
              <g key={ms}>
                <path
                  d={`M${late(ms)} ${lanes.panel}L${late(ms) + 4} ${lanes.host - 12}m-4 -1l8 8m0 -8l-8 8`}
                  stroke={i ? 'var(--panel)' : '#b98aa3'}
                  strokeWidth="2"
                  fill="none"
                />
                {(tries.length < 5 || i === tries.length - 1) && i > 0 && (
                  <text x={late(ms)} y="14" textAnchor="middle" className={styles.toHost}>
                    try {i === tries.length - 1 ? link.tries : i + 1}
                  </text>
                )}
                <text x={late(ms)} y="101" textAnchor="middle" className={styles.tick}>
                  {i && (tries.length < 5 || i === tries.length - 1) ? Math.round(ms) : ''}
                </text>
              </g>
            ))}
            <line
              x1={late(givesUp)}
              x2={late(givesUp)}
              y1={lanes.panel - 10}
              y2={lanes.host}
              stroke="var(--bad)"
              strokeWidth="2"
            />
            <text x={late(givesUp)} y="115" textAnchor="end" className={styles.badText}>
              gives up at {Math.round(givesUp)} ms
            </text>
          </>
        )}
      </svg>
      <div className={styles.choices}>
        {link.confirm && (
          <>
            <span className="small">no done within</span>
            <span className={styles.short}>
              <NumberField
                label="Waits for done"
                value={link.confirmTimeoutMs}
                min={1}
                max={60_000}
                whole
                unit="ms"
                onCommit={(confirmTimeoutMs) => set({ confirmTimeoutMs })}
              />
            </span>
            <span className={styles.tiny}>
              <NumberField label="Tries" value={link.tries} min={1} max={20} whole onCommit={(tries) => set({ tries })} />
            </span>
            <span className="small">tries</span>
          </>
        )}
        <span className="small">· answers a write after</span>
        <span className={styles.short}>
          <NumberField
            label="The panel answers after"
            value={link.latencyMs}
            min={0}
            max={5_000}
            whole
            unit="ms"
            onCommit={(latencyMs) => set({ latencyMs })}
          />
        </span>
        <span className="small">· host gone after</span>
        <span className={styles.short}>
          <NumberField
            label="The host is gone after"
            value={link.aliveMs}
            min={10}
            max={3_600_000}
            whole
            unit="ms"
            onCommit={(aliveMs) => set({ aliveMs })}
          />
        </span>
      </div>
    </div>
  )
}
