import { directionsOf, operations, type Operation } from './messages.ts'
import { part } from './parts/table.ts'
import { freshFraming } from './framings/table.ts'
import { bothWays, plainParts, type Form, type BinaryLayout } from './layout.ts'

const codes: Record<Operation, number> = {
  write: 1,
  'set bits': 2,
  ask: 3,
  value: 4,
  report: 5,
  event: 6,
  done: 7,
  refused: 8,
  message: 9,
}

const forms: Form[] = operations.map((operation) => ({
  operation,
  directions: directionsOf[operation],
  code: codes[operation],
  parts: plainParts(operation, 'low'),
}))

/** HDLC-like framing of RFC 1662 with FCS-16; control byte, address, payload, all least significant first. */
export const lampBinary: BinaryLayout = bothWays('lamp binary', {
  framing: freshFraming('delimited'),
  payload: 'low',
  mostPayload: 240,
  gapUs: 50_000,
  head: [part('sequence and operation'), part('address', { size: 2, order: 'low' })],
  forms,
  end: [part('checksum', { algorithm: 'fcs-16', order: 'low', covers: 'everything before' })],
})

/** A length-led layout to start one's own from: one start byte, control byte, length of the whole frame, address, CRC; low byte first. */
export const lengthLedStart: BinaryLayout = bothWays('length-led', {
  framing: freshFraming('length-led'),
  payload: 'low',
  mostPayload: 240,
  gapUs: 50_000,
  head: [
    part('sequence and operation'),
    part('length', { size: 2, order: 'low', counts: 'whole frame', adds: 0 }),
    part('address', { size: 2, order: 'low' }),
  ],
  forms,
  end: [part('checksum', { algorithm: 'crc-16-kermit', order: 'low', covers: 'everything before' })],
})
