import { oneByte, partOf } from '../part.ts'

export const sequence = partOf({
  part: 'sequence',
  label: 'sequence',
  tells: 'sequence',
  ...oneByte,
  put: () => (body, at, message) => {
    body[at] = message.sequence & 255
    return null
  },
  read: () => (bytes, at, _size, _payload, into) => {
    into.sequence = bytes[at]!
    return null
  },
  says: (message) => String(message.sequence),
})
