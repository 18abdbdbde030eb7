import { record } from '../../describe/index.ts'
import type { BadCode } from '../bad.ts'
import { bytesField, framingOf } from '../framing.ts'
import { endedAt, type Coding } from './ended.ts'

/**
 * Consistent overhead byte stuffing (S. Cheshire and M. Baker, IEEE/ACM Transactions on Networking 7(2), 1999): blocks of up to
 * 254 bytes without a zero, each behind the number of its bytes and one, so that a zero ends the frame.
 */
export const cobs = framingOf({
  kind: 'cobs',
  label: 'COBS',
  detail: 'no zero inside, a zero ends each frame',
  settings: record({ start: bytesField('Start bytes', [], 0, 4) }),
  at: ({ start }) => endedAt(start, [0], coding),
  wrong: ({ start }) => (start.includes(0) ? { code: 'layout.start', facts: {} } : null),
})

/** A block of the most bytes, behind which no zero is meant. */
const fullBlock = 0xff

const coding: Coding = {
  most: (body) => body + 1 + Math.floor(body / 254),
  encode: (body, start) => {
    const out: number[] = Array.from(body.subarray(0, start))
    let code = out.push(1) - 1
    for (let i = start; i < body.length; i++) {
      if (body[i] !== 0) out[code] = out.push(body[i]!) - code
      if (body[i] === 0 || (out[code] === fullBlock && i + 1 < body.length)) code = out.push(1) - 1
    }
    return Uint8Array.from(out)
  },
  read: (wire, from, to, start, into) => {
    let size = 0
    for (let i = from; i < from + start; i++) into[size++] = wire[i]!
    if (to === from + start) return 'short'
    for (let at = from + start; at < to;) {
      const code = wire[at]!
      const end = at + code
      if (code === 0 || end > to) return 'escape'
      for (let i = at + 1; i < end; i++) into[size++] = wire[i]!
      if (end < to && code !== fullBlock) into[size++] = 0
      at = end
    }
    return size
  },
  decode: (wire, start) => {
    const body: number[] = Array.from(wire.subarray(0, start))
    const places = body.map((_, i) => i)
    // The number of a block stands for no byte: it belongs to the first one behind it, but where it stands for a zero.
    let number: number | null = start
    const push = (byte: number, at: number) => {
      body.push(byte)
      places.push(number ?? at)
      number = null
    }
    let fault: BadCode | null = wire.length > start ? null : 'short'
    for (let at = start; at < wire.length;) {
      const code = wire[at]!
      const end = at + code
      // A zero inside cannot come; a full block at the end would have been left as it is.
      if (code === 0 || end > wire.length) fault ??= 'escape'
      const behind = Math.min(wire.length, Math.max(end, at + 1))
      for (let i = at + 1; i < behind; i++) push(wire[i]!, i)
      if (behind < wire.length) {
        if (code === fullBlock) number ??= behind
        else push(0, behind)
      }
      at = behind
    }
    return { body: Uint8Array.from(body), places, fault }
  },
}
