import { FindField } from '../controls/find-field.tsx'
import { Box, Table, UnstyledButton } from '@mantine/core'
import { useMemo, useState } from 'react'
import { fromHex } from '@moth-lamp/core/base'
import { bookOf } from '@moth-lamp/core/compile'
import { catalogue, explainBytes, type FrameExample } from '@moth-lamp/core/explain'
import type { Direction } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { SignalPathColumn } from '../inspector/signal-path.tsx'
import { Choice } from '../controls/choice.tsx'
import { FindingBar } from '../parts/finding-bar.tsx'
import { HexField } from '../controls/hex-field.tsx'
import { Bytes, CopyFrame } from '../parts/frame.tsx'
import { TableRows } from '../parts/table-rows.tsx'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../shell/context.tsx'
import { LayoutCard } from './layout-card.tsx'

/** The recipe of all frames, every frame of the project, and bytes explained. */
export function FramesStation() {
  const session = useSession()
  const project = useProject()
  const variable = useStore(session.view, (v) => v.variable)
  const widget = useStore(session.view, (v) => v.widgets[0])
  const first = project.variableOrder[0]
  const selection = variable
    ? ({ kind: 'variable', id: variable } as const)
    : widget && widget in project.widgets
      ? ({ kind: 'widget', id: widget } as const)
      : first
        ? ({ kind: 'variable', id: first } as const)
        : null
  return (
    <div className="two">
      <div className="pad frames-rows">
        <LayoutCard project={project} />
        <Catalogue project={project} />
        <ExplainCard project={project} />
        <FindingBar station="Frames" />
      </div>
      <aside className="column" aria-label="Selection">
        <SignalPathColumn project={project} selection={selection} />
      </aside>
    </div>
  )
}

function Catalogue({ project }: { project: Project }) {
  const session = useSession()
  const [way, setWay] = useState<'both' | Direction>('both')
  const [find, setFind] = useState('')
  const picked = useStore(session.view, (v) => v.variable ?? v.widgets[0])
  const all = useMemo(() => catalogue(project), [project])
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null)
  const shown = all.filter(
    (f) => (way === 'both' || f.direction === way) && `${f.operation} ${f.name}`.toLowerCase().includes(find.toLowerCase()),
  )
  return (
    <section className="card" aria-label="Catalogue">
      <header>
        <h2>Catalogue</h2>
        <Box component="span" w={130}>
          <Choice
            label="Direction"
            value={way}
            options={[
              { value: 'both', label: 'both ways' },
              { value: 'to panel', label: 'host → panel' },
              { value: 'to host', label: 'panel → host' },
            ]}
            onChange={(w) => setWay(w as typeof way)}
          />
        </Box>
        <FindField label="Find a frame" value={find} onChange={setFind} width={160} />
        <span className="end muted">{shown.length} frames</span>
      </header>
      <div className="body" ref={setScroller}>
        {shown.length ? (
          <Table>
            <Table.Thead>
              <Table.Tr>
                <Table.Th>Frame</Table.Th>
                <Table.Th>Example</Table.Th>
                <Table.Th>Bytes</Table.Th>
                <Table.Th>On the line</Table.Th>
                <Table.Th>Value</Table.Th>
                <Table.Td />
              </Table.Tr>
            </Table.Thead>
            <TableRows
              items={shown}
              columns={6}
              height={33}
              scroller={scroller}
              row={(f) => (
                <FrameRow
                  key={f.key}
                  frame={f}
                  picked={f.id === picked}
                  onPick={() =>
                    session.view.set(
                      f.id.startsWith('variable') ? { variable: f.id, widgets: [] } : { variable: null, widgets: [f.id] },
                    )
                  }
                />
              )}
            />
          </Table>
        ) : (
          <p className="empty">
            {all.length ? 'No frame has that name.' : 'Frames come with variables: make one, or add a number to a page.'}
          </p>
        )}
      </div>
    </section>
  )
}

function FrameRow({ frame, picked, onPick }: { frame: FrameExample; picked: boolean; onPick(): void }) {
  const toPanel = frame.direction === 'to panel'
  return (
    <Table.Tr className={picked ? 'picked' : ''} onClick={onPick}>
      <Table.Td className={toPanel ? 'to-panel' : 'to-host'} style={{ whiteSpace: 'nowrap', paddingLeft: 8 }}>
        <UnstyledButton className="plain-text" aria-pressed={picked} onClick={onPick}>
          {toPanel ? '→' : '←'} {frame.operation} {frame.name}
        </UnstyledButton>
      </Table.Td>
      <Table.Td>
        <Bytes bytes={frame.bytes.length > 20 ? frame.bytes.slice(0, 20) : frame.bytes} anatomy={frame.anatomy} />
        {frame.bytes.length > 20 ? ' …' : ''}
      </Table.Td>
      <Table.Td className="mono">{frame.bytes.length}</Table.Td>
      <Table.Td className="mono">{(frame.lineUs / 1000).toFixed(1)} ms</Table.Td>
      <Table.Td className="cut" maw={120}>
        {frame.value}
      </Table.Td>
      <Table.Td>{picked && <CopyFrame bytes={frame.bytes} call={frame.call} />}</Table.Td>
    </Table.Tr>
  )
}

function ExplainCard({ project }: { project: Project }) {
  const [text, setText] = useState('')
  const [as, setAs] = useState<'' | Direction>('')
  const read = fromHex(text)
  const explained = read.ok ? explainBytes(project.layout, bookOf(project), read.value, as || undefined) : null
  return (
    <section className="card" aria-label="Explain bytes">
      <header>
        <h2>Explain bytes</h2>
        <span className="muted">paste hex: a frame, a log, whatever came</span>
        <Box component="span" className="end" w={190}>
          <Choice
            label="Read as"
            value={as}
            options={[
              {
                value: '',
                label: explained
                  ? `seen as ${explained.direction === 'to panel' ? 'host → panel' : 'panel → host'}`
                  : 'either direction',
              },
              { value: 'to panel', label: 'host → panel' },
              { value: 'to host', label: 'panel → host' },
            ]}
            onChange={(d) => setAs(d as typeof as)}
          />
        </Box>
      </header>
      <div className="body stack">
        <HexField label="Bytes to explain" rows={2} placeholder="7E 51 12 00 06 09 97 82 7E" value={text} onChange={setText} />
        <div className="stack" style={{ maxHeight: 150, overflow: 'auto' }} aria-live="polite">
          {explained?.parts.map((part) => (
            <div key={part.from} className="row" style={{ alignItems: 'flex-start' }}>
              <span style={{ flex: 'none', maxWidth: '60%' }}>
                <Bytes bytes={part.bytes.slice(0, 40)} anatomy={part.anatomy} />
              </span>
              <span>
                <strong className={part.good ? '' : 'bad'}>{part.says}</strong> <span className="muted">{part.hint}</span>
              </span>
            </div>
          ))}
        </div>
      </div>
    </section>
  )
}
