import { record, whole } from '../../describe/index.ts'
import { bytesField, framingOf } from '../framing.ts'
import { ledAt } from './led.ts'

/** Start bytes, and every frame has so many bytes in all. */
export const fixed = framingOf({
  kind: 'fixed',
  label: 'fixed length',
  detail: 'all frames alike',
  settings: record({
    length: { label: 'Frame length', type: whole, default: 8, min: 2, max: 1100, unit: 'bytes', group: 'Framing' },
    start: bytesField('Start bytes', [0xc3], 0, 8),
  }),
  bodySize: ({ length }) => length,
  at: ({ start, length }) => ledAt(start, length),
  wrong: () => null,
})
