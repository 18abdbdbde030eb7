import Joi from 'joi'
import { toHex } from '../../base/index.ts'
import { record, plain } from '../../describe/index.ts'
import { partOf } from '../part.ts'

const bytes = plain<readonly number[]>('bytes', Joi.array().items(Joi.number().integer().min(0).max(255)).min(1).max(32))

export const constant = partOf({
  part: 'constant',
  label: 'constant',
  many: true,
  settings: record({ bytes: { label: 'Bytes', type: bytes, default: [0], group: 'Part' } }),
  size: (part) => part.bytes.length,
  made: (part) => toHex(part.bytes),
  put:
    ({ bytes: all }) =>
    (body, at) => {
      body.set(all, at)
      return null
    },
  read:
    ({ bytes: all }) =>
    (bytes, at) => {
      for (let k = 0; k < all.length; k++) if (bytes[at + k] !== all[k]) return 'constant'
      return null
    },
})
