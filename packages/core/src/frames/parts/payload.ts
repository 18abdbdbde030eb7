import { record } from '../../describe/index.ts'
import { partOf } from '../part.ts'

/** The words of memory, as many as there are. The codec copies them: their order is the layout's. */
export const payload = partOf({
  part: 'payload',
  label: 'data',
  settings: record({}),
  neededBy: ['write', 'value', 'report', 'message'],
  onlyIn: ['write', 'value', 'report', 'message', 'done'],
  spans: 'payload',
  size: () => 0,
  made: () => 'n words',
})
