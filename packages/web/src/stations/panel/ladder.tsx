import { SegmentedControl } from '@mantine/core'
import { scaleLinear } from 'd3-scale'
import { linkSettings, type LinkSettings } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { DescribedNumber } from '../../parts/described-number.tsx'
import { useProtocol } from '../../parts/protocol.ts'
import { ladderTimes, toldTry, type LadderTimes } from './ladder-times.ts'
import { useSession } from '../../session/context.tsx'
import styles from './panel.module.css'

const width = 600
const lanes = { panel: 26, host: 84 }

/** Report and acknowledge to scale; and, when no done comes, the tries and the end. */
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
  const times = ladderTimes(link, report?.ok ? report.value.length : 9, done?.ok ? done.value.length : 7)
  return (
    <div className={styles.ladder}>
      <div className={styles.lineHead}>
        <strong>Report and acknowledge</strong>
        <SegmentedControl
          className="end"
          aria-label="Reports wait for ACK"
          value={link.confirm ? 'wait' : 'forget'}
          data={[
            { value: 'wait', label: 'wait for ACK' },
            { value: 'forget', label: 'no ACK' },
          ]}
          onChange={(v) => set({ confirm: v === 'wait' })}
        />
      </div>
      <LadderPicture times={times} link={link} />
      <LadderNumbers link={link} set={set} />
    </div>
  )
}

type Scale = ReturnType<typeof scaleLinear<number, number>>

/** A part of the report's time by which it slants: it arrives a little later than it is sent. */
const slantOf = ({ report }: LadderTimes): number => report * 0.3

/** Two lanes, the report from the panel's to the host's, and the way back or the tries. */
function LadderPicture({ times, link }: { times: LadderTimes; link: LinkSettings }) {
  const { report, answered, settled } = times
  const x = scaleLinear([0, settled * 1.08], [60, 372])
  const tip = slantOf(times)
  return (
    <svg
      viewBox={`0 0 ${width} 122`}
      className={styles.wave}
      role="img"
      aria-label="A report, its acknowledge, and the retries without"
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
        d={`M${x(0)} ${lanes.panel}L${x(tip)} ${lanes.host}H${x(report + tip)}L${x(report)} ${lanes.panel}Z`}
        className={styles.report}
      />
      <text x={x((report + tip) / 2)} y="59" textAnchor="middle" className={styles.toHost}>
        report
      </text>
      <circle cx={x(0)} cy={lanes.panel} r="4.5" fill="var(--panel)" />
      <text x={x(0)} y="14" textAnchor="middle" className={styles.bold}>
        press
      </text>
      {link.confirm && <Done x={x} times={times} />}
      {[0, report, ...(link.confirm ? [answered, settled] : [])].map((ms, i) => (
        <text key={i} x={x(ms)} y="101" textAnchor="middle" className={styles.tick}>
          {ms === 0 ? '0 ms' : ms.toFixed(1)}
        </text>
      ))}
      {link.confirm && <NoDone times={times} tries={link.tries} />}
    </svg>
  )
}

/** The host works, answers, and the report is settled. */
function Done({ x, times }: { x: Scale; times: LadderTimes }) {
  const { report, answered, settled } = times
  const tip = slantOf(times)
  return (
    <>
      <text x={x((report + tip + answered) / 2)} y="59" textAnchor="middle" className={styles.bitName}>
        host processing
      </text>
      <path
        d={`M${x(answered)} ${lanes.host}L${x(answered + tip)} ${lanes.panel}H${x(settled)}L${x(settled - tip)} ${lanes.host}Z`}
        className={styles.done}
      />
      <text x={x((answered + settled) / 2)} y="59" textAnchor="middle" className={styles.toPanel}>
        ACK
      </text>
      <circle cx={x(settled)} cy={lanes.panel} r="4.5" fill="var(--sheet)" stroke="var(--host)" strokeWidth="2" />
      <text x={x(settled)} y="14" textAnchor="middle" className={styles.okText}>
        ✓ confirmed
      </text>
    </>
  )
}

/** No done comes: each try, and the end of them. */
function NoDone({ times, tries }: { times: LadderTimes; tries: number }) {
  const late = scaleLinear([0, times.givesUp], [404, 580])
  return (
    <>
      <path
        d={`M386 ${lanes.panel - 6}l-6 12M392 ${lanes.panel - 6}l-6 12M386 ${lanes.host - 6}l-6 12M392 ${lanes.host - 6}l-6 12`}
        stroke="#9aa0ad"
        fill="none"
      />
      <line x1="396" x2="590" y1={lanes.panel} y2={lanes.panel} stroke="var(--ink)" />
      <line x1="396" x2="590" y1={lanes.host} y2={lanes.host} stroke="var(--ink)" />
      <text x="396" y="14" className={styles.bitName}>
        no ACK:
      </text>
      {times.tries.map((ms, i) => (
        <g key={ms}>
          <path
            d={`M${late(ms)} ${lanes.panel}L${late(ms) + 4} ${lanes.host - 12}m-4 -1l8 8m0 -8l-8 8`}
            stroke={i ? 'var(--panel)' : '#b98aa3'}
            strokeWidth="2"
            fill="none"
          />
          {toldTry(times, i) && (
            <text x={late(ms)} y="14" textAnchor="middle" className={styles.toHost}>
              retry {i === times.tries.length - 1 ? tries - 1 : i}
            </text>
          )}
          <text x={late(ms)} y="101" textAnchor="middle" className={styles.tick}>
            {toldTry(times, i) ? Math.round(ms) : ''}
          </text>
        </g>
      ))}
      <line
        x1={late(times.givesUp)}
        x2={late(times.givesUp)}
        y1={lanes.panel - 10}
        y2={lanes.host}
        stroke="var(--bad)"
        strokeWidth="2"
      />
      <text x={late(times.givesUp)} y="115" textAnchor="end" className={styles.badText}>
        fails after {Math.round(times.givesUp)} ms
      </text>
    </>
  )
}

/** The times of the link as numbers. */
function LadderNumbers({ link, set }: { link: LinkSettings; set: (values: Partial<LinkSettings>) => void }) {
  return (
    <div className={styles.choices}>
      {link.confirm && (
        <>
          <span className="small">ACK timeout</span>
          <span className={styles.short}>
            <DescribedNumber
              field={linkSettings.fields.confirmTimeoutMs}
              value={link.confirmTimeoutMs}
              onCommit={(confirmTimeoutMs) => set({ confirmTimeoutMs })}
            />
          </span>
          <span className={styles.tiny}>
            <DescribedNumber field={linkSettings.fields.tries} value={link.tries} onCommit={(tries) => set({ tries })} />
          </span>
          <span className="small">attempts</span>
        </>
      )}
      <span className="small">response</span>
      <span className={styles.short}>
        <DescribedNumber
          field={linkSettings.fields.latencyMs}
          value={link.latencyMs}
          onCommit={(latencyMs) => set({ latencyMs })}
        />
      </span>
      <span className="small">host timeout</span>
      <span className={styles.short}>
        <DescribedNumber field={linkSettings.fields.aliveMs} value={link.aliveMs} onCommit={(aliveMs) => set({ aliveMs })} />
      </span>
    </div>
  )
}
