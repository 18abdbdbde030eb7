import { Table } from '@mantine/core'
import { CircleDashed, Clock } from 'lucide-react'
import { memo, useState } from 'react'
import type { Project, Variable } from '@moth-lamp/core/project'
import {
  formatAddress,
  formatValue,
  retyped,
  holdsTypes,
  parseAddress,
  travelKinds,
  travelWords,
  type HoldsType,
  type Travels,
} from '@moth-lamp/core/variables'
import { Choice } from '../../controls/choice.tsx'
import { TextField } from '../../controls/fields.tsx'
import { GlassCrop } from '../../glass/glass-crop.tsx'
import { usersOnGlass, usersOffGlass } from '../../parts/lookups.ts'
import { ScaleButton } from '../../parts/holds-fields.tsx'
import { nameProblem } from '../../parts/names.ts'
import { TableRows } from '../../parts/table-rows.tsx'
import { TravelsArrow } from '../../parts/travels-arrow.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import styles from './variables.module.css'
import station from '../../parts/station.module.css'

/** One row a variable: its settings in place, its value now, and what shows it as crops of the glass. */
export function Register({ project, shown, picked }: { project: Project; shown: Variable[]; picked: string | null }) {
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null)
  return (
    <div className={station.body} ref={setScroller}>
      <Table className={styles.register}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th w="22%">Name</Table.Th>
            <Table.Th w={80}>Data type</Table.Th>
            <Table.Th>Range</Table.Th>
            <Table.Th w={76}>Address</Table.Th>
            <Table.Th w={62} className={styles.ends}>
              <span>host</span> <span>panel</span>
            </Table.Th>
            <Table.Th w={92}>Value</Table.Th>
            <Table.Th w={224}>On the glass</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <TableRows
          items={shown}
          columns={7}
          height={33}
          scroller={scroller}
          row={(v) => <VariableRow key={v.id} project={project} variable={v} picked={v.id === picked} />}
        />
      </Table>
    </div>
  )
}

interface RowProps {
  project: Project
  variable: Variable
  picked: boolean
}

/** Drawn again only when it is another: scrolling passes hundreds of them. */
const VariableRow = memo(function VariableRow({ project, variable: v, picked }: RowProps) {
  const session = useSession()
  const addresses = useStore(session.view, (s) => s.addresses)
  const now = useStore(session.live, (l) => l.values[v.id])
  const set = (values: Partial<Variable>) => session.edit('set variable', { id: v.id, values })
  const pick = () => session.view.set({ variable: v.id, widgets: [] })
  const value = now ? formatValue(v.holds, now.value) : ''
  // A variable never written shows its initial value here, whatever the glass shows.
  const age = !now ? null : !now.written ? 'start' : now.stale ? 'stale' : null
  const told = [now && !now.inRange ? 'out of range' : '', age && ageWords[age]].filter(Boolean)
  return (
    <Table.Tr className={picked ? 'picked' : ''} onFocus={pick} onClick={pick}>
      <Table.Td className={styles.name} title={v.meaning || v.name}>
        <TextField label={`Name of ${v.name}`} value={v.name} isName check={nameProblem} onCommit={(name) => set({ name })} />
      </Table.Td>
      <Table.Td>
        <Choice
          label={`Data type of ${v.name}`}
          value={v.holds.type}
          options={holdsTypes}
          onChange={(type) => set({ holds: retyped(v.holds, type as HoldsType) })}
        />
      </Table.Td>
      <Table.Td className="cut" maw={1}>
        <ScaleButton variable={v} onChange={(holds) => set({ holds })} />
      </Table.Td>
      <Table.Td>
        <TextField
          mono
          label={`Address of ${v.name}`}
          value={formatAddress(v.address, addresses)}
          check={(t) => (parseAddress(t) === null ? 'Not an address.' : null)}
          onCommit={(t) => set({ address: parseAddress(t)! })}
        />
      </Table.Td>
      <Table.Td>
        <Choice
          label={`Direction of ${v.name}`}
          value={v.travels}
          options={travelKinds.map((t) => ({ value: t, label: travelWords[t] }))}
          picture={<TravelsArrow travels={v.travels} />}
          onChange={(travels) => set({ travels: travels as Travels })}
        />
      </Table.Td>
      <Table.Td className={`mono cut ${now && !now.inRange ? 'bad' : ''}`} maw={92} title={[value, ...told].join(', ')}>
        {age && <AgeMark age={age} />}
        {value}
        {now && !now.inRange && <span className="small"> out of range</span>}
      </Table.Td>
      <Table.Td className={styles.crops}>
        <Users project={project} variable={v.id} />
      </Table.Td>
    </Table.Tr>
  )
})

const ageWords = { start: 'initial value (not written since power-on)', stale: 'stale' }

/** A ring that is not closed: nobody has written it; a clock: it has been too long ago. */
function AgeMark({ age }: { age: 'start' | 'stale' }) {
  const Mark = age === 'start' ? CircleDashed : Clock
  return <Mark className={styles.age} size={11} role="img" aria-label={ageWords[age]} />
}

/** As many users as there is room for, as they look on the glass; the others are counted. */
function Users({ project, variable }: { project: Project; variable: string }) {
  const widgets = usersOnGlass(project, variable)
  const others = usersOffGlass(project, variable)
  const shown = widgets.slice(0, widgets.length > 3 ? 2 : 3)
  const more = widgets.length - shown.length
  const words = [more ? `+ ${more}` : '', shown.length ? '' : others.slice(0, 2).join(', ')].filter(Boolean).join(' ')
  return (
    <div className={styles.users} title={[...widgets.map((w) => w.name), ...others].join(', ')}>
      {shown.map((w) => (
        <GlassCrop key={w.id} project={project} widgets={[w]} height={24} width={78} />
      ))}
      <span className="muted small cut">{words}</span>
    </div>
  )
}
