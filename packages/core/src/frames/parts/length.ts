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
  counts: {
    number: ({ size, order, adds }) => ({ size, order, adds }),
    reach: (part, { here, end, payload, check }) =>
      ({
        payload,
        'after the length': { from: here.to, to: end },
        'after the length, without the check': { from: here.to, to: check ? Math.max(here.to, check.from) : end },
        'whole frame': { from: 0, to: end },
      })[part.counts],
    leaves: (part, { here, end, check }) =>
      ({
        payload: end,
        'after the length': here.to,
        'after the length, without the check': here.to + (check ? check.to - check.from : 0),
        'whole frame': 0,
      })[part.counts],
  },
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
