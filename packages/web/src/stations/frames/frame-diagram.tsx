import { hexByte } from '@moth-lamp/core/base'
import type { FormField } from '@moth-lamp/core/describe'
import {
  bodyOfPieces,
  countOf,
  framingAt,
  freshPart,
  isCheck,
  isCount,
  isPayload,
  operationTexts,
  partKind,
  partKinds,
  reachOf,
  standingParts,
  type BinaryWay,
  type Form,
  type Message,
  type Operation,
  type Part,
} from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { useProtocol } from '../../parts/protocol.ts'
import { AddPart, moved, PartBox, replaced } from './part-box.tsx'
import styles from './frames.module.css'

type Place = 'head' | 'parts' | 'end'

/** Bytes of payload of a frame that has no example. */
const usualPayload = 2
/** Bytes of a value that examples are tried with: a part may have room for longer ones only. */
const valueBytes = [2, 4, 6, 8]

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
  way: BinaryWay
  form: Form
  set(values: Partial<BinaryWay>): void
  setForm(change: Partial<Form>): void
}

/** A frame to scale: parts as wide as their bytes with an example in them, and below what length and check reach over. */
export function FrameDiagram({ project, way, form, set, setForm }: Props) {
  const body = useExample(project, form)
  const { before, start, after, edge } = framingAt(way.framing)
  // Data in digits, or with their addresses, take more bytes than the value has.
  const fixed = standingParts(way, form, 0).at(-1)?.to ?? 0
  const payloadBytes = body && form.parts.some(isPayload) ? Math.max(1, body.length - fixed) : usualPayload
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
  const move = (place: Place, from: number, to: number) => put(place, [...moved(lists[place], from, to)])
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
              key={`${place} ${standing.part.id ?? `${index} ${standing.part.part}`}`}
              part={standing.part}
              label={partKind(standing.part.part)?.label ?? standing.part.part}
              made={partKind(standing.part.part)?.made(standing.part as never) ?? ''}
              tint={isPayload(standing.part) ? 'payload' : standing.part.part}
              columns={`${column(standing.from)} / ${endOf(standing)}`}
              fields={fieldsOf(standing.part)}
              list={place}
              index={index}
              count={lists[place].length}
              scope={place === 'parts' ? `${operationTexts[form.operation]} only` : 'all frames'}
              onChange={(part) => put(place, replaced(lists[place], index, part))}
              onMove={(from, to) => move(place, from, to)}
            >
              {body && (
                <Hex bytes={body.slice(standing.from, standing.to)} most={isPayload(standing.part) ? way.mostPayload : null} />
              )}
            </PartBox>
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
            kinds={partKinds()}
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
  const direction = form.directions[0]!
  const message = example[form.operation]
  if (!protocol?.can(direction, form.operation)) return null
  const payload = 'payload' in message ? message.payload : undefined
  for (const size of payload ? valueBytes : [0]) {
    const word = project.panel.order === 'high' ? [...(payload ?? [])].reverse() : (payload ?? [])
    const filled = [...word, ...new Array<number>(Math.max(0, size - word.length)).fill(0)]
    const made = protocol.encode(direction, payload ? ({ ...message, payload: filled } as Message) : message)
    if (made.ok) return bodyOfPieces(protocol.dissect(direction, made.value).pieces)
  }
  return null
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

/** The settings of a part that mean something as it is set now. */
function fieldsOf(part: Part): readonly FormField[] {
  const kind = partKind(part.part)
  const idle = kind?.idle?.(part) ?? []
  return ((kind?.settings.list ?? []) as readonly FormField[]).filter(({ key }) => !idle.includes(key))
}

/** A part as it is before anyone has said more, its numbers in the order of the others. */
function partLike(way: BinaryWay, kind: string): Part {
  const part = freshPart(kind)
  const others = [...way.head, ...way.end].flatMap((p) => ('order' in p ? [p.order] : []))
  return 'order' in part && others[0] ? { ...part, order: others[0] } : part
}
