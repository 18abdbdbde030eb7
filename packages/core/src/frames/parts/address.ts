import { record } from '../../describe/index.ts'
import { putNumber, takeNumber } from '../../base/index.ts'
import { bytesWords, mostIn, orderField, partOf, wideSizeField } from '../part.ts'

/** Of the first word; of an event the number of the widget, of a message its own. Problem: `frame.address` (address, most). */
export const address = partOf({
  part: 'address',
  label: 'address',
  settings: record({ size: wideSizeField(2), order: orderField }),
  neededBy: ['write', 'set bits', 'ask', 'value', 'report', 'event', 'message'],
  size: (part) => part.size,
  made: bytesWords,
  put: ({ size, order }) => {
    const most = mostIn(size)
    return (body, at, message) => {
      if (message.address > most) return { code: 'frame.address', facts: { address: message.address, most } }
      putNumber(body, at, size, order, message.address)
      return null
    }
  },
  read: ({ size, order }) =>
    size === 1
      ? (bytes, at, _size, _payload, into) => {
          into.address = bytes[at]!
          return null
        }
      : size === 2 && order === 'low'
        ? (bytes, at, _size, _payload, into) => {
            into.address = bytes[at]! | (bytes[at + 1]! << 8)
            return null
          }
        : (bytes, at, _size, _payload, into) => {
            into.address = takeNumber(bytes, at, size, order)
            return null
          },
})
