import type { BinaryWay, Form } from './layout.ts'
import type { Operation } from './messages.ts'
import type { WireNumber } from './number.ts'
import type { Around, Span } from './part.ts'
import { framingKind } from './framings/table.ts'
import { partKind, sizeOfPart, type Part } from './parts/table.ts'

/** A way as it is spoken: without its checks where they are off. */
export function spokenWay(way: BinaryWay): BinaryWay {
  if (way.checks !== 'off') return way
  const without = (parts: readonly Part[]) => parts.filter((part) => !isCheck(part))
  return {
    ...way,
    head: without(way.head),
    forms: way.forms.map((form) => ({ ...form, parts: without(form.parts) })),
    end: without(way.end),
  }
}

/** Bytes of a part in a way. */
const sizeIn = ({ checks }: BinaryWay, part: Part): number => (checks === 'off' && isCheck(part) ? 0 : sizeOfPart(part))

export const partsOf = (way: BinaryWay, form: Form): Part[] => [...way.head, ...form.parts, ...way.end]

/** Bytes before the parts of every body. */
export const startOf = ({ framing }: BinaryWay): readonly number[] => ('start' in framing ? framing.start : [])

/** Bytes of the body of a form, where frames have a fixed length; null where they do not. */
export function bodySizeOf({ framing }: BinaryWay, form?: Form): number | null {
  const all = framingKind(framing.kind)?.bodySize?.(framing) ?? null
  return all === null ? null : form?.size || all
}

/** Bytes of a form without payload, start bytes included, flags not. */
export const fixedSizeOf = (way: BinaryWay, form: Form): number =>
  startOf(way).length + partsOf(way, form).reduce((sum, part) => sum + sizeIn(way, part), 0)

export const carriesPayload = (operation: Operation): boolean =>
  operation === 'write' || operation === 'value' || operation === 'report' || operation === 'message'

/** Where something stands from the start of a frame, or null where it is not at a fixed place. */
export function offsetOf(way: BinaryWay, form: Form, wanted: (part: Part) => boolean): number | null {
  let at = startOf(way).length
  for (const part of partsOf(way, form)) {
    if (wanted(part)) return at
    if (isPayload(part)) return null
    at += sizeIn(way, part)
  }
  return null
}

export const isOperationPart = (part: Part): boolean => partKind(part.part)?.tells === 'operation'

/** The facts of a part's kind, asked of the part. */
export const isPayload = (part: Part): boolean => partKind(part.part)?.spans === 'payload'
export const isCount = (part: Part): boolean => partKind(part.part)?.counts !== undefined
export const isCheck = (part: Part): boolean => partKind(part.part)?.covers !== undefined

/** The number of a part that counts bytes. */
export const countOf = (part: Part): WireNumber & { adds: number; unit: number } => partKind(part.part)!.counts!.number(part)

/** A part where it stands in a body with so many bytes of payload: bytes `from` to `to` (excluded), start bytes counted. */
export interface Standing extends Span {
  part: Part
}

/** The parts of a form one after another. */
export function standingParts(way: BinaryWay, form: Form, payloadBytes: number): Standing[] {
  let at = startOf(way).length
  return partsOf(way, form).map((part) => {
    const from = at
    at += isPayload(part) ? payloadBytes : sizeIn(way, part)
    return { part, from, to: at }
  })
}

/** The places around a part of a form in a body with so many bytes of payload. */
export function aroundOf(way: BinaryWay, form: Form, here: Span, payloadBytes: number): Around {
  const all = standingParts(way, form, payloadBytes)
  const start = startOf(way).length
  const end = all.at(-1)?.to ?? start
  const found = (is: (part: Part) => boolean): Span | null => all.find(({ part }) => is(part)) ?? null
  return { start, here, end, payload: found(isPayload) ?? { from: end, to: end }, count: found(isCount), check: found(isCheck) }
}

/** The bytes counted by the length field of a form less those of its body: the same whatever the payload. Null: it has no length. */
export function lengthShiftOf(way: BinaryWay, form: Form): number | null {
  const part = partsOf(way, form).find(isCount)
  if (!part) return null
  const at = offsetOf(way, form, (p) => p === part) ?? 0
  const around = aroundOf(way, form, { from: at, to: at + sizeOfPart(part) }, 0)
  return countOf(part).adds - partKind(part.part)!.counts!.leaves(part, around)
}

/** The bytes of a body that a length counts (before what it adds) or a check covers; null for a part that does neither. */
export function reachOf(way: BinaryWay, form: Form, part: Part, payloadBytes: number): Span | null {
  const here = standingParts(way, form, payloadBytes).find((s) => s.part === part)
  const kind = partKind(part.part)
  if (!here || !kind) return null
  const around = aroundOf(way, form, here, payloadBytes)
  if (kind.counts) return kind.counts.reach(part, around)
  const from = kind.covers?.from(part, around)
  const to = kind.covers?.to?.(part, around) ?? here.from
  return from !== undefined && from < to ? { from, to } : null
}
