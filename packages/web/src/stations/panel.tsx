import { bitsPerByte, linkInWords, usualBaudRates, type LinkSettings } from '@moth-lamp/core/frames'
import { memoryPlanOf, pixelsPerMm, type PanelProfile } from '@moth-lamp/core/project'
import { formatAddress, ownWords, parseAddress, wordsOf } from '@moth-lamp/core/variables'
import type { ReactNode } from 'react'
import { Choice, NumberField, TextField, YesNo } from '../parts/fields.tsx'
import { FindingBar } from '../parts/finding-bar.tsx'
import { useProject, useSession } from '../shell/context.tsx'

function Row({ name, children, hint }: { name: string; children: ReactNode; hint?: string }) {
  return (
    <div className="setting" style={{ gridTemplateColumns: '150px 190px minmax(0, 1fr)' }}>
      <label>{name}</label>
      {children}
      <span className="small muted">{hint}</span>
    </div>
  )
}

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

/** The module, the line to its host, and what follows from both. */
export function PanelStation() {
  const session = useSession()
  const project = useProject()
  const { panel, link } = project
  const setPanel = (values: Partial<PanelProfile>) => session.edit('set panel', { values })
  const setLink = (values: Partial<LinkSettings>) => session.edit('set link', { values })
  const address = (value: number, label: string, set: (n: number) => boolean, most = 0xffff) => (
    <TextField
      mono
      label={label}
      value={formatAddress(value)}
      check={(t) => {
        const read = t.trim() === '0x10000' ? 0x10000 : parseAddress(t)
        return read === null || read > most ? 'An address such as 0x0010.' : null
      }}
      onCommit={(t) => set(t.trim() === '0x10000' ? 0x10000 : parseAddress(t)!)}
    />
  )
  return (
    <div
      className="pad"
      style={{ gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1fr)', gridTemplateRows: 'auto minmax(0, 1fr) auto' }}
    >
      <section className="card" aria-label="Panel">
        <header>
          <h2>The panel</h2>
          <span className="end muted">
            {panel.width} × {panel.height} px · {panel.diagonalInches}″
          </span>
        </header>
        <div className="body">
          <Row name="Project">
            <ProjectNameField />
          </Row>
          <Row name="Width" hint="pixels as it is mounted">
            <NumberField
              label="Width of the glass"
              value={panel.width}
              min={16}
              max={2048}
              whole
              unit="px"
              onCommit={(width) => setPanel({ width })}
            />
          </Row>
          <Row name="Height">
            <NumberField
              label="Height of the glass"
              value={panel.height}
              min={16}
              max={2048}
              whole
              unit="px"
              onCommit={(height) => setPanel({ height })}
            />
          </Row>
          <Row name="Diagonal" hint={`${pixelsPerMm(panel).toFixed(2)} pixels to a millimetre`}>
            <NumberField
              label="Diagonal of the glass"
              value={panel.diagonalInches}
              min={0.5}
              max={40}
              unit="inch"
              onCommit={(diagonalInches) => setPanel({ diagonalInches })}
            />
          </Row>
          <Row name="Variables from" hint="first word of memory they may use">
            {address(panel.memoryFrom, 'First address of variables', (memoryFrom) => setPanel({ memoryFrom }))}
          </Row>
          <Row name="up to" hint="the first word they may not use">
            {address(panel.memoryTo, 'End of the memory of variables', (memoryTo) => setPanel({ memoryTo }), 0x10000)}
          </Row>
          <Row name="Own words from" hint="16 words that the panel keeps for itself">
            {address(panel.ownFrom, 'First of the panel’s own words', (ownFrom) => setPanel({ ownFrom }), 0xfff0)}
          </Row>
          <div className="row">
            <button className="button" onClick={() => setPanel({ width: panel.height, height: panel.width })}>
              Turn it by 90°
            </button>
          </div>
        </div>
      </section>
      <section className="card" aria-label="Link">
        <header>
          <h2>The line to the host</h2>
          <span className="end muted">{linkInWords(link)}</span>
        </header>
        <div className="body">
          <Row name="Baud rate" hint={`one byte takes ${((bitsPerByte(link) * 1_000_000) / link.baud).toFixed(0)} µs`}>
            <Choice
              label="Baud rate"
              value={String(link.baud)}
              options={[...new Set([...usualBaudRates, link.baud])].sort((a, b) => a - b).map(String)}
              onChange={(baud) => setLink({ baud: Number(baud) })}
            />
          </Row>
          <Row name="Parity">
            <Choice
              label="Parity"
              value={link.parity}
              options={['none', 'even', 'odd']}
              onChange={(parity) => setLink({ parity: parity as LinkSettings['parity'] })}
            />
          </Row>
          <Row name="Stop bits">
            <Choice
              label="Stop bits"
              value={String(link.stopBits)}
              options={['1', '2']}
              onChange={(n) => setLink({ stopBits: Number(n) as 1 | 2 })}
            />
          </Row>
          <Row name="Panel answers writes">
            <Choice
              label="Panel answers writes"
              value={link.answers}
              options={['never', 'on refusal', 'always']}
              onChange={(answers) => setLink({ answers: answers as LinkSettings['answers'] })}
            />
          </Row>
          <Row name="Panel answers after">
            <NumberField
              label="Latency of the panel"
              value={link.latencyMs}
              min={0}
              max={5000}
              whole
              unit="ms"
              onCommit={(latencyMs) => setLink({ latencyMs })}
            />
          </Row>
          <Row name="Reports wait for done" hint="and are repeated until it comes">
            <YesNo label="Reports wait for done" value={link.confirm} onChange={(confirm) => setLink({ confirm })} />
          </Row>
          <Row name="at most for">
            <NumberField
              label="Time-out of a report"
              value={link.confirmTimeoutMs}
              min={1}
              max={60_000}
              whole
              unit="ms"
              onCommit={(confirmTimeoutMs) => setLink({ confirmTimeoutMs })}
            />
          </Row>
          <Row name="Sent in all">
            <NumberField
              label="Tries of a report"
              value={link.tries}
              min={1}
              max={20}
              whole
              unit="times"
              onCommit={(tries) => setLink({ tries })}
            />
          </Row>
          <Row name="Host gone after" hint="silence after which host_alive says no">
            <NumberField
              label="Host gone after"
              value={link.aliveMs}
              min={10}
              max={3_600_000}
              whole
              unit="ms"
              onCommit={(aliveMs) => setLink({ aliveMs })}
            />
          </Row>
        </div>
      </section>
      <section className="card" style={{ gridColumn: '1 / 3' }} aria-label="Own words">
        <header>
          <h2>What follows</h2>
          <span className="end muted">
            {memoryPlanOf(panel).to - memoryPlanOf(panel).from} words for variables ·{' '}
            {((panel.width * panel.height * 2) / 1024).toFixed(0)} KiB a full picture
          </span>
        </header>
        <div className="body">
          <table>
            <thead>
              <tr>
                <th>The panel’s own word</th>
                <th>Address</th>
                <th>Holds</th>
                <th>The host may</th>
                <th>Meaning</th>
              </tr>
            </thead>
            <tbody>
              {ownWords.map((w) => (
                <tr key={w.id}>
                  <td>{w.name}</td>
                  <td className="mono">{formatAddress(panel.ownFrom + w.offset)}</td>
                  <td>
                    {w.holds.type}
                    {wordsOf(w.holds) > 1 ? `, ${wordsOf(w.holds)} words` : ''}
                  </td>
                  <td>{w.writable ? 'read and write' : 'read'}</td>
                  <td className="muted">{w.meaning}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </section>
      <div style={{ gridColumn: '1 / 3' }}>
        <FindingBar station="Panel" />
      </div>
    </div>
  )
}
