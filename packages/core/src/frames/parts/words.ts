import { record } from '../../describe/index.ts'
import { putNumber, takeNumber } from '../../base/index.ts'
import { bytesWords, orderField, partOf, sizeField } from '../part.ts'

/** Words asked for; with a payload in the frame, the words of that payload. Problem: `frame.whole-words` (bytes). */
export const words = partOf({
  part: 'words',
  label: 'word count',
  settings: record({ size: sizeField(1), order: orderField }),
  neededBy: ['ask'],
  onlyIn: ['ask', 'write', 'value', 'report', 'message'],
  size: (part) => part.size,
  countsWords: (part) => part.size,
  made: bytesWords,
  put:
    ({ size, order }) =>
    (body, at, message) => {
      if ('payload' in message && message.payload.length % 2)
        return { code: 'frame.whole-words', facts: { bytes: message.payload.length } }
      putNumber(body, at, size, order, 'payload' in message ? message.payload.length / 2 : 'words' in message ? message.words : 0)
      return null
    },
  read:
    ({ size, order }, { hasPayload }) =>
    (bytes, at, _size, payloadSize, into) => {
      into.words = takeNumber(bytes, at, size, order)
      return hasPayload && into.words * 2 !== payloadSize ? 'words' : null
    },
  says: (message) => ('words' in message ? `${message.words} words` : ''),
})
