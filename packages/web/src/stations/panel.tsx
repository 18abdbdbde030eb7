import { Button, Table } from '@mantine/core'
import type { NamedField } from '@moth-lamp/core/describe'
import { bitsPerByte, linkInWords, linkSettings } from '@moth-lamp/core/frames'
import { memoryPlanOf, ownWordsOf, panelSettings, pixelsPerMm } from '@moth-lamp/core/project'
import { formatAddress, wordsOf } from '@moth-lamp/core/variables'
import { SettingRow } from '../inspector/setting-fields.tsx'
import { TextField } from '../controls/fields.tsx'
import { FindingBar } from '../parts/finding-bar.tsx'
import { PanelProfiles } from './panel-profiles.tsx'
import { useProject, useSession } from '../shell/context.tsx'

function ProjectNameField() {
  const session = useSession()
  const name = useProject().name
  return (
    <TextField
      label="Project name"
      value={name}
      isName
      check={(t) => (t.trim() ? null : 'A project has a name.')}
      onCommit={(value) => session.edit('set project', { values: { name: value } })}
    />
  )
}

/** Every setting of a record by its description, under the headings of its groups. */
function Described({
  list,
  values,
  set,
}: {
  list: readonly NamedField<never>[]
  values: Record<string, unknown>
  set(values: Record<string, unknown>): void
}) {
  return [...new Set(list.map((field) => field.group))].map((group) => (
    <div key={group}>
      <div className="group">{group}</div>
      {list
        .filter((field) => field.group === group)
        .map((field) => (
          <SettingRow
            key={field.key}
            setting={field}
            value={values[field.key]}
            mixed={false}
            nameHint=""
            beside={values}
            onChange={(value) => set({ [field.key]: value })}
          />
        ))}
    </div>
  ))
}

/** The module, the line to its host, and what follows from both. */
export function PanelStation() {
  const session = useSession()
  const project = useProject()
  const { panel, link } = project
  return (
    <div className="pad panel-columns">
      <section className="card" aria-label="Panel">
        <header>
          <h2>The panel</h2>
          <span className="end muted">
            {panel.width} × {panel.height} px · {panel.diagonalInches}″ · {pixelsPerMm(panel).toFixed(2)} px/mm
          </span>
          <PanelProfiles />
        </header>
        <div className="body">
          <div className="setting">
            <label>Project</label>
            <ProjectNameField />
          </div>
          <Described list={panelSettings.list} values={panel} set={(values) => session.edit('set panel', { values })} />
          <div className="row">
            <Button onClick={() => session.edit('set panel', { values: { width: panel.height, height: panel.width } })}>
              Turn it by 90°
            </Button>
          </div>
        </div>
      </section>
      <section className="card" aria-label="Link">
        <header>
          <h2>The line to the host</h2>
          <span className="end muted">
            {linkInWords(link)} · a byte takes {((bitsPerByte(link) * 1_000_000) / link.baud).toFixed(0)} µs
          </span>
        </header>
        <div className="body">
          <Described list={linkSettings.list} values={link} set={(values) => session.edit('set link', { values })} />
        </div>
      </section>
      <section className="card whole-row" aria-label="Own words">
        <header>
          <h2>The panel’s own words</h2>
          <span className="end muted">
            {memoryPlanOf(panel).to - memoryPlanOf(panel).from} words for variables ·{' '}
            {((panel.width * panel.height * 2) / 1024).toFixed(0)} KiB a full picture
          </span>
        </header>
        <div className="body">
          <Table>
            <Table.Thead>
              <Table.Tr>
                <Table.Th>The panel’s own word</Table.Th>
                <Table.Th>Address</Table.Th>
                <Table.Th>Holds</Table.Th>
                <Table.Th>The host may</Table.Th>
                <Table.Th>Meaning</Table.Th>
              </Table.Tr>
            </Table.Thead>
            <Table.Tbody>
              {ownWordsOf(panel).map((w) => (
                <Table.Tr key={w.id}>
                  <Table.Td>{w.name}</Table.Td>
                  <Table.Td className="mono">{formatAddress(panel.ownFrom + w.offset)}</Table.Td>
                  <Table.Td>
                    {w.holds.type}
                    {wordsOf(w.holds) > 1 ? `, ${wordsOf(w.holds)} words` : ''}
                  </Table.Td>
                  <Table.Td>{w.writable ? 'read and write' : 'read'}</Table.Td>
                  <Table.Td className="muted">{w.meaning}</Table.Td>
                </Table.Tr>
              ))}
            </Table.Tbody>
          </Table>
        </div>
      </section>
      <div className="whole-row">
        <FindingBar station="Panel" />
      </div>
    </div>
  )
}
