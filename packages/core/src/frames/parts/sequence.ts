import { record } from '../../describe/index.ts'
import { mostIn, numberFields, numberWords, numberWrong, putWire, takeWire } from '../number.ts'
import { partOf } from '../part.ts'

/** Numbers run up to 16 bits. */
const last = (part: Parameters<typeof mostIn>[0]): number => Math.min(mostIn(part), 0xffff)

/** The number of a frame: answers bear that of what they answer. */
export const sequence = partOf({
  part: 'sequence',
  label: 'sequence',
  tells: 'sequence',
  settings: record(numberFields(1)),
  size: (part) => part.size,
  made: numberWords,
  wrong: numberWrong,
  sequences: last,
  put: (part) => (body, at, message) => {
    putWire(body, at, part, message.sequence % (last(part) + 1))
    return null
  },
  read: (part) => (bytes, at, _size, _payload, into) => {
    into.sequence = takeWire(bytes, at, part)
    return into.sequence < 0 ? 'digits' : into.sequence > last(part) ? 'sequence' : null
  },
  says: (message) => String(message.sequence),
})
