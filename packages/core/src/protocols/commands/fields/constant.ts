import Joi from 'joi'
import { good, sameBytes, toHex } from '../../../base/index.ts'
import { plain } from '../../../describe/index.ts'
import { described } from '../../../settings/index.ts'
import { fieldGroup, fieldKindOf } from '../field.ts'

const bytesType = plain<readonly number[]>('bytes', Joi.array().items(Joi.number().integer().min(0).max(255)).min(1).max(240))

/** Bytes that always stand there. */
export const constant = fieldKindOf({
  field: 'constant',
  label: 'constant',
  tint: 'operation',
  settings: described({ bytes: { label: 'Bytes', type: bytesType, default: [0], group: fieldGroup } }),
  made: ({ bytes }) => toHex(bytes),
  size: ({ bytes }) => bytes.length,
  constant: ({ bytes }) => bytes,
  put: ({ bytes }) => good(bytes),
  read: ({ bytes }, from, at, to) => (sameBytes(from.subarray(at, to), bytes) ? '' : null),
})
