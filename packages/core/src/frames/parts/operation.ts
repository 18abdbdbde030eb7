import { oneByte, partOf } from '../part.ts'

export const operation = partOf({
  part: 'operation',
  label: 'operation',
  tells: 'operation',
  ...oneByte,
  put:
    (_, { code }) =>
    (body, at) => {
      body[at] = code
      return null
    },
  read:
    (_, { code }) =>
    (bytes, at) =>
      bytes[at] === code ? null : 'operation',
  says: (message) => message.operation,
})

/** One byte: the sequence modulo 16 in the high four bits, the operation's code in the low four. */
export const sequenceAndOperation = partOf({
  part: 'sequence and operation',
  label: 'sequence · operation',
  tells: 'operation',
  ...oneByte,
  put:
    (_, { code }) =>
    (body, at, message) => {
      body[at] = ((message.sequence & 15) << 4) | code
      return null
    },
  read:
    (_, { code }) =>
    (bytes, at, _size, _payload, into) => {
      const byte = bytes[at]!
      into.sequence = byte >> 4
      return (byte & 15) === code ? null : 'operation'
    },
  says: (message) => `${message.operation} ${message.sequence}`,
})
