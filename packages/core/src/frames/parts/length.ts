import { choiceText, record, oneOf, whole } from '../../describe/index.ts'
import { numberFields, numberWords, numberWrong, putWire, takeWire } from '../number.ts'
import { partOf } from '../part.ts'

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
    ...numberFields(1),
    counts: { label: 'Length covers', type: counts, default: 'after the length', group: 'Part' },
    adds: { label: 'plus', type: whole, default: 0, min: -255, max: 255, group: 'Part' },
    unit: { label: 'Counted in', type: oneOf({ bytes: 'bytes', words: 'words of two bytes' }), default: 'bytes', group: 'Part' },
  }),
  size: (part) => part.size,
  made: (part) => {
    const plus = part.adds ? ` ${part.adds > 0 ? '+' : '−'} ${Math.abs(part.adds)}` : ''
    return `${numberWords(part)}: ${choiceText(counts, part.counts)}${plus}${part.unit === 'words' ? ', in words' : ''}`
  },
  wrong: numberWrong,
  counts: {
    number: (part) => ({
      size: part.size,
      order: part.order,
      spelling: part.spelling,
      adds: part.adds,
      unit: part.unit === 'words' ? 2 : 1,
    }),
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
    (part, { lengthShift, lengthUnit }) =>
    (body, at, message) => {
      const counted = body.length + lengthShift
      if (counted % lengthUnit)
        return { code: 'frame.whole-words', facts: { bytes: 'payload' in message ? (message.payload?.length ?? 0) : counted } }
      putWire(body, at, part, counted / lengthUnit)
      return null
    },
  read: (part, { lengthShift, lengthUnit }) =>
    lengthUnit === 1
      ? (bytes, at, bodySize) => (takeWire(bytes, at, part) === bodySize + lengthShift ? null : 'length')
      : (bytes, at, bodySize) => (takeWire(bytes, at, part) * lengthUnit === bodySize + lengthShift ? null : 'length'),
})
