import { UnstyledButton } from '@mantine/core'
import { useNavigate } from 'react-router'
import { memoryPlanOf, systemVariablesOf, type PanelProfile, type Project } from '@moth-lamp/core/project'
import { formatAddress, formatValue, parseAddress, wordsOf, type Travels } from '@moth-lamp/core/variables'
import { TextField } from '../../controls/fields.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import station from '../../parts/station.module.css'
import styles from './panel.module.css'

const tint: Record<Travels, string> = {
  'host to panel': styles.blockToPanel!,
  'panel to host': styles.blockToHost!,
  both: styles.blockBoth!,
  stays: styles.blockStays!,
}
/** Variables that stand closer than this are one stretch; what is free beyond is folded away. */
const near = 9

/** Memory from end to end, what is free folded: where variables may stand, where they do, and the panel's own words with their values. */
export function MemoryBar({ project }: { project: Project }) {
  const session = useSession()
  const navigate = useNavigate()
  const { panel } = project
  const addresses = useStore(session.view, (v) => v.addresses)
  const values = useStore(session.live, (l) => l.own)
  const set = (change: Partial<PanelProfile>) => session.edit('set panel', { values: change })
  const plan = memoryPlanOf(panel)
  const list = Object.values(project.variables).sort((a, b) => a.address - b.address)
  const stretches: (typeof list)[] = []
  for (const v of list) {
    const last = stretches.at(-1)?.at(-1)
    if (last && v.address - last.address < near) stretches.at(-1)!.push(v)
    else stretches.push([v])
  }
  const used = list.reduce((sum, v) => sum + wordsOf(v.holds), 0)
  const field = (label: string, value: number, key: 'memoryFrom' | 'memoryTo' | 'ownFrom', add: number) => (
    <span className={styles.short}>
      <TextField
        mono
        label={label}
        value={formatAddress(value, addresses)}
        check={(t) => (parseAddress(t) === null ? 'Not an address.' : null)}
        onCommit={(t) => set({ [key]: parseAddress(t)! + add })}
      />
    </span>
  )
  return (
    <>
      <header>
        <h2>Memory</h2>
        <span className="small muted">words of 16 bits</span>
        <span className={`${styles.inline} end`}>
          Variables: {field('Variable memory: first word', plan.from, 'memoryFrom', 0)} to{' '}
          {field('Variable memory: last word', plan.to - 1, 'memoryTo', 1)} · <strong>{used}</strong> of {plan.to - plan.from}{' '}
          words used
        </span>
        <span className={styles.inline}>
          · System variables from {field('System variables from', panel.ownFrom, 'ownFrom', 0)}
        </span>
      </header>
      <div className={`${station.body} ${styles.bar}`}>
        {stretches.map((of, i) => {
          const first = of[0]!.address
          const gap = i
            ? first - (stretches[i - 1]!.at(-1)!.address + wordsOf(stretches[i - 1]!.at(-1)!.holds))
            : first - plan.from
          return [
            gap > 0 && <Fold key={`gap ${first}`} words={gap} />,
            <UnstyledButton
              key={first}
              className={styles.stretch}
              title={of.map((v) => `${formatAddress(v.address)} ${v.name}`).join('\n')}
              onClick={() => {
                session.view.set({ variable: of[0]!.id, widgets: [] })
                void navigate(`/project/${session.id}/variables`)
              }}
            >
              <span className={styles.words}>
                {of.map((v) => (
                  <i key={v.id} className={tint[v.travels]} style={{ width: Math.min(60, 5 + wordsOf(v.holds) * 5) }} />
                ))}
              </span>
              <span className="small cut">{of.length === 1 ? of[0]!.name : `${of[0]!.name} …`}</span>
              <span className="mono small muted">{formatAddress(first, addresses).replace('0x', '')}</span>
            </UnstyledButton>,
          ]
        })}
        <Fold
          words={Math.max(0, plan.to - ((list.at(-1)?.address ?? plan.from) + (list.length ? wordsOf(list.at(-1)!.holds) : 0)))}
        />
        <i className={styles.end} title="last word available to variables" />
        <span className={styles.owns}>
          {systemVariablesOf(panel).map((w) => (
            <span
              key={w.id}
              className={styles.own}
              title={`${w.meaning}; a host may ${w.writable ? 'read and write it' : 'read it'}`}
            >
              <span className={`${styles.ownValue} mono`}>
                {values[w.id] === undefined ? '' : formatValue(w.holds, values[w.id]!)}
              </span>
              <span className="small">{w.name}</span>
              <span className="small">
                <span className="mono muted">{formatAddress(panel.ownFrom + w.offset, addresses).replace('0x', '')}</span>{' '}
                <span className={w.writable ? 'to-panel' : 'to-host'}>{w.writable ? 'write' : 'read'}</span>
              </span>
            </span>
          ))}
        </span>
      </div>
    </>
  )
}

function Fold({ words }: { words: number }) {
  return words ? (
    <span className={styles.fold} title={`${words} free words`}>
      <i />
      <span className="small muted">{words} free</span>
    </span>
  ) : null
}
