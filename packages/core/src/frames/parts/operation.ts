import Joi from 'joi'
import { putNumber, takeNumber, type Order } from '../../base/index.ts'
import { oneOf, plain, record } from '../../describe/index.ts'
import { orderField, partOf } from '../part.ts'

const oneOrTwo = plain<1 | 2>('whole', Joi.number().integer().valid(1, 2))

/** The code of the operation. */
export const operation = partOf({
  part: 'operation',
  label: 'operation',
  tells: 'operation',
  settings: record({ size: { label: 'Bytes', type: oneOrTwo, default: 1, min: 1, max: 2, group: 'Part' }, order: orderField }),
  size: (part) => part.size,
  made: ({ size, order }) => (size === 1 ? '1 byte' : `2 bytes, ${order === 'low' ? 'little' : 'big'}-endian`),
  codes: ({ size, order }) => ({ most: size === 1 ? 255 : 0xffff, mask: size === 1 ? 255 : 0, read: codeReader(size, order) }),
  put:
    ({ size, order }, { code }) =>
    (body, at) => {
      putNumber(body, at, size, order, code)
      return null
    },
  read:
    ({ size, order }, { code }) =>
    (bytes, at) =>
      takeNumber(bytes, at, size, order) === code ? null : 'operation',
  says: (message) => message.operation,
})

const codeReader = (size: 1 | 2, order: Order): ((bytes: Uint8Array, at: number) => number) =>
  size === 1 ? (bytes, at) => bytes[at]! : (bytes, at) => takeNumber(bytes, at, 2, order)

/** One byte: the sequence modulo 16 in four bits, the operation's code in the other four. */
export const sequenceAndOperation = partOf({
  part: 'sequence and operation',
  label: 'sequence · operation',
  tells: 'operation',
  settings: record({
    high: {
      label: 'High four bits',
      type: oneOf({ sequence: 'sequence', operation: 'operation' }),
      default: 'sequence',
      group: 'Part',
    },
  }),
  size: () => 1,
  made: ({ high }) => (high === 'sequence' ? '1 byte' : '1 byte, operation high'),
  codes: ({ high }) => ({
    most: 15,
    mask: high === 'sequence' ? 15 : 0,
    read: high === 'sequence' ? (bytes, at) => bytes[at]! & 15 : (bytes, at) => bytes[at]! >> 4,
  }),
  sequences: () => 15,
  put:
    ({ high }, { code }) =>
    (body, at, message) => {
      const sequence = message.sequence & 15
      body[at] = high === 'sequence' ? (sequence << 4) | code : (code << 4) | sequence
      return null
    },
  read:
    ({ high }, { code }) =>
    (bytes, at, _size, _payload, into) => {
      const byte = bytes[at]!
      const [sequence, said] = high === 'sequence' ? [byte >> 4, byte & 15] : [byte & 15, byte >> 4]
      into.sequence = sequence
      return said === code ? null : 'operation'
    },
  says: (message) => `${message.operation} ${message.sequence}`,
})
