import { ActionIcon, UnstyledButton } from '@mantine/core'
import { X } from 'lucide-react'
import { hexByte } from '@moth-lamp/core/base'
import type { JudgedLog, JudgedStep, Verdict } from '@moth-lamp/core/exchanges'
import type { Project } from '@moth-lamp/core/project'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { stepWords, type Exchange } from '@moth-lamp/core/scripts'
import { Bytes } from '../../../parts/frame.tsx'
import { useProtocol } from '../../../parts/protocol.ts'
import styles from './explain.module.css'

interface Props {
  project: Project
  exchange: Exchange
  /** Null: not judged yet. */
  judged: JudgedLog | null
  onRow(row: number): void
  onClose(): void
}

const marks: Readonly<Record<Verdict, string>> = {
  found: '✓',
  late: '◷',
  different: '≠',
  missing: '✕',
  'by hand': '☞',
  'not on the wire': '·',
}

/** The steps of an exchange as they stand in a log of the real module. */
export function Judged({ project, exchange, judged, onRow, onClose }: Props) {
  return (
    <section className={styles.judged} aria-label={`${exchange.name} in the log`}>
      <header>
        <strong>{exchange.name}</strong>{' '}
        {judged ? (
          <span className={judged.passed ? 'ok' : 'bad'} role="status">
            {judged.passed ? '✓ all of it is in the log' : '✕ not as in the exchange'}
          </span>
        ) : (
          <span className="muted small" role="status">
            judged when the log is read …
          </span>
        )}
        <ActionIcon className="end" variant="subtle" size={20} aria-label="Close the judgement" onClick={onClose}>
          <X size={13} />
        </ActionIcon>
      </header>
      <ol className={styles.steps}>
        {judged?.steps.map((step) => (
          <Step key={step.id} project={project} exchange={exchange} step={step} onRow={onRow} />
        ))}
      </ol>
      {judged?.unexpected.map(({ row, line }) => (
        <UnstyledButton key={row} className={`${styles.step} bad small`} onClick={() => onRow(row)}>
          line {line}: a report or event that no step asks for
        </UnstyledButton>
      ))}
    </section>
  )
}

function Step({ project, exchange, step, onRow }: Pick<Props, 'project' | 'exchange' | 'onRow'> & { step: JudgedStep }) {
  const protocol = useProtocol()
  const { verdict, row, expected, came } = step
  const stored = exchange.steps[step.id]
  if (!stored) return null
  const direction = stored.kind.startsWith('host') ? 'to panel' : 'to host'
  const anatomy = (bytes: Uint8Array) => protocol?.dissect(direction, bytes) ?? null
  const isBad = verdict === 'late' || verdict === 'different' || verdict === 'missing'
  return (
    <li>
      <UnstyledButton className={styles.step} disabled={row === null} onClick={() => row !== null && onRow(row)}>
        <span className={isBad ? 'bad' : verdict === 'found' ? 'ok' : 'muted'} aria-hidden>
          {marks[verdict]}
        </span>
        <span>{stepWords(stored, (id) => nameOfId(project, id))}</span>
        <span className={`small ${isBad ? 'bad' : 'muted'}`}>{verdictWords(step)}</span>
      </UnstyledButton>
      {verdict === 'different' && came && (
        <p className="small">
          came <Bytes bytes={came} most={40} anatomy={anatomy(came)} differsFrom={expected} />
          {expected && (
            <>
              {' '}
              expected <Bytes bytes={expected} most={40} anatomy={anatomy(expected)} />
            </>
          )}
        </p>
      )}
      {verdict === 'missing' && expected && (
        <p className="small">
          expected <Bytes bytes={expected} most={40} anatomy={anatomy(expected)} />
        </p>
      )}
    </li>
  )
}

function verdictWords({ verdict, line, timeMs, lateMs, differsAt, expected, came, isUntimed }: JudgedStep): string {
  const at = line === null ? '' : `line ${line}${timeMs === null ? '' : `, ${(timeMs / 1000).toFixed(3)} s`}`
  switch (verdict) {
    case 'found':
      return at + (isUntimed ? '; its time cannot be judged' : '')
    case 'late':
      return `${at}: ${lateMs} ms too late`
    case 'different': {
      const [is, was] = [came?.[differsAt], expected?.[differsAt]]
      if (was === undefined || is === undefined) return `${at}: other bytes`
      return `${at}: byte ${differsAt + 1} is ${hexByte(is)}, expected ${hexByte(was)}`
    }
    case 'missing':
      return 'no such frame'
    default:
      return verdict
  }
}
