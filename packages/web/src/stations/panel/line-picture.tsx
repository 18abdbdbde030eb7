import { SegmentedControl, UnstyledButton } from '@mantine/core'
import { curveStepAfter, line } from 'd3-shape'
import { bitsPerByte, linkSettings, usualBaudRates, type LinkSettings } from '@moth-lamp/core/frames'
import { loadOf, shareAt } from '@moth-lamp/core/explain'
import type { Project } from '@moth-lamp/core/project'
import { hexByte } from '@moth-lamp/core/base'
import { DescribedNumber } from '../../parts/described-number.tsx'
import { useSession } from '../../session/context.tsx'
import styles from './panel.module.css'

/** The byte that is drawn: it has both levels in it more than once. */
const shownByte = 0x35
const width = 600

interface Bit {
  name: string
  level: 0 | 1
  kind: 'idle' | 'start' | 'data' | 'parity' | 'stop'
}

/** A byte as the line carries it: start low, eight bits the lowest first, parity where there is one, stop high. */
function bitsOf(byte: number, { parity, stopBits }: LinkSettings): Bit[] {
  const data = Array.from({ length: 8 }, (_, i): Bit => ({ name: String(i), level: ((byte >> i) & 1) as 0 | 1, kind: 'data' }))
  const ones = data.filter((b) => b.level).length
  const even = (ones % 2) as 0 | 1
  return [
    { name: 'idle', level: 1, kind: 'idle' },
    { name: 'start', level: 0, kind: 'start' },
    ...data,
    ...(parity === 'none'
      ? []
      : [{ name: parity, level: parity === 'even' ? even : ((1 - even) as 0 | 1), kind: 'parity' as const }]),
    ...Array.from({ length: stopBits }, (): Bit => ({ name: 'stop', level: 1, kind: 'stop' })),
    { name: 'idle', level: 1, kind: 'idle' },
  ]
}

const time = (us: number): string =>
  us >= 1000 ? `${(us / 1000).toFixed(2)} ms` : `${us < 100 ? us.toFixed(1) : Math.round(us)} µs`

/** One byte on the line with its times, and the speeds there are with how full this project would make each. */
export function LinePicture({ project }: { project: Project }) {
  const session = useSession()
  const { link } = project
  const set = (values: Partial<LinkSettings>) => session.edit('set link', { values })
  const bits = bitsOf(shownByte, link)
  const each = width / bits.length
  const y = (level: number) => (level ? 10 : 48)
  const path = line<[number, number]>()
    .x((p) => p[0])
    .y((p) => p[1])
    .curve(curveStepAfter)([...bits.map((b, i): [number, number] => [i * each, y(b.level)]), [width, y(1)]])
  const bitUs = 1e6 / link.baud
  const byteUs = bitUs * bitsPerByte(link)
  const load = loadOf(project)
  return (
    <div>
      <svg viewBox={`0 0 ${width} 96`} className={styles.wave} role="img" aria-label={`Waveform of byte 0x${hexByte(shownByte)}`}>
        {bits.map((b, i) =>
          b.kind === 'idle' ? null : <rect key={i} x={i * each} y="4" width={each - 1} height="52" className={styles[b.kind]} />,
        )}
        <path d={path ?? ''} fill="none" stroke="var(--ink)" strokeWidth="2" />
        {bits.map((b, i) => (
          <g key={i}>
            <text x={(i + 0.5) * each} y="70" textAnchor="middle" className={styles.bitName}>
              {b.name}
            </text>
            {b.kind !== 'idle' && (
              <text x={(i + 0.5) * each} y={b.level ? 26 : 40} textAnchor="middle" className={styles.bitLevel}>
                {b.level}
              </text>
            )}
          </g>
        ))}
        <path d={`M${2 * each} 80v8M${2 * each} 84H${3 * each}M${3 * each} 80v8`} stroke="var(--ink)" fill="none" />
        <text x={3 * each + 6} y="88" className={styles.bold}>
          {time(bitUs)}/bit
        </text>
        <text x={width - 4} y="88" textAnchor="end" className={styles.bold}>
          {time(byteUs)}/byte · {Math.round(link.baud / bitsPerByte(link))} bytes/s · example 0x{hexByte(shownByte)}, LSB first
        </text>
      </svg>
      <div className={styles.lineHead}>
        <span className="muted small">Line load of this project at each baud rate</span>
        <span className={styles.baud}>
          <DescribedNumber field={linkSettings.fields.baud} value={link.baud} onCommit={(baud) => set({ baud })} />
        </span>
      </div>
      <div className={styles.speeds} role="group" aria-label="Common baud rates">
        {usualBaudRates.map((baud) => {
          const share = shareAt(load, project, baud)
          return (
            <UnstyledButton
              key={baud}
              className={styles.baudStep}
              aria-pressed={baud === link.baud}
              onClick={() => set({ baud })}
            >
              <span className={share > 0.8 ? 'bad' : 'muted'}>{share >= 9.995 ? '>999' : shareWords(share)} %</span>
              <i style={{ height: Math.max(1.5, Math.min(1, share) * 34) }} className={share > 0.8 ? styles.full : ''} />
              <b />
              <span>{baudWords(baud)}</span>
            </UnstyledButton>
          )
        })}
      </div>
      <div className={styles.choices}>
        <span className="small muted">Parity</span>
        <SegmentedControl
          aria-label="Parity"
          value={link.parity}
          data={['none', 'even', 'odd']}
          onChange={(parity) => set({ parity: parity as LinkSettings['parity'] })}
        />
        <span className="small muted">Stop bits</span>
        <SegmentedControl
          aria-label="Stop bits"
          value={String(link.stopBits)}
          data={['1', '2']}
          onChange={(n) => set({ stopBits: Number(n) as 1 | 2 })}
        />
        <span className="small muted">Panel acknowledges writes</span>
        <SegmentedControl
          aria-label="Panel acknowledges writes"
          value={link.answers}
          data={[
            { value: 'never', label: 'never' },
            { value: 'on refusal', label: 'errors only' },
            { value: 'always', label: 'always' },
          ]}
          onChange={(answers) => set({ answers: answers as LinkSettings['answers'] })}
        />
      </div>
    </div>
  )
}

const shareWords = (share: number): string => (share >= 0.01 ? String(Math.round(share * 100)) : (share * 100).toFixed(1))
const baudWords = (baud: number): string => (baud >= 10_000 ? `${Math.round(baud / 100) / 10} k` : String(baud))
