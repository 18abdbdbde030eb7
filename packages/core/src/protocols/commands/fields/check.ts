import { checksumFunction, checksumNames, checksums, checksumSize, good, type ChecksumName } from '../../../base/index.ts'
import { oneOf } from '../../../describe/index.ts'
import { putWire, takeWire, type WireNumber } from '../../../frames/index.ts'
import { described, settingTypes as t } from '../../../settings/index.ts'
import { fieldGroup as group, fieldKindOf } from '../field.ts'

const algorithms = Object.fromEntries(checksumNames.map((name) => [name, checksums[name].label])) as Record<ChecksumName, string>

interface Made {
  algorithm: ChecksumName
  spelling: 'binary' | 'hex'
  order: 'low' | 'high'
}
const wireOf = ({ algorithm, spelling, order }: Made): WireNumber => ({
  size: checksumSize(algorithm) * (spelling === 'hex' ? 2 : 1),
  order,
  spelling,
})

/** A check over what stands before it in the command. */
export const check = fieldKindOf({
  field: 'check',
  label: 'checksum',
  tint: 'checksum',
  settings: described({
    algorithm: { label: 'Algorithm', type: oneOf(algorithms), default: 'crc-16-ccitt', group },
    spelling: { label: 'Spelling', type: oneOf({ binary: 'binary', hex: 'hex digits (ASCII)' }), default: 'binary', group },
    order: { label: 'Byte order', type: oneOf({ low: 'little-endian', high: 'big-endian' }), default: 'high', group },
    first: { label: 'First byte, from 0', type: t.whole, default: 0, min: 0, max: 240, group },
  }),
  made: ({ algorithm }) => algorithms[algorithm],
  size: (field) => wireOf(field).size,
  put(field, _value, before) {
    const number = wireOf(field)
    const into = new Uint8Array(number.size)
    const covered = Uint8Array.from(before)
    putWire(into, 0, number, checksumFunction(field.algorithm)(covered, Math.min(field.first, covered.length), covered.length))
    return good([...into])
  },
  read: (field, bytes, from) =>
    checksumFunction(field.algorithm)(bytes, Math.min(field.first, from), from) === takeWire(bytes, from, wireOf(field))
      ? ''
      : null,
})
