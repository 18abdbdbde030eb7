import { Button } from '@mantine/core'
import { frameAsCArray, frameAsHex, type Anatomy, type Piece } from '@moth-lamp/core/frames'
import { hexByte } from '@moth-lamp/core/base'
import { useState } from 'react'

/** The tint of a piece: flags and constants share one, the control byte is told by its operation. */
export const tintOf = (kind: Piece['kind']): string =>
  kind === 'sequence and operation' ? 'operation' : kind === 'flag' || kind === 'start' || kind === 'constant' ? 'start' : kind

const pieceAt = (anatomy: Anatomy | null, at: number): Pick<Piece, 'kind' | 'label'> =>
  anatomy?.pieces.find((p) => at >= p.from && at < p.to) ?? { kind: 'unknown', label: 'unknown' }

/** Bytes tinted by part; `differsFrom` outlines those that are others there. */
export function Bytes({
  bytes,
  anatomy,
  differsFrom,
}: {
  bytes: Uint8Array
  anatomy: Anatomy | null
  differsFrom?: Uint8Array | null
}) {
  return (
    <span className="bytes">
      {Array.from(bytes, (byte, i) => (
        <span
          key={i}
          className={`byte ${tintOf(pieceAt(anatomy, i).kind)} ${differsFrom && differsFrom[i] !== byte ? 'differs' : ''}`}
          title={pieceAt(anatomy, i).label}
        >
          {hexByte(byte)}
        </span>
      ))}
    </span>
  )
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
    <div className="anatomy">
      {anatomy.pieces.map((piece) => (
        <div className="piece" key={piece.from}>
          <span className="bytes">
            {Array.from(bytes.slice(piece.from, piece.to), (byte, i) => (
              <span key={i} className={`byte ${tintOf(piece.kind)}`}>
                {hexByte(byte)}
              </span>
            ))}
          </span>
          <div>{explain?.(piece) || piece.says || piece.label}</div>
        </div>
      ))}
    </div>
  )
}

/** Copies a frame in the forms firmware wants. */
export function CopyFrame({ bytes, call }: { bytes: Uint8Array; call?: string }) {
  const [done, setDone] = useState('')
  const copy = (what: string, text: string) =>
    void navigator.clipboard.writeText(text).then(
      () => setDone(what),
      () => setDone('the browser does not allow copying'),
    )
  return (
    <span className="row small muted" style={{ gap: 4, whiteSpace: 'nowrap' }}>
      Copy as
      <Button variant="subtle" size="compact-xs" onClick={() => copy('hex', frameAsHex(bytes))}>
        hex
      </Button>
      <Button variant="subtle" size="compact-xs" onClick={() => copy('C array', frameAsCArray(bytes))}>
        C array
      </Button>
      {call && (
        <Button variant="subtle" size="compact-xs" onClick={() => copy('call', call)}>
          call
        </Button>
      )}
      {done && <span role="status">{done} copied</span>}
    </span>
  )
}
