import { record } from '../../describe/index.ts'
import { bytesField, framingOf } from '../framing.ts'
import { ledAt } from './led.ts'

/** Start bytes, then a length field says where the frame ends. */
export const lengthLed = framingOf({
  kind: 'length-led',
  label: 'length field',
  detail: 'length-prefixed',
  settings: record({ start: bytesField('Start bytes', [0xd2], 0, 8) }),
  isLedByLength: true,
  at: ({ start }) => ledAt(start, null),
  wrong: () => null,
})
