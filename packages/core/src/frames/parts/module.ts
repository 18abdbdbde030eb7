import { record, whole } from '../../describe/index.ts'
import { mostIn, numberFields, numberWords, numberWrong, putWire, takeWire } from '../number.ts'
import { partOf } from '../part.ts'

/** The number of the module on a line that several share: what bears another is for somebody else. */
export const moduleNumber = partOf({
  part: 'module',
  label: 'module',
  settings: record({
    number: { label: 'Module number', type: whole, default: 1, min: 0, max: 65_535, group: 'Part' },
    ...numberFields(1),
  }),
  size: (part) => part.size,
  made: (part) => `${part.number}: ${numberWords(part)}`,
  wrong: (part) =>
    numberWrong(part) ??
    (part.number > mostIn(part) ? { code: 'layout.module', facts: { number: part.number, most: mostIn(part) } } : null),
  put: (part) => (body, at) => {
    putWire(body, at, part, part.number)
    return null
  },
  read: (part) => (bytes, at) => (takeWire(bytes, at, part) === part.number ? null : 'module'),
})
