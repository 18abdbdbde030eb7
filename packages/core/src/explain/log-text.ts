import { sameBytes, toHex } from '../base/index.ts'
import type { Direction } from '../frames/index.ts'
import type { Protocol } from '../protocols/index.ts'

/** Bytes that were on the line, until when: what a log is written of. */
export interface OnLine {
  direction: Direction
  /** The last bit of the last byte, µs. */
  toUs: number
  bytes: Uint8Array
}

/**
 * A conversation as a log, a frame a line: `12.345678 TX 7E 51 …`, or, where frames are lines of characters, the line itself. TX is said
 * by the host. `LogIndex` reads it back.
 */
export const logText = (protocol: Protocol, frames: readonly OnLine[]): string =>
  frames
    .map(
      ({ direction, toUs, bytes }) =>
        `${(toUs / 1e6).toFixed(6)} ${direction === 'to panel' ? 'TX' : 'RX'} ${frameWords(protocol, direction, bytes)}\n`,
    )
    .join('')

/** A frame as characters where it can be typed so, else as hex. */
export function frameWords(protocol: Protocol, direction: Direction, bytes: Uint8Array): string {
  if (!protocol.isText[direction]) return toHex(bytes)
  const text = String.fromCharCode(...bytes.filter((byte) => byte >= 0x20 && byte !== 0x7f))
  for (let cut = 0; cut <= 4; cut++)
    for (const from of [0, 1, 2, 3, 4]) {
      const shown = text.slice(from, text.length - cut)
      const typed = shown.trim() === shown && shown ? protocol.typed(direction, shown) : null
      if (typed?.ok && sameBytes(typed.value, bytes)) return shown
    }
  return toHex(bytes)
}
