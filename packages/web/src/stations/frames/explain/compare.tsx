import { ActionIcon } from '@mantine/core'
import { X } from 'lucide-react'
import { differencesOf, type LogPart } from '@moth-lamp/core/explain'
import { Bytes } from '../../../parts/frame.tsx'
import { CauseLine } from './log-table.tsx'
import styles from './explain.module.css'

/** The frame that is picked with all that may be behind it; with a second one beside it, the parts in which they differ. */
export function Picked({ picked, other, onClose }: { picked: LogPart; other: LogPart | null; onClose(): void }) {
  return (
    <section className={styles.picked} aria-label={other ? 'Two frames compared' : 'Selected frame'}>
      <Frame part={picked} differsFrom={other?.bytes ?? null} />
      {other && <Frame part={other} differsFrom={picked.bytes} />}
      {other && <Differences one={picked} other={other} />}
      {!other && picked.causes.length > 1 && (
        <ul className={styles.causes} aria-label="Other causes">
          {picked.causes.slice(1).map((cause) => (
            <li key={cause.code + cause.says}>
              <CauseLine says={cause.says} sure={cause.sure} />
            </li>
          ))}
        </ul>
      )}
      {!other && picked.causes.length < 2 && <p className="muted small">Shift+click another frame to compare the two.</p>}
      <ActionIcon className={styles.close!} variant="subtle" size={20} aria-label="Close the comparison" onClick={onClose}>
        <X size={13} />
      </ActionIcon>
    </section>
  )
}

function Frame({ part, differsFrom }: { part: LogPart; differsFrom: Uint8Array | null }) {
  return (
    <p>
      <span className="mono small muted">line {part.line}</span>{' '}
      <Bytes
        bytes={part.bytes}
        most={120}
        anatomy={part.anatomy}
        differsFrom={differsFrom}
        marks={differsFrom ? [] : part.marks}
      />{' '}
      <strong className={part.good ? '' : 'bad'}>{part.says}</strong>{' '}
      {part.causes[0] && <CauseLine says={part.causes[0].says} sure={part.causes[0].sure} />}
    </p>
  )
}

function Differences({ one, other }: { one: LogPart; other: LogPart }) {
  const all = differencesOf(one.anatomy, other.anatomy)
  if (!all.length) return <p className="ok small">Both have the same bytes.</p>
  return (
    <dl className={styles.differences}>
      {all.map(({ label, one: first, other: second }, k) => (
        <div key={k}>
          <dt>{label}</dt>
          <dd className="mono">
            {first || '–'} <span className="muted">≠</span> {second || '–'}
          </dd>
        </div>
      ))}
    </dl>
  )
}
