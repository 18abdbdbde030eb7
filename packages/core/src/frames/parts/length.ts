import { putNumber, takeNumber } from '../../base/index.ts'
import { choiceText, record, oneOf, whole } from '../../describe/index.ts'
import { bytesWords, orderField, partOf, wideSizeField } from '../part.ts'

/** Range that a length counts; start bytes and flags are part of the whole frame. */
const counts = oneOf({
  payload: 'data',
  'after the length': 'bytes after it',
  'after the length, without the check': 'bytes after it, without the checksum',
  'whole frame': 'whole frame',
})

export const length = partOf({
  part: 'length',
  label: 'length',
  settings: record({
    size: wideSizeField(1),
    order: orderField,
    counts: { label: 'Length covers', type: counts, default: 'after the length', group: 'Part' },
    adds: { label: 'plus', type: whole, default: 0, min: -255, max: 255, group: 'Part' },
  }),
  size: (part) => part.size,
  made: (part) =>
    `${bytesWords(part)}: ${choiceText(counts, part.counts)}${part.adds ? ` ${part.adds > 0 ? '+' : '−'} ${Math.abs(part.adds)}` : ''}`,
  put:
    ({ size, order }, { lengthShift }) =>
    (body, at) => {
      putNumber(body, at, size, order, body.length + lengthShift)
      return null
    },
  read:
    ({ size, order }, { lengthShift }) =>
    (bytes, at, bodySize) =>
      takeNumber(bytes, at, size, order) === bodySize + lengthShift ? null : 'length',
})
