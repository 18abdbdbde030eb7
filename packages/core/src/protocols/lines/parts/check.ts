import { checksumNames, checksumOf, checksums, good } from '../../../base/index.ts'
import { oneOf, record } from '../../../describe/index.ts'
import { faultAt, linePart } from '../part.ts'
import { asBytes } from '../spelling.ts'

const labels = Object.fromEntries(checksumNames.map((name) => [name, checksums[name].label])) as Record<
  (typeof checksumNames)[number],
  string
>
const hexOf = (algorithm: (typeof checksumNames)[number], before: string): string =>
  checksumOf(algorithm, asBytes(before))
    .toString(16)
    .toUpperCase()
    .padStart(2 * checksums[algorithm].size, '0')

/** A checksum over all characters before it, in hex figures, the high ones first. */
export const check = linePart({
  part: 'check',
  label: 'checksum',
  tint: 'checksum',
  settings: record({ algorithm: { label: 'Algorithm', type: oneOf(labels), default: 'xor-8', group: 'Part' } }),
  made: ({ algorithm }) => checksums[algorithm].label,
  size: ({ algorithm }) => 2 * checksums[algorithm].size,
  put: ({ algorithm }, _message, _ground, before) => good(hexOf(algorithm, before)),
  read: ({ algorithm }, line, at) => {
    const right = hexOf(algorithm, line.slice(0, at))
    const to = at + right.length
    return line.slice(at, to).toUpperCase() === right ? to : faultAt('check', at, Math.min(to, line.length), { right })
  },
})
