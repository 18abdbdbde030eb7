import { seededRandom, toHex, type Problem } from '../base/index.ts'
import { compileWay, encodeForm, rightChecks } from './codec.ts'
import type { CompiledForm, DirectionCodec } from './compiled.ts'
import type { Layout } from './layout.ts'
import { eventKinds, reasons, type Direction, type Message } from './messages.ts'
import { needsPayload, parseForm } from './parse.ts'

/** So many bodies of each form and size are looked at, and so many sizes of a pair. */
const samples = 12
const mostSizes = 48
/** A byte that has had more values than this may have any. */
const mostValues = 6

/** Two forms of one direction that one frame may be: found, with its bytes, or not decided within the steps that are taken. */
export interface Ambiguity {
  direction: Direction
  one: CompiledForm
  other: CompiledForm
  /** A frame that is both; null: none was found, and it was not shown that there is none. */
  wire: Uint8Array | null
  /** Both its readings. */
  readings: readonly Message[]
}

const known = new WeakMap<Layout, Ambiguity[]>()

/** All pairs of forms of the ways of bytes that are not shown to differ. The work is bounded, and done once for a layout. */
export function ambiguities(layout: Layout): Ambiguity[] {
  let found = known.get(layout)
  if (!found) known.set(layout, (found = lookThrough(layout)))
  return found
}

function lookThrough(layout: Layout): Ambiguity[] {
  return (['to panel', 'to host'] as const).flatMap((direction) => {
    const compiled = compileWay(layout, direction, 'low')
    if (!compiled.ok) return []
    const side = compiled.value
    const forms = [...side.byOperation.values()].flat()
    return forms.flatMap((one, i) => forms.slice(i + 1).flatMap((other) => pairOf(side, one, other) ?? []))
  })
}

function pairOf(side: DirectionCodec, one: CompiledForm, other: CompiledForm): Ambiguity | null {
  if (areToldApart(side, one, other)) return null
  const found = { direction: side.direction, one, other, wire: null, readings: [] }
  const sizes = commonSizes(side, one, other)
  let isOpen = sizes.length > mostSizes
  for (const size of sizes.slice(0, mostSizes)) {
    const [a, b] = [valuesOf(side, one, size), valuesOf(side, other, size)]
    if (!a || !b) continue
    const body = commonBody(a, b)
    if (!body) continue
    const both = bothRead(side, one, other, body)
    if (both) return { ...found, ...both }
    isOpen = true
  }
  return isOpen ? found : null
}

/** Forms that no frame is both of: other codes or data types; or an answer and a report, of which a dialogue knows which is meant. */
function areToldApart(side: DirectionCodec, one: CompiledForm, other: CompiledForm): boolean {
  if (side.operationAt >= 0 && one.code !== other.code) return true
  if (one.types.length && other.types.length && !one.types.some((type) => other.types.includes(type))) return true
  const pair = [one.operation, other.operation].sort().join()
  return pair === 'report,value'
}

/** The sizes of a body that both forms may have. */
function commonSizes(side: DirectionCodec, one: CompiledForm, other: CompiledForm): number[] {
  const range = (form: CompiledForm): [number, number] => {
    const { ownSize, fixedSize, hasPayload } = form
    return ownSize !== null
      ? [ownSize, ownSize]
      : [fixedSize + (needsPayload(form) ? 1 : 0), fixedSize + (hasPayload ? side.mostPayload : 0)]
  }
  const [a, b] = [range(one), range(other)]
  const [least, most] = [Math.max(a[0], b[0]), Math.min(a[1], b[1])]
  return Array.from({ length: Math.max(0, most - least + 1) }, (_, k) => least + k)
}

/** The values that each byte of a body of a form has had; null for one that may have any. Null: it has no such body. */
function valuesOf(side: DirectionCodec, form: CompiledForm, size: number): (ReadonlySet<number> | null)[] | null {
  const random = seededRandom(size + 1)
  const seen: (Set<number> | null)[] = Array.from({ length: size }, () => new Set<number>())
  const checked = new Set<number>()
  let made = 0
  for (let k = 0; k < samples; k++) {
    const body = bodyOf(side, form, size, (most) => random.below(most + 1), k)
    if (!body) continue
    made++
    for (const { at, bytes } of rightChecks(form, body)) for (let i = 0; i < bytes.length; i++) checked.add(at + i)
    for (let i = 0; i < size; i++) {
      seen[i]?.add(body[i]!)
      if (seen[i] && seen[i]!.size > mostValues) seen[i] = null
    }
  }
  return made ? seen.map((values, i) => (checked.has(i) ? null : values)) : null
}

/** A body of a form with arbitrary content; null where it has none of that size. */
function bodyOf(
  side: DirectionCodec,
  form: CompiledForm,
  size: number,
  any: (most: number) => number,
  k: number,
): Uint8Array | null {
  const room = Math.max(0, size - form.fixedSize)
  const packed = form.packing?.some(room, any) ?? null
  if (form.packing && !packed) return null
  const payload = packed?.payload ?? Array.from({ length: room }, () => any(255))
  const said = { sequence: any(0xffff), address: any(0xff) + (k % 2 ? any(0xff) * 256 : 0) }
  const messages: Record<Message['operation'], () => Message> = {
    write: () => ({ operation: 'write', ...said, payload, ...packed }),
    value: () => ({ operation: 'value', ...said, payload }),
    report: () => ({ operation: 'report', ...said, payload, ...packed }),
    message: () => ({ operation: 'message', ...said, payload }),
    'set bits': () => ({ operation: 'set bits', ...said, mask: any(0xffff), bits: any(0xffff) }),
    ask: () => ({ operation: 'ask', ...said, words: any(255) }),
    event: () => ({ operation: 'event', ...said, what: eventKinds[k % eventKinds.length]! }),
    done: () => ({ operation: 'done', ...said, payload }),
    refused: () => ({ operation: 'refused', ...said, reason: reasons[k % reasons.length]! }),
  }
  const made = encodeForm(side, form, messages[form.operation]())
  return made.ok && made.value.length === size ? made.value : null
}

/** A body whose bytes both forms may have; null where they have none in common. */
function commonBody(a: readonly (ReadonlySet<number> | null)[], b: readonly (ReadonlySet<number> | null)[]): Uint8Array | null {
  const body = new Uint8Array(a.length)
  for (let i = 0; i < body.length; i++) {
    const [one, other] = [a[i]!, b[i]!]
    if (one && other) {
      const common = [...one].find((value) => other.has(value))
      if (common === undefined) return null
      body[i] = common
    } else body[i] = [...(one ?? other ?? [0x11])][0]!
  }
  return body
}

/** The frame that a body makes, read as both; its checks are made as either of them says. */
function bothRead(
  side: DirectionCodec,
  one: CompiledForm,
  other: CompiledForm,
  body: Uint8Array,
): { wire: Uint8Array; readings: Message[] } | null {
  for (const form of [one, other]) {
    const tried = body.slice()
    for (const { at, bytes } of rightChecks(form, tried)) tried.set(bytes, at)
    const readings = [one, other].map((reader) => parseForm(side, reader, tried, 0, tried.length))
    if (readings.some((read) => typeof read === 'string')) continue
    const wire = side.framing.wrap(tried, side)
    if (wire.ok) return { wire: wire.value, readings: readings as Message[] }
  }
  return null
}

/** Two forms that one frame may be, as problems of a layout: `layout.ambiguous` (operation, other, direction, bytes). */
export const ambiguityProblems = (layout: Layout): Problem[] =>
  ambiguities(layout).flatMap(({ one, other, direction, wire }) =>
    wire
      ? [{ code: 'layout.ambiguous', facts: { operation: one.operation, other: other.operation, direction, bytes: toHex(wire) } }]
      : [],
  )

/** The pairs of forms that are not decided, as advice: `layout.undecided` (operation, other, direction). */
export const undecidedProblems = (layout: Layout): Problem[] =>
  ambiguities(layout).flatMap(({ one, other, direction, wire }) =>
    wire ? [] : [{ code: 'layout.undecided', facts: { operation: one.operation, other: other.operation, direction } }],
  )
