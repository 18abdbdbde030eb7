import { checksumNames, checksums } from '../../base/index.ts'
import { record, oneOf } from '../../describe/index.ts'
import { orderField, partOf } from '../part.ts'

/** Where a checksum begins; it always ends right before itself. */
const covers = oneOf('everything before', 'after the start', 'after the length', 'payload')

/** The codec works it out when all else of the frame stands. */
export const checksum = partOf({
  part: 'checksum',
  label: 'check',
  settings: record({
    algorithm: {
      label: 'Algorithm',
      type: {
        ...oneOf(...checksumNames),
        labels: Object.fromEntries(Object.entries(checksums).map(([name, { label }]) => [name, label])),
      },
      default: 'crc-16-ccitt',
      group: 'Part',
    },
    order: orderField,
    covers: { label: 'Covers', type: covers, default: 'everything before', group: 'Part' },
  }),
  size: (part) => checksums[part.algorithm].size,
  made: (part) => checksums[part.algorithm].label,
})
