import { checksumNames, checksums } from '../../base/index.ts'
import { record, oneOf } from '../../describe/index.ts'
import { orderField, partOf } from '../part.ts'

/** Where a checksum begins; it always ends right before itself. */
const covers = oneOf({
  'everything before': 'from first byte',
  'after the start': 'after start bytes',
  'after the length': 'after length',
  payload: 'data',
})

const checksumLabels = Object.fromEntries(checksumNames.map((name) => [name, checksums[name].label])) as Record<
  (typeof checksumNames)[number],
  string
>

/** The codec works it out when all else of the frame stands. */
export const checksum = partOf({
  part: 'checksum',
  label: 'checksum',
  settings: record({
    algorithm: {
      label: 'Algorithm',
      type: oneOf(checksumLabels),
      default: 'crc-16-ccitt',
      group: 'Part',
    },
    order: orderField,
    covers: { label: 'Range', type: covers, default: 'everything before', group: 'Part' },
  }),
  size: (part) => checksums[part.algorithm].size,
  made: (part) => checksums[part.algorithm].label,
  covers: {
    check: ({ algorithm, order }) => ({ algorithm, order }),
    from: (part, { start, payload, count }) =>
      ({
        'everything before': 0,
        'after the start': start,
        'after the length': count ? count.to : start,
        payload: payload.from,
      })[part.covers],
    begins: ({ covers: range }) => (range === 'payload' ? 'payload' : range === 'after the length' ? 'length' : null),
  },
})
