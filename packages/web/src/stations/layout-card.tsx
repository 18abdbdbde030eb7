import { Box, Button, Menu, UnstyledButton } from '@mantine/core'
import { useState } from 'react'
import { sentence, toHex, type Order } from '@moth-lamp/core/base'
import {
  checkLayout,
  directionsOf,
  layoutSentences,
  lampBinary,
  lengthLedStart,
  operations,
  type Form,
  type Layout,
  type Message,
  type Operation,
} from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { NumberField, TextField } from '../controls/fields.tsx'
import { Bytes } from '../parts/frame.tsx'
import { useProtocol } from '../parts/protocol.ts'
import { useSession } from '../shell/context.tsx'
import { FramingRow } from './framing-row.tsx'
import { PartList } from './part-list.tsx'

const example: Record<Operation, Message> = {
  write: { operation: 'write', sequence: 5, address: 0x12, payload: [6, 9] },
  'set bits': { operation: 'set bits', sequence: 5, address: 0x30, mask: 1, bits: 1 },
  ask: { operation: 'ask', sequence: 5, address: 0x12, words: 1 },
  value: { operation: 'value', sequence: 5, address: 0x12, payload: [6, 9] },
  report: { operation: 'report', sequence: 3, address: 0x12, payload: [6, 9] },
  event: { operation: 'event', sequence: 3, address: 7, what: 'pressed' },
  message: { operation: 'message', sequence: 5, address: 2, payload: [10, 0] },
  done: { operation: 'done', sequence: 3, address: 0x12 },
  refused: { operation: 'refused', sequence: 3, address: 0x12, reason: 'busy' },
}

/** The example with its word as a memory of that order holds it. */
function exampleIn(order: Order, operation: Operation): Message {
  const message = example[operation]
  return order === 'high' && 'payload' in message ? { ...message, payload: [...message.payload].reverse() } : message
}

/** The layout as parts: what every frame begins and ends with, and what each operation has between. */
export function LayoutCard({ project }: { project: Project }) {
  const session = useSession()
  const { layout } = project
  const [operation, setOperation] = useState<Operation>('write')
  const problems = checkLayout(layout)
  const form = layout.forms.find((f) => f.operation === operation)
  const set = (values: Partial<Layout>) => session.edit('set layout', { values })
  const setForm = (change: Partial<Form>) =>
    set({ forms: layout.forms.map((f) => (f.operation === operation ? { ...f, ...change } : f)) })
  const protocol = useProtocol()
  const direction = directionsOf[operation][0]!
  const message = exampleIn(project.panel.order, operation)
  const bytes = protocol && form ? protocol.encode(direction, message) : null
  return (
    <section className="card" aria-label="Layout">
      <header>
        <h2>Layout:</h2>
        <Box component="span" w={150}>
          <TextField
            label="Name of the layout"
            value={layout.name}
            isName
            check={(t) => (t.trim() ? null : 'A layout has a name.')}
            onCommit={(name) => set({ name })}
          />
        </Box>
        <Menu position="bottom-start">
          <Menu.Target>
            <Button size="compact-xs">Start from ▾</Button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => set({ ...lampBinary })}>lamp binary: flags, escapes, FCS-16</Menu.Item>
            <Menu.Item onClick={() => set({ ...lengthLedStart })}>length-led: start byte, length, CRC-16</Menu.Item>
          </Menu.Dropdown>
        </Menu>
        <span className={`end ${problems.length ? 'bad' : 'ok'}`} role="status">
          {problems.length
            ? `✕ ${problems.length} reason${problems.length > 1 ? 's' : ''} why it cannot be used`
            : '✓ every frame has one reading'}
        </span>
      </header>
      <div className="body stack">
        <FramingRow layout={layout} set={set} />
        <div className="tabs" role="tablist" aria-label="Operation">
          {operations.map((op) => (
            <UnstyledButton key={op} role="tab" aria-selected={op === operation} onClick={() => setOperation(op)}>
              {op}
            </UnstyledButton>
          ))}
        </div>
        {form ? (
          <div className="parts" role="tabpanel" aria-label={`Parts of ${operation}`}>
            {layout.framing.kind === 'delimited' && <FixedPart name="flag" hex={toHex([layout.framing.flag])} />}
            {layout.framing.kind !== 'delimited' && layout.framing.start.length > 0 && (
              <FixedPart name="start" hex={toHex(layout.framing.start)} />
            )}
            <PartList layout={layout} place="head" parts={layout.head} hint="every frame" onChange={(head) => set({ head })} />
            <PartList
              layout={layout}
              place="parts"
              parts={form.parts}
              hint={operation}
              onChange={(parts) => setForm({ parts })}
            />
            <PartList layout={layout} place="end" parts={layout.end} hint="every frame" onChange={(end) => set({ end })} />
            {layout.framing.kind === 'delimited' && <FixedPart name="flag" hex={toHex([layout.framing.flag])} />}
          </div>
        ) : (
          <p className="muted">
            This layout has no “{operation}”.{' '}
            <Button
              size="compact-xs"
              onClick={() =>
                set({
                  forms: [
                    ...layout.forms,
                    { operation, directions: directionsOf[operation], code: layout.forms.length + 1, parts: [] },
                  ],
                })
              }
            >
              Add it
            </Button>
          </p>
        )}
        <div className="row wrap">
          {form && (
            <>
              <span className="muted">Code</span>
              <Box component="span" w={62}>
                <NumberField
                  label={`Code of ${operation}`}
                  value={form.code}
                  min={0}
                  max={255}
                  whole
                  onCommit={(code) => setForm({ code })}
                />
              </Box>
              <Button size="compact-xs" onClick={() => set({ forms: layout.forms.filter((f) => f.operation !== operation) })}>
                Leave out “{operation}”
              </Button>
            </>
          )}
          <span className="end row">
            {bytes?.ok && protocol && <Bytes bytes={bytes.value} anatomy={protocol.dissect(direction, bytes.value)} />}
          </span>
        </div>
        {problems.slice(0, 4).map((p, i) => (
          <div key={i} className="bad">
            {sentence(layoutSentences[p.code] ?? p.code, p.facts)}
          </div>
        ))}
      </div>
    </section>
  )
}

function FixedPart({ name, hex }: { name: string; hex: string }) {
  return (
    <span className="part start" style={{ cursor: 'default' }}>
      <strong>{name}</strong>
      <span className="mono">{hex}</span>
    </span>
  )
}
