import { ActionIcon, CopyButton, Menu } from '@mantine/core'
import { Copy } from 'lucide-react'
import { frameAsCArray, frameAsCString, frameAsHex, type Anatomy, type Piece } from '@moth-lamp/core/frames'
import { hexByte, toHex } from '@moth-lamp/core/base'
import { Items } from '../controls/pop.tsx'
import styles from './frame.module.css'

/** The tint of a piece: flags and constants share one, the control byte is told by its operation. */
export const tintOf = (kind: Piece['kind']): string =>
  kind === 'sequence and operation' ? 'operation' : ['flag', 'start', 'end', 'constant'].includes(kind) ? 'start' : kind

const pieceAt = (anatomy: Anatomy | null, at: number): Pick<Piece, 'kind' | 'label'> =>
  anatomy?.pieces.find((p) => at >= p.from && at < p.to) ?? { kind: 'unknown', label: 'unknown' }

/** Bytes tinted by part; `differsFrom` outlines those that are wrong against another frame, `changedFrom` underlines those that are others, `marks` those that show what is wrong. */
export function Bytes({
  bytes,
  anatomy,
  differsFrom,
  changedFrom,
  marks,
  marked,
  isDense = false,
  most = Infinity,
}: {
  bytes: Uint8Array
  anatomy: Anatomy | null
  differsFrom?: Uint8Array | null
  changedFrom?: Uint8Array | null
  marks?: readonly { from: number; to: number }[]
  /** Bytes that something points at have an outline. */
  marked?(at: number): boolean
  /** Bytes of one part together: of many frames in a list. */
  isDense?: boolean
  /** Bytes at most; of characters, which are narrower, twice as many. */
  most?: number
}) {
  const isText = anatomy?.isText ?? false
  const shown = bytes.subarray(0, isText ? 2 * most : most)
  const wrong = marks ?? (anatomy?.wrong ? [anatomy.wrong] : [])
  const stateOf = (i: number, byte: number): string =>
    [
      differsFrom && differsFrom[i] !== byte ? 'differs' : '',
      changedFrom && changedFrom[i] !== byte ? 'changed' : '',
      marked?.(i) ? 'marked' : '',
      wrong.some(({ from, to }) => i >= from && i < to) ? 'off' : '',
    ]
      .filter(Boolean)
      .join(' ')
  if (isDense) return <DenseBytes bytes={shown} anatomy={anatomy} stateOf={stateOf} isMore={shown.length < bytes.length} />
  return (
    <span className={`${styles.bytes} ${isText ? styles.text : ''}`}>
      {Array.from(shown, (byte, i) => {
        const { kind, label } = pieceAt(anatomy, i)
        return (
          <span
            key={i}
            className={styles.byte}
            data-tint={tintOf(kind)}
            data-byte={stateOf(i, byte)}
            title={isText ? `${label} · ${hexByte(byte)}` : label}
          >
            {isText ? <Character byte={byte} /> : hexByte(byte)}
          </span>
        )
      })}
      {shown.length < bytes.length && '…'}
    </span>
  )
}

interface DenseProps {
  bytes: Uint8Array
  anatomy: Anatomy | null
  stateOf(i: number, byte: number): string
  isMore: boolean
}

/** Bytes that are of one part, and of one state, in one box. */
function DenseBytes({ bytes, anatomy, stateOf, isMore }: DenseProps) {
  const isText = anatomy?.isText ?? false
  const runs: { tint: string; state: string; bytes: number[]; at: number }[] = []
  bytes.forEach((byte, i) => {
    const tint = tintOf(pieceAt(anatomy, i).kind)
    const state = stateOf(i, byte)
    const last = runs.at(-1)
    if (last?.tint === tint && last.state === state) last.bytes.push(byte)
    else runs.push({ tint, state, bytes: [byte], at: i })
  })
  return (
    <span className={`${styles.bytes} ${isText ? styles.text : ''}`}>
      {runs.map((run) => (
        <span key={run.at} className={styles.byte} data-tint={run.tint} data-byte={run.state}>
          {isText ? run.bytes.map((byte, k) => <Character key={k} byte={byte} />) : toHex(run.bytes)}
        </span>
      ))}
      {isMore && '…'}
    </span>
  )
}

/** Names of the control characters that end lines and fields (ISO 646). */
const controlNames: Readonly<Record<number, string>> = { 0: 'NUL', 2: 'STX', 3: 'ETX', 9: 'TAB', 10: 'LF', 13: 'CR' }

/** A byte of a line as a character; one that cannot be seen as a small mark. */
export function Character({ byte }: { byte: number }) {
  if (byte === 0x20) return <>{'\u00a0'}</>
  // FE and FF stand in no UTF-8.
  if ((byte > 0x20 && byte < 0x7f) || (byte > 0xa0 && byte < 0xfe)) return <>{String.fromCharCode(byte)}</>
  return <small className={styles.mark}>{controlNames[byte] ?? hexByte(byte)}</small>
}

/** A frame piece by piece with what each is. */
export function AnatomyView({
  bytes,
  anatomy,
  explain,
}: {
  bytes: Uint8Array
  anatomy: Anatomy
  explain?(piece: Piece): string
}) {
  return (
    <div className={styles.anatomy}>
      {anatomy.pieces.map((piece) => (
        <div className={styles.piece} data-piece key={piece.from}>
          <span
            className={`${styles.bytes} ${anatomy.isText ? styles.text : ''}`}
            title={toHex(bytes.slice(piece.from, piece.to))}
          >
            {Array.from(bytes.slice(piece.from, piece.to), (byte, i) => (
              <span key={i} className={styles.byte} data-tint={tintOf(piece.kind)}>
                {anatomy.isText ? <Character byte={byte} /> : hexByte(byte)}
              </span>
            ))}
          </span>
          <div>{explain?.(piece) || piece.says || piece.label}</div>
        </div>
      ))}
    </div>
  )
}

/** Copies a frame in the forms firmware wants; what was copied is said. */
export function CopyFrame({ bytes, call, isText = false }: { bytes: Uint8Array; call?: string; isText?: boolean }) {
  const forms = [
    ...(isText ? [{ name: 'C string', text: frameAsCString(bytes) }] : []),
    { name: 'hex', text: frameAsHex(bytes) },
    { name: 'C array', text: frameAsCArray(bytes) },
    ...(call ? [{ name: 'call', text: call }] : []),
  ]
  return (
    <Menu position="bottom-end">
      <Menu.Target>
        <ActionIcon size={19} variant="subtle" aria-label="Copy the frame" title="copy">
          <Copy size={12} />
        </ActionIcon>
      </Menu.Target>
      <Items>
        {forms.map(({ name, text }) => (
          <CopyButton key={name} value={text}>
            {({ copied, copy }) => (
              <Menu.Item closeMenuOnClick={false} onClick={copy}>
                {copied ? `${name}: copied` : `as ${name}`}
              </Menu.Item>
            )}
          </CopyButton>
        ))}
      </Items>
    </Menu>
  )
}
