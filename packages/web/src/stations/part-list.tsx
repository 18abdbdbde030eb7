import { Menu, Popover } from '@mantine/core'
import { checksumNames, checksums, fromHex, toHex, type Order } from '@moth-lamp/core/base'
import { countsKinds, coversKinds, freshPart, partKinds, type Layout, type Part } from '@moth-lamp/core/frames'
import { Choice, NumberField, TextField } from '../parts/fields.tsx'
import { nameOfPiece, tintOf } from '../parts/frame.tsx'

type Place = 'head' | 'parts' | 'end'

/** The parts of one place of the frame: each opens what it is made of; one more may be added. */
export function PartList({
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
            <button className={`part ${tintOf(part.part)}`} title={`stands in ${hint}`}>
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
