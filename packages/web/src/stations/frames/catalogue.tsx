import { NothingYet } from '../../parts/nothing-yet.tsx'
import { operationTexts } from '@moth-lamp/core/frames'
import { Table, UnstyledButton } from '@mantine/core'
import { useMemo, useState } from 'react'
import { catalogue, type FrameExample } from '@moth-lamp/core/explain'
import type { Project } from '@moth-lamp/core/project'
import { formatAddress } from '@moth-lamp/core/variables'
import { FindField } from '../../controls/find-field.tsx'
import { Bytes, CopyFrame } from '../../parts/frame.tsx'
import { TableRows } from '../../parts/table-rows.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { NewCommand } from './new-command.tsx'
import styles from './frames.module.css'
import station from '../../parts/station.module.css'

/** All frames of one variable or widget. */
interface Row {
  id: string
  name: string
  toPanel: FrameExample[]
  toHost: FrameExample[]
}

/** The frames that a row is about; those which only answer or ask are shown when it is picked. */
const first = ['write', 'report', 'event', 'message']

function rowsOf(project: Project, frames: readonly FrameExample[]): Row[] {
  const rows = new Map<string, Row>()
  // A command that cannot be said yet is listed too, so that it can be opened; commands come first.
  for (const id of project.commandOrder) rows.set(id, { id, name: project.commands[id]!.name, toPanel: [], toHost: [] })
  for (const frame of frames) {
    const row = rows.get(frame.id) ?? { id: frame.id, name: frame.name, toPanel: [], toHost: [] }
    rows.set(frame.id, row)
    ;(frame.direction === 'to panel' ? row.toPanel : row.toHost).push(frame)
  }
  return [...rows.values()]
}

/** Every frame of the project: one row a variable or event, both directions beside each other. */
export function CatalogueCard({ project, picked }: { project: Project; picked: string }) {
  const session = useSession()
  const [find, setFind] = useState('')
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null)
  const rows = useMemo(() => rowsOf(project, catalogue(project)), [project])
  const shown = rows.filter((r) => r.name.toLowerCase().includes(find.toLowerCase()))
  const frames = rows.reduce((sum, r) => sum + r.toPanel.length + r.toHost.length, 0)
  const pick = (id: string) =>
    session.view.set(
      id in project.commands
        ? { command: id }
        : id in project.variables
          ? { command: null, variable: id, widgets: [] }
          : { command: null, variable: null, widgets: [id] },
    )
  return (
    <section className={station.card} aria-label="Catalogue">
      <header>
        <h2>Catalogue</h2>
        <FindField label="Find a frame" value={find} onChange={setFind} width={160} />
        <span className="end muted small">
          {frames} frames, {rows.length} variables, events and commands
        </span>
        <NewCommand project={project} />
      </header>
      <div className={station.body} ref={setScroller}>
        {shown.length ? (
          <Table className={styles.catalogue}>
            <Table.Thead>
              <Table.Tr>
                <Table.Th w="20%">Name</Table.Th>
                <Table.Th w={70}>Address</Table.Th>
                <Table.Th className="to-panel">host → panel</Table.Th>
                <Table.Th className="to-host">panel → host</Table.Th>
              </Table.Tr>
            </Table.Thead>
            <TableRows
              items={shown}
              columns={4}
              height={33}
              scroller={scroller}
              row={(r) => (
                <CatalogueRow key={r.id} project={project} row={r} picked={r.id === picked} onPick={() => pick(r.id)} />
              )}
            />
          </Table>
        ) : (
          <>
            {rows.length > 0 ? (
              <p className={station.empty}>No match.</p>
            ) : (
              <NothingYet label="Add a variable" to="variables">
                No frames yet. They are generated from variables.
              </NothingYet>
            )}
          </>
        )}
      </div>
    </section>
  )
}

function CatalogueRow({ project, row, picked, onPick }: { project: Project; row: Row; picked: boolean; onPick(): void }) {
  const addresses = useStore(useSession().view, (v) => v.addresses)
  const variable = project.variables[row.id as keyof typeof project.variables]
  return (
    <Table.Tr className={picked ? 'picked' : ''} onClick={onPick}>
      <Table.Td className="cut" maw={1}>
        <UnstyledButton aria-pressed={picked} onClick={onPick}>
          <strong>{row.name}</strong>
        </UnstyledButton>
      </Table.Td>
      <Table.Td className="mono">
        {variable ? formatAddress(variable.address, addresses) : row.id in project.commands ? 'command' : 'event'}
      </Table.Td>
      <Table.Td>
        <Frames frames={row.toPanel} picked={picked} none={variable ? 'panel → host only' : ''} />
      </Table.Td>
      <Table.Td>
        <Frames frames={row.toHost} picked={picked} none="" />
      </Table.Td>
    </Table.Tr>
  )
}

/** The frame that matters most; of a picked row all, each with its copying. */
function Frames({ frames, picked, none }: { frames: readonly FrameExample[]; picked: boolean; none: string }) {
  const main = frames.filter((f) => first.includes(f.operation))
  const shown = picked ? frames : main.slice(0, 1)
  if (!shown.length) return <span className="muted small">{frames.length ? 'only on request' : none}</span>
  return (
    <div className={styles.frames}>
      {shown.map((f) => (
        <div key={f.key} className={styles.frame}>
          {picked && <span className="small muted">{operationTexts[f.operation]}</span>}
          <Bytes bytes={f.bytes} most={14} anatomy={f.anatomy} />
          <span className="small cut">{f.value}</span>
          {picked && (
            <span className="end">
              <CopyFrame bytes={f.bytes} call={f.call} isText={f.anatomy.isText === true} />
            </span>
          )}
        </div>
      ))}
    </div>
  )
}
