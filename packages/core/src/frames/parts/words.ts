import { record } from '../../describe/index.ts'
import { numberFields, numberWords, numberWrong, putWire, takeWire } from '../number.ts'
import { partOf } from '../part.ts'

/** Words asked for; with a payload in the frame, the words of that payload. Problem: `frame.whole-words` (bytes). */
export const words = partOf({
  part: 'words',
  label: 'word count',
  settings: record(numberFields(1)),
  neededBy: ['ask'],
  onlyIn: ['ask', 'write', 'value', 'report', 'message', 'done'],
  size: (part) => part.size,
  countsWords: (part) => part,
  made: numberWords,
  wrong: numberWrong,
  put: (part) => (body, at, message) => {
    const payload = 'payload' in message ? message.payload : undefined
    if (payload && payload.length % 2) return { code: 'frame.whole-words', facts: { bytes: payload.length } }
    putWire(body, at, part, payload ? payload.length / 2 : 'words' in message ? message.words : 0)
    return null
  },
  read:
    (part, { hasPayload, bytesPerByte }) =>
    (bytes, at, _size, payloadSize, into) => {
      into.words = takeWire(bytes, at, part)
      if (into.words < 0) return 'digits'
      return hasPayload && into.words * 2 * bytesPerByte !== payloadSize ? 'words' : null
    },
  says: (message) => ('words' in message ? `${message.words} words` : ''),
})
