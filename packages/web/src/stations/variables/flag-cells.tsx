import type { Variable } from '@moth-lamp/core/project'
import type { FlagsHolds } from '@moth-lamp/core/variables'
import { TextField } from '../../controls/fields.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import styles from './memory.module.css'

/** A flags word unfolded into its sixteen bits, the highest first: each with its name, lit where it is set now. */
export function FlagCells({ variable }: { variable: Variable }) {
  const session = useSession()
  const now = useStore(session.live, (l) => Number(l.values[variable.id]?.value ?? variable.initial))
  const holds = variable.holds as FlagsHolds
  const name = (bit: number, words: string) => {
    const names = Array.from({ length: Math.max(bit + 1, holds.names.length) }, (_, i) => holds.names[i] ?? '')
    names[bit] = words.trim().replaceAll(/\s+/g, '_').slice(0, 30)
    session.edit('set variable', { id: variable.id, values: { holds: { ...holds, names } } })
  }
  return (
    <div className={`${styles.row} ${styles.bits}`} role="group" aria-label={`Bits of ${variable.name}`}>
      {Array.from({ length: 16 }, (_, i) => 15 - i).map((bit) => (
        <div
          key={bit}
          className={`${styles.bit} ${holds.names[bit] ? styles.named : ''}`}
          title={holds.names[bit] ? `bit ${bit}: ${holds.names[bit]}` : undefined}
        >
          <span className={styles.bitHead}>
            {bit}
            <i className={now & (1 << bit) ? styles.lit : ''} title={now & (1 << bit) ? 'set now' : 'clear now'} />
          </span>
          <TextField label={`Name of bit ${bit}`} value={holds.names[bit] ?? ''} onCommit={(words) => name(bit, words)} />
        </div>
      ))}
    </div>
  )
}
