import { Menu, Popover } from '@mantine/core'
import { useState } from 'react'
import { checksumNames, checksums, fromHex, sentence, toHex, type Order } from '@moth-lamp/core/base'
import {
  checkLayout,
  compileLayout,
  countsKinds,
  coversKinds,
  directionsOf,
  dissect,
  encodeFrame,
  freshPart,
  layoutSentences,
  lampBinary,
  lengthLedStart,
  operations,
  partKinds,
  type Form,
  type Framing,
  type Layout,
  type Message,
  type Operation,
  type Part,
} from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { Choice, NumberField, TextField } from '../parts/fields.tsx'
import { Bytes, nameOfPiece, tintOf } from '../parts/frame.tsx'
import { useSession } from '../shell/context.tsx'

type Place = 'head' | 'parts' | 'end'

const example: Record<Operation, Message> = {
  write: { operation: 'write', sequence: 5, address: 0x12, payload: Uint8Array.of(6, 9) },
  'set bits': { operation: 'set bits', sequence: 5, address: 0x30, mask: 1, bits: 1 },
  ask: { operation: 'ask', sequence: 5, address: 0x12, words: 1 },
  value: { operation: 'value', sequence: 5, address: 0x12, payload: Uint8Array.of(6, 9) },
  report: { operation: 'report', sequence: 3, address: 0x12, payload: Uint8Array.of(6, 9) },
  event: { operation: 'event', sequence: 3, address: 7, what: 'pressed' },
  message: { operation: 'message', sequence: 5, address: 2, payload: Uint8Array.of(10, 0) },
  done: { operation: 'done', sequence: 3, address: 0x12 },
  refused: { operation: 'refused', sequence: 3, address: 0x12, reason: 'busy' },
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
  const codec = compileLayout(layout)
  const direction = directionsOf[operation][0]!
  const message =
    layout.payloadOrder === 'high' && 'payload' in example[operation]
      ? { ...example[operation], payload: (example[operation] as { payload: Uint8Array }).payload.slice().reverse() }
      : example[operation]
  const bytes = codec.ok && form ? encodeFrame(codec.value, direction, message as Message) : null
  return (
    <section className="card" aria-label="Layout">
      <header>
        <h2>Layout:</h2>
        <span style={{ width: 150 }}>
          <TextField
            label="Name of the layout"
            value={layout.name}
            check={(t) => (t.trim() ? null : 'A layout has a name.')}
            onCommit={(name) => set({ name })}
          />
        </span>
        <Menu position="bottom-start">
          <Menu.Target>
            <button className="button tiny">Start from ▾</button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => set({ ...lampBinary })}>lamp binary: flags, escapes, FCS-16</Menu.Item>
            <Menu.Item onClick={() => set({ ...lengthLedStart })}>length-led: start bytes, length, CRC-16</Menu.Item>
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
            <button key={op} role="tab" aria-selected={op === operation} onClick={() => setOperation(op)}>
              {op}
            </button>
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
            <button
              className="button tiny"
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
            </button>
          </p>
        )}
        <div className="row wrap">
          {form && (
            <>
              <span className="muted">Code</span>
              <span style={{ width: 62 }}>
                <NumberField
                  label={`Code of ${operation}`}
                  value={form.code}
                  min={0}
                  max={255}
                  whole
                  onCommit={(code) => setForm({ code })}
                />
              </span>
              <button
                className="button tiny"
                onClick={() => set({ forms: layout.forms.filter((f) => f.operation !== operation) })}
              >
                Leave out “{operation}”
              </button>
            </>
          )}
          <span className="end row">
            {bytes?.ok && codec.ok && <Bytes bytes={bytes.value} anatomy={dissect(codec.value, direction, bytes.value)} />}
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

const freshFraming: Record<Framing['kind'], Framing> = {
  delimited: { kind: 'delimited', flag: 0x7e, escape: 0x7d, xor: 0x20 },
  'length-led': { kind: 'length-led', start: [0xc3, 0x3c] },
  fixed: { kind: 'fixed', start: [0xc3], length: 8 },
}

const oneByte = (text: string): number | null => {
  const read = fromHex(text)
  return read.ok && read.value.length === 1 ? read.value[0]! : null
}

function FramingRow({ layout, set }: { layout: Layout; set(values: Partial<Layout>): void }) {
  const { framing } = layout
  const byteField = (label: string, value: number, put: (byte: number) => void) => (
    <span className="row" key={label} style={{ gap: 4 }}>
      <span className="muted">{label}</span>
      <span style={{ width: 42 }}>
        <TextField
          mono
          label={label}
          value={toHex([value])}
          check={(t) => (oneByte(t) === null ? 'One byte in hex.' : null)}
          onCommit={(t) => put(oneByte(t)!)}
        />
      </span>
    </span>
  )
  return (
    <div className="row wrap">
      <span style={{ width: 112 }}>
        <Choice
          label="Framing"
          value={framing.kind}
          options={[
            { value: 'delimited', label: 'delimited' },
            { value: 'length-led', label: 'length-led' },
            { value: 'fixed', label: 'fixed length' },
          ]}
          onChange={(kind) => set({ framing: freshFraming[kind as Framing['kind']] })}
        />
      </span>
      {framing.kind === 'delimited' && [
        byteField('Flag', framing.flag, (flag) => set({ framing: { ...framing, flag } })),
        byteField('Escape', framing.escape, (escape) => set({ framing: { ...framing, escape } })),
        byteField('XOR', framing.xor, (xor) => set({ framing: { ...framing, xor } })),
      ]}
      {framing.kind !== 'delimited' && (
        <span className="row" style={{ gap: 4 }}>
          <span className="muted">Start bytes</span>
          <span style={{ width: 92 }}>
            <TextField
              mono
              label="Start bytes"
              value={toHex(framing.start)}
              check={(t) => (t.trim() === '' || fromHex(t).ok ? null : 'Bytes in hex.')}
              onCommit={(t) => {
                const read = fromHex(t)
                set({ framing: { ...framing, start: read.ok ? Array.from(read.value) : [] } })
              }}
            />
          </span>
        </span>
      )}
      {framing.kind === 'fixed' && (
        <span className="row" style={{ gap: 4 }}>
          <span className="muted">Bytes in all</span>
          <span style={{ width: 52 }}>
            <NumberField
              label="Bytes of every frame"
              value={framing.length}
              min={2}
              max={1100}
              whole
              onCommit={(length) => set({ framing: { ...framing, length } })}
            />
          </span>
        </span>
      )}
      <OrderChoice label="Payload" value={layout.payloadOrder} onChange={(payloadOrder) => set({ payloadOrder })} />
      <OrderChoice label="Two-word values" value={layout.wordOrder} unit="word" onChange={(wordOrder) => set({ wordOrder })} />
      <span className="row" style={{ gap: 4 }}>
        <span className="muted">Payload at most</span>
        <span style={{ width: 52 }}>
          <NumberField
            label="Payload at most"
            value={layout.mostPayload}
            min={2}
            max={1024}
            whole
            onCommit={(mostPayload) => set({ mostPayload })}
          />
        </span>
      </span>
      <span className="row" style={{ gap: 4 }}>
        <span className="muted">Broken off after</span>
        <span style={{ width: 52 }}>
          <NumberField
            label="Broken off after"
            value={layout.gapUs / 1000}
            min={1}
            max={10_000}
            whole
            onCommit={(ms) => set({ gapUs: ms * 1000 })}
          />
        </span>
        <span className="muted">ms</span>
      </span>
    </div>
  )
}

function OrderChoice({
  label,
  value,
  onChange,
  unit = 'byte',
}: {
  label: string
  value: Order
  onChange(order: Order): void
  unit?: string
}) {
  return (
    <span className="row" style={{ gap: 4 }}>
      <span className="muted">{label}</span>
      <span style={{ width: 116 }}>
        <Choice
          label={`${label}: order`}
          value={value}
          options={[
            { value: 'low', label: `low ${unit} first` },
            { value: 'high', label: `high ${unit} first` },
          ]}
          onChange={(o) => onChange(o as Order)}
        />
      </span>
    </span>
  )
}

function PartList({
  layout,
  place,
  parts,
  hint,
  onChange,
}: {
  layout: Layout
  place: Place
  parts: readonly Part[]
  hint: string
  onChange(parts: Part[]): void
}) {
  const put = (i: number, part: Part | null) => onChange(parts.flatMap((p, k) => (k === i ? (part ? [part] : []) : [p])))
  const swap = (i: number, by: number) => {
    const next = [...parts]
    const [moved] = next.splice(i, 1)
    next.splice(i + by, 0, moved!)
    onChange(next)
  }
  return (
    <>
      {parts.map((part, i) => (
        <Popover key={`${i} ${part.part} ${parts.length}`} position="bottom" width={280} trapFocus withArrow>
          <Popover.Target>
            <button className={`part ${tintOf(part.part)}`} aria-label={`Part ${nameOfPiece(part.part)}, in ${hint}`}>
              <strong>{nameOfPiece(part.part)}</strong>
              <span className="small">{partWords(part)}</span>
            </button>
          </Popover.Target>
          <Popover.Dropdown>
            <div className="stack">
              <PartFields part={part} onChange={(next) => put(i, next)} />
              <span className="row">
                <button className="button tiny" disabled={i === 0} onClick={() => swap(i, -1)}>
                  Earlier
                </button>
                <button className="button tiny" disabled={i === parts.length - 1} onClick={() => swap(i, 1)}>
                  Later
                </button>
                <button className="button tiny end" onClick={() => put(i, null)}>
                  Take out
                </button>
              </span>
              <span className="small muted">Stands in {place === 'parts' ? `“${hint}” only` : 'every frame'}.</span>
            </div>
          </Popover.Dropdown>
        </Popover>
      ))}
      <Menu position="bottom-start">
        <Menu.Target>
          <button
            className="button icon"
            style={{ alignSelf: 'center' }}
            aria-label={`Add a part ${place === 'head' ? 'to the head of every frame' : place === 'end' ? 'to the end of every frame' : `to ${hint}`}`}
          >
            +
          </button>
        </Menu.Target>
        <Menu.Dropdown>
          {partKinds.map((kind) => (
            <Menu.Item key={kind} onClick={() => onChange([...parts, withOrder(freshPart(kind), layout.payloadOrder)])}>
              {nameOfPiece(kind)}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </>
  )
}

const withOrder = (part: Part, order: Order): Part => ('order' in part ? { ...part, order } : part)

function partWords(part: Part): string {
  switch (part.part) {
    case 'constant':
      return toHex(part.bytes)
    case 'length':
      return `${part.size} byte, ${part.counts}`
    case 'address':
    case 'words':
      return part.size === 1 ? '1 byte' : `2 bytes, ${part.order} first`
    case 'mask':
    case 'bits':
      return `2 bytes, ${part.order} first`
    case 'checksum':
      return `${checksums[part.algorithm].label}`
    case 'payload':
      return 'the words'
    default:
      return '1 byte'
  }
}

function PartFields({ part, onChange }: { part: Part; onChange(part: Part): void }) {
  const line = (name: string, field: React.ReactNode) => (
    <div className="setting">
      <label>{name}</label>
      {field}
    </div>
  )
  const order =
    'order' in part
      ? line(
          'Order',
          <Choice
            label="Order of its bytes"
            value={part.order}
            options={[
              { value: 'low', label: 'low byte first' },
              { value: 'high', label: 'high byte first' },
            ]}
            onChange={(o) => onChange({ ...part, order: o as Order })}
          />,
        )
      : null
  const size =
    'size' in part
      ? line(
          'Bytes',
          <Choice
            label="Bytes of the part"
            value={String(part.size)}
            options={['1', '2']}
            onChange={(n) => onChange({ ...part, size: Number(n) as 1 | 2 })}
          />,
        )
      : null
  return (
    <div>
      <strong>{nameOfPiece(part.part)}</strong>
      {part.part === 'constant' &&
        line(
          'Bytes',
          <TextField
            mono
            label="Constant bytes"
            value={toHex(part.bytes)}
            check={(t) => (fromHex(t).ok ? null : 'Bytes in hex.')}
            onCommit={(t) => {
              const read = fromHex(t)
              if (read.ok) onChange({ ...part, bytes: Array.from(read.value) })
            }}
          />,
        )}
      {size}
      {order}
      {part.part === 'length' && (
        <>
          {line(
            'Counts',
            <Choice
              label="What it counts"
              value={part.counts}
              options={countsKinds}
              onChange={(counts) => onChange({ ...part, counts: counts as typeof part.counts })}
            />,
          )}
          {line(
            'and adds',
            <NumberField
              label="Added to the count"
              value={part.adds}
              min={-255}
              max={255}
              whole
              onCommit={(adds) => onChange({ ...part, adds })}
            />,
          )}
        </>
      )}
      {part.part === 'checksum' && (
        <>
          {line(
            'Algorithm',
            <Choice
              label="Algorithm"
              value={part.algorithm}
              options={checksumNames.map((n) => ({ value: n, label: checksums[n].label }))}
              onChange={(a) => onChange({ ...part, algorithm: a as typeof part.algorithm })}
            />,
          )}
          {line(
            'Covers',
            <Choice
              label="What it covers"
              value={part.covers}
              options={coversKinds}
              onChange={(c) => onChange({ ...part, covers: c as typeof part.covers })}
            />,
          )}
        </>
      )}
      {'codes' in part &&
        Object.entries(part.codes).map(([name, code]) => (
          <div key={name}>
            {line(
              name,
              <NumberField
                label={`Code of ${name}`}
                value={code}
                min={0}
                max={255}
                whole
                onCommit={(next) => onChange({ ...part, codes: { ...part.codes, [name]: next } } as Part)}
              />,
            )}
          </div>
        ))}
    </div>
  )
}
