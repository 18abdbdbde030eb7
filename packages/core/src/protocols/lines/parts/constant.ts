import { good } from '../../../base/index.ts'
import { record, plain, yesNo } from '../../../describe/index.ts'
import Joi from 'joi'
import { faultAt, linePart } from '../part.ts'

/** Characters that are bytes: 1 to 255. */
const isBytes = (text: string): boolean => [...text].every((c) => c.charCodeAt(0) > 0 && c.charCodeAt(0) <= 0xff)
export const characters = plain<string>(
  'line text',
  Joi.string()
    .min(1)
    .max(64)
    .custom((text: string, helpers) => (isBytes(text) ? text : helpers.error('string.pattern.base'))),
)

/** Characters that always stand there: a command word, a comma, an equals sign. */
export const words = linePart({
  part: 'words',
  label: 'words',
  tint: 'operation',
  many: true,
  settings: record({ text: { label: 'Characters', type: characters, default: 'set', group: 'Part' } }),
  made: ({ text }) => text,
  constant: ({ text }) => text,
  size: ({ text }) => text.length,
  put: ({ text }) => good(text),
  read: ({ text }, line, at) => (line.startsWith(text, at) ? at + text.length : faultAt('word', at, at + text.length, { text })),
})

/** Characters that separate two parts. */
export const gap = linePart({
  part: 'gap',
  label: 'gap',
  tint: 'start',
  many: true,
  settings: record({
    text: { label: 'Characters', type: characters, default: ' ', group: 'Part' },
    any: { label: 'Any number of them is heard', type: yesNo, default: false, group: 'Part' },
  }),
  made: ({ text, any }) => (text === ' ' ? (any ? 'blanks' : 'a blank') : text),
  constant: ({ text }) => text,
  put: ({ text }) => good(text),
  read: ({ text, any }, line, at) => {
    if (!line.startsWith(text, at)) return faultAt('gap', at, at + text.length, { text })
    let to = at + text.length
    while (any && line.startsWith(text, to)) to += text.length
    return to
  },
})
