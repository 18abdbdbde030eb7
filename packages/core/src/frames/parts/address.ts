import { oneOf, record } from '../../describe/index.ts'
import { mostIn, numberFields, numberWords, numberWrong, putWire, takeWire } from '../number.ts'
import { partOf } from '../part.ts'

/** Of the first word; of an event the number of the widget, of a message its own. Problem: `frame.address` (address, most). */
export const address = partOf({
  part: 'address',
  label: 'address',
  settings: record({
    ...numberFields(2),
    unit: {
      label: 'Counted in',
      type: oneOf({ words: 'words', bytes: 'bytes (two to a word)' }),
      default: 'words',
      group: 'Part',
    },
  }),
  neededBy: ['write', 'set bits', 'ask', 'report', 'event', 'message'],
  size: (part) => part.size,
  made: (part) => numberWords(part) + (part.unit === 'bytes' ? ', in bytes' : ''),
  wrong: numberWrong,
  put: (part) => {
    const scale = part.unit === 'bytes' ? 2 : 1
    const most = Math.floor(mostIn(part) / scale)
    return (body, at, message) => {
      if (message.address > most) return { code: 'frame.address', facts: { address: message.address, most } }
      putWire(body, at, part, message.address * scale)
      return null
    }
  },
  read: (part) => {
    const { size, order, spelling, unit } = part
    if (unit === 'words' && spelling === 'binary' && size === 1)
      return (bytes, at, _size, _payload, into) => {
        into.address = bytes[at]!
        return null
      }
    if (unit === 'words' && spelling === 'binary' && size === 2 && order === 'low')
      return (bytes, at, _size, _payload, into) => {
        into.address = bytes[at]! | (bytes[at + 1]! << 8)
        return null
      }
    return (bytes, at, _size, _payload, into) => {
      const value = takeWire(bytes, at, part)
      if (value < 0) return 'digits'
      if (unit === 'bytes' && value % 2) return 'half'
      into.address = unit === 'bytes' ? value / 2 : value
      return null
    }
  },
})
