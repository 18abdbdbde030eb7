import { partOf, partSettings } from '../part.ts'

export const sequence = partOf({
  part: 'sequence',
  label: 'sequence',
  tells: 'sequence',
  settings: partSettings({}),
  size: () => 1,
  made: () => '1 byte',
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
