import Joi from 'joi'
import { record, plain, type Type } from '../../describe/index.ts'
import { eventKinds, reasons, type EventKind, type Reason } from '../messages.ts'
import { partOf } from '../part.ts'

export const plainEventCodes: Record<EventKind, number> = { pressed: 1, lifted: 2, held: 3, 'slid off': 4 }
export const plainReasonCodes: Record<Reason, number> = {
  operation: 1,
  address: 2,
  'not writable': 3,
  length: 4,
  value: 5,
  busy: 6,
}

/** A byte for each kind. A kind that is new gets its plain code, or the lowest that no other has. */
function codesOf<K extends string>(kinds: readonly K[], plainCodes: Record<K, number>): Type<Record<K, number>> {
  const byte = Joi.number().integer().min(0).max(255)
  return plain<Record<K, number>>(
    'codes',
    Joi.object(Object.fromEntries(kinds.map((k) => [k, byte]))).custom((given: Record<K, number>) => {
      if (kinds.every((kind) => kind in given)) return given
      const taken = new Set<number>(Object.values(given))
      const all: Record<string, number> = {}
      for (const kind of kinds) {
        let code = given[kind] ?? plainCodes[kind]
        if (!(kind in given)) for (let free = 0; taken.has(code); free++) code = free
        taken.add(code)
        all[kind] = code
      }
      return all
    }),
  )
}

/** Two kinds of one code would have one frame: which was meant? Problem: `layout.same-codes` (one, other, code). */
function twice(codes: Record<string, number>) {
  const seen = new Map<number, string>()
  for (const [kind, code] of Object.entries(codes)) {
    const other = seen.get(code)
    if (other) return { code: 'layout.same-codes', facts: { one: other, other: kind, code } }
    seen.set(code, kind)
  }
  return null
}

export const what = partOf({
  part: 'what',
  label: 'event',
  settings: record({
    codes: { label: 'Codes', type: codesOf(eventKinds, plainEventCodes), default: plainEventCodes, group: 'Part' },
  }),
  neededBy: ['event'],
  onlyIn: ['event'],
  size: () => 1,
  made: () => '1 byte',
  put:
    ({ codes }) =>
    (body, at, message) => {
      if (message.operation === 'event') body[at] = codes[message.what]
      return null
    },
  read:
    ({ codes }) =>
    (bytes, at, _size, _payload, into) => {
      into.what = eventKinds.find((kind) => codes[kind] === bytes[at]) ?? null
      return into.what ? null : 'what'
    },
  says: (message) => (message.operation === 'event' ? message.what : ''),
  wrong: ({ codes }) => twice(codes),
})

export const reason = partOf({
  part: 'reason',
  label: 'reason',
  settings: record({
    codes: { label: 'Codes', type: codesOf(reasons, plainReasonCodes), default: plainReasonCodes, group: 'Part' },
  }),
  neededBy: ['refused'],
  onlyIn: ['refused'],
  size: () => 1,
  made: () => '1 byte',
  put:
    ({ codes }) =>
    (body, at, message) => {
      if (message.operation === 'refused') body[at] = codes[message.reason]
      return null
    },
  read:
    ({ codes }) =>
    (bytes, at, _size, _payload, into) => {
      into.reason = reasons.find((kind) => codes[kind] === bytes[at]) ?? null
      return into.reason ? null : 'reason'
    },
  says: (message) => (message.operation === 'refused' ? message.reason : ''),
  wrong: ({ codes }) => twice(codes),
})
