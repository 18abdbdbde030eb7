import { record } from '../../describe/index.ts'
import { putNumber, takeNumber } from '../../base/index.ts'
import { orderField, partOf, type PartKindOf } from '../part.ts'

const fields = { order: orderField }

/** The word of a `set bits` that says which bits, and the one that says what they become. */
const wordOf = (part: 'mask' | 'bits'): PartKindOf<typeof fields> =>
  partOf({
    part,
    label: part,
    settings: record(fields),
    neededBy: ['set bits'],
    onlyIn: ['set bits'],
    size: () => 2,
    made: ({ order }) => `2 bytes, ${order === 'low' ? 'little' : 'big'}-endian`,
    put:
      ({ order }) =>
      (body, at, message) => {
        if (message.operation === 'set bits') putNumber(body, at, 2, order, message[part])
        return null
      },
    read:
      ({ order }) =>
      (bytes, at, _size, _payload, into) => {
        into[part] = takeNumber(bytes, at, 2, order)
        return null
      },
  })

export const mask = wordOf('mask')
export const bits = wordOf('bits')
