import { FindField } from '../controls/find-field.tsx'
import { Box, Button, Table } from '@mantine/core'
import { useEffect, useState } from 'react'
import type { VariableId } from '@moth-lamp/core/base'
import { usersOf, type Project, type Variable } from '@moth-lamp/core/project'
import { nameOfId } from '@moth-lamp/core/signal-path'
import {
  formatAddress,
  formatValue,
  freshHolds,
  holdsTypes,
  parseAddress,
  parseValue,
  travelKinds,
  travelWords,
  type HoldsType,
  type Travels,
} from '@moth-lamp/core/variables'
import { SignalPathColumn } from '../inspector/signal-path.tsx'
import { nameProblem } from '../parts/names.ts'
import { Choice } from '../controls/choice.tsx'
import { NumberField, TextField, YesNo } from '../controls/fields.tsx'
import { FindingBar } from '../parts/finding-bar.tsx'
import { freshId } from '../session/session.ts'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../shell/context.tsx'
import { TableRows } from '../parts/table-rows.tsx'
import { isTyping } from '../controls/typing.ts'
import { AddressMap } from './address-map.tsx'
import { ScaleButton } from '../parts/holds-fields.tsx'
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
      <div className="pad variables-rows">
        <section className="card" aria-label="Variables">
          <header>
            <Button onClick={add}>
              + Variable <span className="key">N</span>
            </Button>
            <FindField label="Find a variable" value={find} onChange={setFind} width={160} />
            <Box component="span" className="end" w={96}>
              <Choice
                label="Addresses"
                value={addresses}
                options={['hex', 'decimal']}
                onChange={(a) => session.view.set({ addresses: a as 'hex' | 'decimal' })}
              />
            </Box>
          </header>
          {shown.length ? (
            <Register project={project} shown={shown} picked={picked} />
          ) : (
            <p className="empty">
              {project.variableOrder.length
                ? 'No variable has that name.'
                : 'No variable yet. One is made with each number, text and indicator; or press N.'}
            </p>
          )}
        </section>
        <div className="map-row">
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
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null)
  return (
    <div className="body" ref={setScroller}>
      <Table className="register">
        <Table.Thead>
          <Table.Tr>
            <Table.Th w="19%">Name</Table.Th>
            <Table.Th w={84}>Holds</Table.Th>
            <Table.Th>Scale</Table.Th>
            <Table.Th w={84}>Address</Table.Th>
            <Table.Th w={128}>Travels</Table.Th>
            <Table.Th w="15%">Now</Table.Th>
            <Table.Th w="16%">Used by</Table.Th>
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

function VariableRow({ project, variable: v, picked }: { project: Project; variable: Variable; picked: boolean }) {
  const session = useSession()
  const addresses = useStore(session.view, (s) => s.addresses)
  const now = useStore(session.live, (l) => l.values[v.id])
  const set = (values: Partial<Variable>) => session.edit('set variable', { id: v.id, values })
  const users = [...new Set(usersOf(project, v.id).map((u) => nameOfId(project, u.from)))]
  return (
    <Table.Tr
      className={picked ? 'picked' : ''}
      onFocus={() => session.view.set({ variable: v.id, widgets: [] })}
      onClick={() => session.view.set({ variable: v.id, widgets: [] })}
    >
      <Table.Td>
        <TextField label={`Name of ${v.name}`} value={v.name} isName check={nameProblem} onCommit={(name) => set({ name })} />
      </Table.Td>
      <Table.Td>
        <Choice
          label={`Type of ${v.name}`}
          value={v.holds.type}
          options={holdsTypes}
          onChange={(type) => set({ holds: freshHolds(type as HoldsType) })}
        />
      </Table.Td>
      <Table.Td>
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
      <Table.Td className={v.travels === 'host to panel' ? 'to-panel' : v.travels === 'panel to host' ? 'to-host' : ''}>
        <Choice
          label={`${v.name} travels`}
          value={v.travels}
          options={travelKinds.map((t) => ({ value: t, label: travelWords[t] }))}
          onChange={(travels) => set({ travels: travels as Travels })}
        />
      </Table.Td>
      <Table.Td className="mono cut" maw={140}>
        {now ? formatValue(v.holds, now.value) : ''}
        {now && !now.inRange ? ' (out of range)' : ''}
        {now?.stale ? ' (stale)' : ''}
      </Table.Td>
      <Table.Td className="muted cut" maw={150} title={users.join(', ')}>
        {users.length > 2 ? `${users.length} users` : users.join(', ')}
      </Table.Td>
    </Table.Tr>
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
        <Button size="compact-xs" className="end" onClick={() => session.edit('give new address', { id: v.id })}>
          New address
        </Button>
        <Button size="compact-xs" onClick={() => session.edit('delete variable', { id: v.id })}>
          Delete
        </Button>
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
