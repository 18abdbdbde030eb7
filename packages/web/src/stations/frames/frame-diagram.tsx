import { Button, Menu, UnstyledButton } from '@mantine/core'
import type { DragEvent, KeyboardEvent } from 'react'
import { hexByte } from '@moth-lamp/core/base'
import type { FormField, Values } from '@moth-lamp/core/describe'
import {
  bodyOfPieces,
  countOf,
  framingAt,
  isCheck,
  isCount,
  isPayload,
  directionsOf,
  freshPart,
  partKind,
  partKinds,
  reachOf,
  standingParts,
  type Form,
  type Way,
  type Message,
  type Operation,
  type Part,
  type Standing,
  operationTexts,
} from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { Items, Pop } from '../../controls/pop.tsx'
import { SettingRow } from '../../inspector/setting-fields.tsx'
import { tintOf } from '../../parts/frame.tsx'
import { useProtocol } from '../../parts/protocol.ts'
import styles from './frames.module.css'

type Place = 'head' | 'parts' | 'end'

/** Bytes of payload that an example shows. */
const payloadBytes = 2

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

interface Props {
  project: Project
  form: Form
  set(values: Partial<Way>): void
  setForm(change: Partial<Form>): void
}

/** A frame to scale: parts as wide as their bytes with an example in them, and below what length and check reach over. */
export function FrameDiagram({ project, form, set, setForm }: Props) {
  const way = project.layout.toPanel
  const body = useExample(project, form)
  const { before, start, after, edge } = framingAt(way.framing)
  const all = standingParts(way, form, payloadBytes)
  const size = all.at(-1)?.to ?? start.length
  const hasPayload = form.parts.some(isPayload)
  // Columns: the opening flag, one a byte, one more for what else a payload may hold, the closing flag.
  const payloadEnd = all.find((s) => isPayload(s.part))?.to ?? Infinity
  const column = (at: number) => 1 + before.length + at + (hasPayload && at >= payloadEnd ? 1 : 0)
  const endOf = (s: { to: number }) => column(s.to - 1) + 1 + (hasPayload && s.to === payloadEnd ? 1 : 0)
  const columns = column(size - 1) + after.length + (hasPayload && payloadEnd === size ? 1 : 0)
  const placeOf = (i: number): Place => {
    if (i < way.head.length) return 'head'
    return i < way.head.length + form.parts.length ? 'parts' : 'end'
  }
  const lists = { head: way.head, parts: form.parts, end: way.end }
  const put = (place: Place, parts: Part[]) => (place === 'parts' ? setForm({ parts }) : set({ [place]: parts }))
  const indexIn = (i: number) =>
    i - (placeOf(i) === 'head' ? 0 : way.head.length + (placeOf(i) === 'end' ? form.parts.length : 0))
  const move = (place: Place, from: number, to: number) => {
    const next = [...lists[place]]
    const [moved] = next.splice(from, 1)
    if (moved && to >= 0 && to <= next.length) put(place, next.toSpliced(to, 0, moved))
  }
  return (
    <div className={styles.diagram} role="tabpanel" aria-label={`Fields of ${operationTexts[form.operation]}`}>
      <div className={styles.bytes} style={{ gridTemplateColumns: `repeat(${columns}, minmax(70px, 1fr))` }}>
        {Array.from({ length: size }, (_, at) => (
          <span key={at} className={styles.offset} style={{ gridColumn: column(at) }}>
            {at < payloadEnd ? at + before.length : `n + ${at + before.length - payloadBytes}`}
          </span>
        ))}
        {before.length > 0 && <FixedPart label={edge} bytes={before} column={1} />}
        {after.length > 0 && <FixedPart label={edge} bytes={after} column={columns - after.length + 1} />}
        {start.length > 0 && <FixedPart label="start" bytes={start} column={before.length + 1} />}
        {all.map((standing, i) => {
          const [place, index] = [placeOf(i), indexIn(i)]
          if (standing.to === standing.from) return null
          return (
            <PartBox
              key={`${place} ${index} ${standing.part.part}`}
              standing={standing}
              columns={`${column(standing.from)} / ${endOf(standing)}`}
              hex={body ? body.slice(standing.from, standing.to) : null}
              most={isPayload(standing.part) ? way.mostPayload : null}
              place={place}
              index={index}
              count={lists[place].length}
              operation={form.operation}
              onChange={(part) =>
                put(
                  place,
                  lists[place].flatMap((p, k) => (k === index ? (part ? [part] : []) : [p])),
                )
              }
              onMove={(from, to) => move(place, from, to)}
            />
          )
        })}
        {all.map((standing, i) => {
          const reach = reachOf(way, form, standing.part, payloadBytes)
          if (!reach || reach.to <= reach.from) return null
          const checks = isCheck(standing.part)
          const adds = isCount(standing.part) ? countOf(standing.part).adds : 0
          const payloadIn = hasPayload && reach.to >= payloadEnd
          const bytes = reach.to - reach.from - (payloadIn ? payloadBytes : 0)
          const count = payloadIn ? (bytes ? `n + ${bytes} bytes` : 'n bytes') : `${bytes} bytes`
          return (
            <div
              key={`reach ${i}`}
              className={`${styles.reach} ${checks ? styles.check : styles.length}`}
              style={{
                gridColumn: `${column(reach.from)} / ${endOf({ to: reach.to })}`,
              }}
            >
              <span>
                <strong>{checks ? 'checksum range:' : 'length includes'}</strong> {count}
                {adds ? ` ${adds > 0 ? '+' : '−'} ${Math.abs(adds)}` : ''}
              </span>
            </div>
          )
        })}
      </div>
      <div className={styles.adders}>
        {(['head', 'parts', 'end'] as const).map((place) => (
          <AddPart
            key={place}
            where={
              place === 'head' ? 'Header field' : place === 'end' ? 'Trailer field' : `Field in ${operationTexts[form.operation]}`
            }
            onAdd={(kind) => put(place, [...lists[place], partLike(way, kind)])}
          />
        ))}
        <span className="muted small">Drag fields to reorder (Alt+arrows); click to edit</span>
      </div>
    </div>
  )
}

/** The bytes of an example between its flags, without escapes; null where the layout cannot say it. */
function useExample(project: Project, form: Form): Uint8Array | null {
  const protocol = useProtocol()
  const direction = directionsOf[form.operation][0]!
  const message = example[form.operation]
  const turned =
    project.panel.order === 'high' && 'payload' in message ? { ...message, payload: [...message.payload].reverse() } : message
  const made = protocol?.can(direction, form.operation) ? protocol.encode(direction, turned) : null
  if (!protocol || !made?.ok) return null
  return bodyOfPieces(protocol.dissect(direction, made.value).pieces)
}

function FixedPart({ label, bytes, column }: { label: string; bytes: readonly number[]; column: number }) {
  return (
    <span className={styles.part} data-tint="start" style={{ gridColumn: `${column} / span ${bytes.length}` }}>
      <strong>{label}</strong>
      <span className={styles.made}>constant</span>
      <Hex bytes={bytes} />
    </span>
  )
}

function Hex({ bytes, most }: { bytes: ArrayLike<number>; most?: number | null }) {
  return (
    <span className={styles.hex} aria-hidden>
      {Array.from(bytes, (byte, i) => (
        <span key={i}>{hexByte(byte)}</span>
      ))}
      {most != null && <span className={styles.more}>… {most}</span>}
    </span>
  )
}

interface BoxProps {
  standing: Standing
  columns: string
  hex: Uint8Array | null
  most: number | null
  place: Place
  index: number
  count: number
  operation: Operation
  onChange(part: Part | null): void
  onMove(from: number, to: number): void
}

/** One part: its bytes, what it is made of behind a click, moved among its neighbours by a drag. */
function PartBox({ standing: { part }, columns, hex, most, place, index, count, operation, onChange, onMove }: BoxProps) {
  const kind = partKind(part.part)
  const type = `text/moth-lamp-part-${place}`
  const drop = (e: DragEvent) => {
    const from = e.dataTransfer.getData(type)
    if (from !== '') onMove(Number(from), index)
  }
  const onKey = (e: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key]
    if (!e.altKey || !by) return
    e.preventDefault()
    onMove(index, index + by)
  }
  return (
    <Pop
      position="bottom"
      width={280}
      target={
        <UnstyledButton
          className={styles.part}
          data-tint={tintOf(part.part)}
          style={{ gridColumn: columns }}
          title={`Used in: ${place === 'parts' ? `${operationTexts[operation]} only` : 'all frames'}`}
          draggable
          onDragStart={(e) => e.dataTransfer.setData(type, String(index))}
          onDragOver={(e) => e.dataTransfer.types.includes(type) && e.preventDefault()}
          onDrop={drop}
          onKeyDown={onKey}
        >
          <strong>{kind?.label ?? part.part}</strong>
          <span className={styles.made}>{kind?.made(part as never)}</span>
          {hex && <Hex bytes={hex} most={most} />}
        </UnstyledButton>
      }
    >
      <div className="stack">
        <PartFields part={part} onChange={onChange} />
        <span className="row">
          <Button size="compact-xs" disabled={index === 0} onClick={() => onMove(index, index - 1)}>
            Move left
          </Button>
          <Button size="compact-xs" disabled={index === count - 1} onClick={() => onMove(index, index + 1)}>
            Move right
          </Button>
          <Button size="compact-xs" className="end" onClick={() => onChange(null)}>
            Remove
          </Button>
        </span>
        <span className="small muted">Used in: {place === 'parts' ? `${operationTexts[operation]} only` : 'all frames'}</span>
      </div>
    </Pop>
  )
}

function AddPart({ where, onAdd }: { where: string; onAdd(kind: string): void }) {
  return (
    <Menu position="bottom-start">
      <Menu.Target>
        <Button size="compact-xs" aria-label={`Add ${where}`}>
          + {where}
        </Button>
      </Menu.Target>
      <Items>
        {partKinds().map((kind) => (
          <Menu.Item key={kind.part} onClick={() => onAdd(kind.part)}>
            {kind.label}
          </Menu.Item>
        ))}
      </Items>
    </Menu>
  )
}

/** A part as it is before anyone has said more, its numbers in the order of the others. */
function partLike(way: Way, kind: string): Part {
  const part = freshPart(kind)
  const others = [...way.head, ...way.end].flatMap((p) => ('order' in p ? [p.order] : []))
  return 'order' in part && others[0] ? { ...part, order: others[0] } : part
}

/** Fields of a part, by the description of its kind. */
function PartFields({ part, onChange }: { part: Part; onChange(part: Part): void }) {
  const kind = partKind(part.part)
  return (
    <div>
      <strong>{kind?.label ?? part.part}</strong>
      {kind?.settings.list.map((field) => (
        <SettingRow
          key={field.key}
          setting={field as FormField}
          value={part[field.key as keyof Part]}
          mixed={false}
          nameHint=""
          siblings={part as unknown as Values}
          onChange={(value) => onChange({ ...part, [field.key]: value } as Part)}
        />
      ))}
    </div>
  )
}
