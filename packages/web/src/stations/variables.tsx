import { Popover } from '@mantine/core'
import { useEffect, useState } from 'react'
import type { VariableId } from '@moth-lamp/core/base'
import { retiredAddresses, usersOf, type Project, type Variable } from '@moth-lamp/core/project'
import { nameOfId } from '@moth-lamp/core/signal-path'
import {
  findOverlaps,
  formatAddress,
  formatValue,
  freshHolds,
  holdsTypes,
  isNumber,
  parseAddress,
  parseValue,
  travelKinds,
  travelWords,
  wordsOf,
  type Holds,
  type HoldsType,
  type Travels,
} from '@moth-lamp/core/variables'
import { SignalPathColumn, nameProblem } from '../inspector/signal-path.tsx'
import { Choice, NumberField, TextField, YesNo } from '../parts/fields.tsx'
import { FindingBar } from '../parts/finding-bar.tsx'
import { freshId } from '../session/session.ts'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../shell/context.tsx'
import { isTyping } from '../parts/typing.ts'
import { valueProblem } from '../parts/value-words.ts'

/** The register of variables, edited in place; the memory below; the way of the selected one on the right. */
export function VariablesStation() {
  const session = useSession()
  const project = useProject()
  const picked = useStore(session.view, (v) => v.variable) ?? project.variableOrder[0] ?? null
  const addresses = useStore(session.view, (v) => v.addresses)
  const [find, setFind] = useState('')
  const add = () => {
    const id = freshId('variable')
    if (session.edit('add variable', { id, after: '' })) session.view.set({ variable: id })
  }
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (isTyping(e.target) || e.ctrlKey || e.metaKey) return
      if (e.key.toLowerCase() === 'n') {
        e.preventDefault()
        const id = freshId('variable')
        if (session.edit('add variable', { id, after: '' })) session.view.set({ variable: id })
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [session])
  const shown = project.variableOrder
    .map((id) => project.variables[id]!)
    .filter((v) => `${v.name} ${v.meaning}`.toLowerCase().includes(find.toLowerCase()))
  return (
    <div className="two">
      <div className="pad" style={{ gridTemplateRows: 'minmax(240px, 1fr) auto auto' }}>
        <section className="card" aria-label="Variables">
          <header>
            <button className="button" onClick={add}>
              + Variable <span className="key">N</span>
            </button>
            <input
              className="field"
              style={{ width: 160 }}
              placeholder="Find …"
              aria-label="Find a variable"
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
            <span className="end" style={{ width: 96 }}>
              <Choice
                label="Addresses"
                value={addresses}
                options={['hex', 'decimal']}
                onChange={(a) => session.view.set({ addresses: a as 'hex' | 'decimal' })}
              />
            </span>
          </header>
          <div className="body">
            {shown.length ? (
              <Register project={project} shown={shown} picked={picked} />
            ) : (
              <p className="empty">
                {project.variableOrder.length
                  ? 'No variable has that name.'
                  : 'No variable yet. One is made with each number, text and indicator; or press N.'}
              </p>
            )}
          </div>
        </section>
        <div style={{ display: 'grid', gridTemplateColumns: '470px minmax(0, 1fr)', gap: 10 }}>
          <AddressMap project={project} picked={picked} />
          <Details project={project} picked={picked} />
        </div>
        <FindingBar station="Variables" />
      </div>
      <aside className="column" aria-label="Selection">
        <SignalPathColumn project={project} selection={picked ? { kind: 'variable', id: picked } : null} />
      </aside>
    </div>
  )
}

function Register({ project, shown, picked }: { project: Project; shown: Variable[]; picked: string | null }) {
  return (
    <table>
      <thead>
        <tr>
          <th style={{ width: '19%' }}>Name</th>
          <th style={{ width: 84 }}>Holds</th>
          <th>Scale</th>
          <th style={{ width: 84 }}>Address</th>
          <th style={{ width: 128 }}>Travels</th>
          <th style={{ width: '15%' }}>Now</th>
          <th style={{ width: '16%' }}>Used by</th>
        </tr>
      </thead>
      <tbody>
        {shown.map((v) => (
          <VariableRow key={v.id} project={project} variable={v} picked={v.id === picked} />
        ))}
      </tbody>
    </table>
  )
}

function VariableRow({ project, variable: v, picked }: { project: Project; variable: Variable; picked: boolean }) {
  const session = useSession()
  const addresses = useStore(session.view, (s) => s.addresses)
  const now = useStore(session.live, (l) => l.values[v.id])
  const set = (values: Partial<Variable>) => session.edit('set variable', { id: v.id, values })
  const users = [...new Set(usersOf(project, v.id).map((u) => nameOfId(project, u.from)))]
  return (
    <tr
      className={picked ? 'picked' : ''}
      onFocus={() => session.view.set({ variable: v.id, widgets: [] })}
      onClick={() => session.view.set({ variable: v.id, widgets: [] })}
    >
      <td>
        <TextField label={`Name of ${v.name}`} value={v.name} check={nameProblem} onCommit={(name) => set({ name })} />
      </td>
      <td>
        <Choice
          label={`Type of ${v.name}`}
          value={v.holds.type}
          options={holdsTypes}
          onChange={(type) => set({ holds: freshHolds(type as HoldsType) })}
        />
      </td>
      <td>
        <ScaleButton variable={v} onChange={(holds) => set({ holds })} />
      </td>
      <td>
        <TextField
          mono
          label={`Address of ${v.name}`}
          value={formatAddress(v.address, addresses)}
          check={(t) => (parseAddress(t) === null ? 'Not an address.' : null)}
          onCommit={(t) => set({ address: parseAddress(t)! })}
        />
      </td>
      <td className={v.travels === 'host to panel' ? 'to-panel' : v.travels === 'panel to host' ? 'to-host' : ''}>
        <Choice
          label={`${v.name} travels`}
          value={v.travels}
          options={travelKinds.map((t) => ({ value: t, label: travelWords[t] }))}
          onChange={(travels) => set({ travels: travels as Travels })}
        />
      </td>
      <td className="mono cut" style={{ maxWidth: 140 }}>
        {now ? formatValue(v.holds, now.value) : ''}
        {now && !now.inRange ? ' (out of range)' : ''}
        {now?.stale ? ' (stale)' : ''}
      </td>
      <td className="muted cut" style={{ maxWidth: 150 }} title={users.join(', ')}>
        {users.length > 2 ? `${users.length} users` : users.join(', ')}
      </td>
    </tr>
  )
}

function scaleWords(holds: Holds): string {
  if (isNumber(holds)) {
    const unit = holds.unit || 'plain'
    const part =
      holds.factor === 0.1
        ? `tenths of ${holds.unit || '1'}`
        : holds.factor === 0.01
          ? `hundredths of ${holds.unit || '1'}`
          : holds.factor === 1
            ? unit
            : `${holds.factor} ${holds.unit}`
    return `${part}, ${holds.min} … ${holds.max}`
  }
  if (holds.type === 'choice') return holds.choices.map((c) => c.word).join(' · ')
  if (holds.type === 'flags') return holds.names.filter(Boolean).join(' · ') || '16 bits'
  return holds.type === 'text' ? `${holds.bytes} bytes, ${holds.encoding}` : holds.type === 'time' ? 'hh:mm:ss' : 'RGB565'
}

/** What a value means, behind a button that says it in short. */
function ScaleButton({ variable, onChange }: { variable: Variable; onChange(holds: Holds): void }) {
  const words = scaleWords(variable.holds)
  return (
    <Popover position="bottom-start" width={330} trapFocus>
      <Popover.Target>
        <button
          className="button plain tiny cut"
          style={{ maxWidth: 220, justifyContent: 'flex-start', padding: '0 6px' }}
          title={words}
          aria-label={`Scale of ${variable.name}: ${words}`}
        >
          <span className="cut">{words}</span>
        </button>
      </Popover.Target>
      <Popover.Dropdown>
        <HoldsFields holds={variable.holds} onChange={onChange} />
      </Popover.Dropdown>
    </Popover>
  )
}

function HoldsFields({ holds, onChange }: { holds: Holds; onChange(holds: Holds): void }) {
  const line = (name: string, field: React.ReactNode) => (
    <div className="setting" key={name}>
      <label>{name}</label>
      {field}
    </div>
  )
  if (isNumber(holds)) {
    const set = (change: Partial<typeof holds>) => onChange({ ...holds, ...change })
    return (
      <div>
        <p className="small muted">shown = raw × factor + offset</p>
        {line('Factor', <NumberField label="Factor" value={holds.factor} onCommit={(factor) => set({ factor })} />)}
        {line('Offset', <NumberField label="Offset" value={holds.offset} onCommit={(offset) => set({ offset })} />)}
        {line(
          'Decimals',
          <NumberField
            label="Decimals"
            value={holds.decimals}
            min={0}
            max={9}
            whole
            onCommit={(decimals) => set({ decimals })}
          />,
        )}
        {line('Unit', <TextField label="Unit" value={holds.unit} onCommit={(unit) => set({ unit: unit.slice(0, 12) })} />)}
        {line('From', <NumberField label="Smallest value" value={holds.min} onCommit={(min) => set({ min })} />)}
        {line('To', <NumberField label="Largest value" value={holds.max} onCommit={(max) => set({ max })} />)}
      </div>
    )
  }
  if (holds.type === 'choice') {
    const text = holds.choices.map((c) => `${c.value} ${c.word}`).join('\n')
    const read = (source: string) =>
      source
        .split('\n')
        .map((l) => /^\s*(\d{1,5})\s+(.+?)\s*$/.exec(l))
        .filter((m) => m !== null)
        .map((m) => ({ value: Number(m[1]), word: m[2]! }))
    return (
      <div className="stack">
        <p className="small muted">A value and its word on each line.</p>
        <TextField
          lines={6}
          mono
          label="Values and words"
          value={text}
          check={(t) =>
            read(t).length && read(t).length === t.split('\n').filter((l) => l.trim()).length
              ? null
              : 'Each line: a number, a blank, a word.'
          }
          onCommit={(t) => onChange({ ...holds, choices: read(t) })}
        />
      </div>
    )
  }
  if (holds.type === 'flags') {
    const set = (bit: number, name: string) =>
      onChange({
        ...holds,
        names: Array.from({ length: Math.max(bit + 1, holds.names.length) }, (_, i) =>
          i === bit ? name : (holds.names[i] ?? ''),
        ),
      })
    return (
      <div>
        {Array.from({ length: 16 }, (_, bit) =>
          line(
            `bit ${bit}`,
            <TextField
              label={`Name of bit ${bit}`}
              value={holds.names[bit] ?? ''}
              onCommit={(name) => set(bit, name.trim().replaceAll(/\s+/g, '_').slice(0, 30))}
            />,
          ),
        )}
      </div>
    )
  }
  if (holds.type === 'text')
    return (
      <div>
        {line(
          'Bytes',
          <NumberField
            label="Bytes"
            value={holds.bytes}
            min={1}
            max={240}
            whole
            onCommit={(bytes) => onChange({ ...holds, bytes })}
          />,
        )}
        {line(
          'Encoding',
          <Choice
            label="Encoding"
            value={holds.encoding}
            options={['ascii', 'latin-1', 'utf-8']}
            onChange={(encoding) => onChange({ ...holds, encoding: encoding as typeof holds.encoding })}
          />,
        )}
      </div>
    )
  return (
    <p className="muted">
      {holds.type === 'time' ? 'Seconds since midnight, in two words.' : 'A colour as RGB565, in one word.'}
    </p>
  )
}

const wayClass: Record<Travels, string> = {
  'host to panel': 'host-to',
  'panel to host': 'panel-to',
  both: 'both',
  stays: 'stays',
}

/** The rows of memory in use, sixteen words each. */
function AddressMap({ project, picked }: { project: Project; picked: string | null }) {
  const session = useSession()
  const retired = retiredAddresses(project)
  const list = Object.values(project.variables)
  const spans = list.map((v) => ({ address: v.address, words: wordsOf(v.holds) }))
  const clashing = new Set(findOverlaps(spans).flatMap((o) => [list[o.first]!.id, list[o.second]!.id]))
  const at = new Map<number, Variable>()
  for (const v of list) for (let i = 0; i < wordsOf(v.holds); i++) at.set(v.address + i, v)
  const old = new Map<number, string>()
  for (const r of retired) for (let i = 0; i < r.words; i++) old.set(r.address + i, r.name)
  const rows = [...new Set([...at.keys(), ...old.keys()].map((a) => a >> 4))].sort((a, b) => a - b)
  const used = spans.reduce((sum, s) => sum + s.words, 0)
  return (
    <section className="card" aria-label="Address map">
      <header>
        <h2>Address map</h2>
        <span className="end muted small">
          {used} of {project.panel.memoryTo - project.panel.memoryFrom} words used
          {retired.length ? ` · ${retired.length} retired` : ''}
        </span>
      </header>
      <div className="body" style={{ maxHeight: 190 }}>
        {!rows.length && <p className="muted">Nothing stands in memory yet.</p>}
        <div className="map">
          {rows.flatMap((row) => [
            <span key={`r${row}`} className="mono small muted">
              {formatAddress(row * 16).slice(2)}
            </span>,
            ...Array.from({ length: 16 }, (_, i) => {
              const address = row * 16 + i
              const v = at.get(address)
              const words = v
                ? `${formatAddress(address)} ${v.name}`
                : old.has(address)
                  ? `${formatAddress(address)} retired: was ${old.get(address)}`
                  : formatAddress(address)
              return (
                <i
                  key={address}
                  title={words}
                  onClick={() => v && session.view.set({ variable: v.id })}
                  className={`${v ? (clashing.has(v.id) ? 'clash' : wayClass[v.travels]) : old.has(address) ? 'retired' : ''} ${v && v.id === picked ? 'here' : ''}`}
                />
              )
            }),
          ])}
        </div>
        {retired.map((r) => (
          <div key={r.key} className="row small" style={{ marginTop: 6 }}>
            {formatAddress(r.address)} was {r.name}; firmware in the field may still write it.
            <button className="button tiny" onClick={() => session.edit('release address', { key: r.key })}>
              Release
            </button>
          </div>
        ))}
      </div>
    </section>
  )
}

/** What else is known of the selected variable. */
function Details({ project, picked }: { project: Project; picked: string | null }) {
  const session = useSession()
  const v = picked ? project.variables[picked as VariableId] : undefined
  if (!v)
    return (
      <section className="card">
        <p className="empty">Select a variable.</p>
      </section>
    )
  const set = (values: Partial<Variable>) => session.edit('set variable', { id: v.id, values })
  return (
    <section className="card" aria-label={`More of ${v.name}`}>
      <header>
        <h2 className="cut">{v.name}</h2>
        <button className="button tiny end" onClick={() => session.edit('give new address', { id: v.id })}>
          New address
        </button>
        <button className="button tiny" onClick={() => session.edit('delete variable', { id: v.id })}>
          Delete
        </button>
      </header>
      <div className="body">
        <div className="setting">
          <label>Meaning</label>
          <TextField label="Meaning" value={v.meaning} onCommit={(meaning) => set({ meaning })} />
        </div>
        <div className="setting">
          <label>At power-on</label>
          <span>
            <TextField
              mono
              label="Value at power-on"
              value={formatValue(v.holds, v.initial, false)}
              check={(t) => valueProblem(v.holds, t)}
              onCommit={(t) => {
                const read = parseValue(v.holds, t)
                return read.ok ? set({ initial: read.value }) : false
              }}
            />
          </span>
        </div>
        <div className="setting">
          <label>Goes stale</label>
          <span className="row">
            <YesNo
              label="Goes stale"
              value={v.stale !== null}
              onChange={(yes) => set({ stale: yes ? { afterMs: 3000, shows: 'dim' } : null })}
            />
            {v.stale && (
              <>
                <NumberField
                  label="Stale after"
                  value={v.stale.afterMs}
                  min={10}
                  max={3_600_000}
                  whole
                  unit="ms"
                  onCommit={(afterMs) => set({ stale: { ...v.stale!, afterMs } })}
                />
                <Choice
                  label="Shown stale as"
                  value={v.stale.shows}
                  options={['dim', 'dashes']}
                  onChange={(shows) => set({ stale: { ...v.stale!, shows: shows as 'dim' | 'dashes' } })}
                />
              </>
            )}
          </span>
        </div>
      </div>
    </section>
  )
}
