import Joi from 'joi'
import { checksumNames, checksums, checksumSize, type ChecksumName, type CrcModel } from '../../base/index.ts'
import { oneOf, plain, record, whole, yesNo } from '../../describe/index.ts'
import type { NumberSpelling } from '../number.ts'
import { orderField, partOf } from '../part.ts'

/** Where a checksum begins. */
const covers = oneOf({
  'everything before': 'from first byte',
  'after the start': 'after start bytes',
  'after the length': 'after length',
  payload: 'data',
  'from byte': 'from a byte of the frame',
  'everything behind': 'all behind it',
})

const labels = {
  ...(Object.fromEntries(checksumNames.map((name) => [name, checksums[name].label])) as Record<ChecksumName, string>),
  'own crc': 'CRC of one’s own',
}
const width = plain<8 | 16 | 32>('whole', Joi.number().valid(8, 16, 32))
const crcNumber = plain<number>('hex', Joi.number().integer().min(0).max(0xffffffff))
const group = 'Part'

interface CrcSettings {
  width: 8 | 16 | 32
  polynomial: number
  initial: number
  reflected: boolean
  finalXor: number
}
const modelOf = ({ width, polynomial, initial, reflected, finalXor }: CrcSettings): CrcModel => ({
  width,
  polynomial,
  start: initial,
  reflected,
  finalXor,
})
const algorithmOf = (part: CrcSettings & { algorithm: ChecksumName | 'own crc' }): ChecksumName | CrcModel =>
  part.algorithm === 'own crc' ? modelOf(part) : part.algorithm
const bytesOf = (part: CrcSettings & { algorithm: ChecksumName | 'own crc'; spelling: NumberSpelling }): number =>
  checksumSize(algorithmOf(part)) * (part.spelling === 'hex' ? 2 : 1)

/** The codec works it out when all else of the frame stands. */
export const checksum = partOf({
  part: 'checksum',
  label: 'checksum',
  many: true,
  settings: record({
    algorithm: { label: 'Algorithm', type: oneOf(labels), default: 'crc-16-ccitt', group },
    order: orderField,
    covers: { label: 'Range', type: covers, default: 'everything before', group },
    first: { label: 'First byte, from 0', type: whole, default: 0, min: 0, max: 1000, group },
    leaves: { label: 'Bytes left out before it', type: whole, default: 0, min: 0, max: 1000, group },
    spelling: {
      label: 'Spelling',
      type: oneOf({ binary: 'binary', hex: 'hex digits (ASCII)' }),
      default: 'binary',
      group,
    },
    width: { label: 'Own CRC: bits', type: width, default: 16, group },
    polynomial: { label: 'Own CRC: polynomial', type: crcNumber, default: 0x1021, group },
    initial: { label: 'Own CRC: start', type: crcNumber, default: 0xffff, group },
    reflected: { label: 'Own CRC: reflected', type: yesNo, default: false, group },
    finalXor: { label: 'Own CRC: final XOR', type: crcNumber, default: 0, group },
  }),
  size: bytesOf,
  idle: ({ algorithm, covers: range }) => [
    ...(algorithm === 'own crc' ? [] : ['width', 'polynomial', 'initial', 'reflected', 'finalXor']),
    ...(range === 'from byte' ? [] : ['first']),
    ...(range === 'everything behind' ? ['leaves'] : []),
  ],
  made: (part) => (part.algorithm === 'own crc' ? `CRC-${part.width} of one’s own` : checksums[part.algorithm].label),
  wrong: (part) =>
    part.algorithm === 'own crc' &&
    Math.max(part.polynomial, part.initial, part.finalXor) >= (part.width === 32 ? 0x1_0000_0000 : 1 << part.width)
      ? { code: 'layout.crc', facts: { width: part.width } }
      : null,
  covers: {
    check: (part) => ({
      algorithm: algorithmOf(part),
      number: { size: bytesOf(part), order: part.spelling === 'hex' ? 'high' : part.order, spelling: part.spelling },
    }),
    from: (part, { start, here, payload, count }) =>
      ({
        'everything before': 0,
        'after the start': start,
        'after the length': count ? count.to : start,
        payload: payload.from,
        'from byte': part.first,
        'everything behind': here.to,
      })[part.covers],
    to: (part, { here, end }) => (part.covers === 'everything behind' ? end : here.from - part.leaves),
    begins: ({ covers: range }) => (range === 'payload' ? 'payload' : range === 'after the length' ? 'length' : null),
  },
})
