import type { Form, Way } from './layout.ts'
import type { Operation } from './messages.ts'
import { partKind, sizeOfPart, type Part } from './parts/table.ts'

export const partsOf = (way: Way, form: Form): Part[] => [...way.head, ...form.parts, ...way.end]

/** Start bytes outside the parts; a delimited body has none. */
export const startOf = (way: Way): readonly number[] => (way.framing.kind === 'delimited' ? [] : way.framing.start)

/** Bytes of a form without payload, start bytes included, flags not. */
export const fixedSizeOf = (way: Way, form: Form): number =>
  startOf(way).length + partsOf(way, form).reduce((sum, part) => sum + sizeOfPart(part), 0)

export const carriesPayload = (operation: Operation): boolean =>
  operation === 'write' || operation === 'value' || operation === 'report' || operation === 'message'

/** Where something stands from the start of a frame, or null where it is not at a fixed place. */
export function offsetOf(way: Way, form: Form, wanted: (part: Part) => boolean): number | null {
  let at = startOf(way).length
  for (const part of partsOf(way, form)) {
    if (wanted(part)) return at
    if (part.part === 'payload') return null
    at += sizeOfPart(part)
  }
  return null
}

export const isOperationPart = (part: Part): boolean => partKind(part.part)?.tells === 'operation'

/** The length field of a form less the length of its body: the same whatever the payload. Null: it has no length. */
export function lengthShiftOf(way: Way, form: Form): number | null {
  const parts = partsOf(way, form)
  const found = parts.find((p) => p.part === 'length')
  if (found?.part !== 'length') return null
  const at = offsetOf(way, form, (p) => p === found) ?? 0
  const check = parts.find((p) => p.part === 'checksum')
  const notCounted = {
    payload: fixedSizeOf(way, form),
    'after the length': at + found.size,
    'after the length, without the check': at + found.size + (check ? sizeOfPart(check) : 0),
    'whole frame': 0,
  }[found.counts]
  return found.adds - notCounted
}

/** A part where it stands in a body with so many bytes of payload: bytes `from` to `to` (excluded), start bytes counted. */
export interface Standing {
  part: Part
  from: number
  to: number
}

/** The parts of a form one after another. */
export function standingParts(way: Way, form: Form, payloadBytes: number): Standing[] {
  let at = startOf(way).length
  return partsOf(way, form).map((part) => {
    const from = at
    at += part.part === 'payload' ? payloadBytes : sizeOfPart(part)
    return { part, from, to: at }
  })
}

/** The bytes of a body that a length counts (before what it adds) or a check covers; null for a part that does neither. */
export function reachOf(way: Way, form: Form, part: Part, payloadBytes: number): { from: number; to: number } | null {
  const all = standingParts(way, form, payloadBytes)
  const here = all.find((s) => s.part === part)
  const end = all.at(-1)?.to ?? startOf(way).length
  const payload = all.find((s) => s.part.part === 'payload') ?? { from: end, to: end }
  const length = all.find((s) => s.part.part === 'length')
  const check = all.find((s) => s.part.part === 'checksum')
  if (!here) return null
  if (part.part === 'length')
    return {
      payload: { from: payload.from, to: payload.to },
      'after the length': { from: here.to, to: end },
      'after the length, without the check': { from: here.to, to: check ? Math.max(here.to, check.from) : end },
      'whole frame': { from: 0, to: end },
    }[part.counts]
  if (part.part !== 'checksum') return null
  const from = {
    'everything before': 0,
    'after the start': startOf(way).length,
    'after the length': length ? length.to : startOf(way).length,
    payload: payload.from,
  }[part.covers]
  return from < here.from ? { from, to: here.from } : null
}
