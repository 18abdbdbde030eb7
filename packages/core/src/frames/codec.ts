import { bad, checksumFits, checksumFunction, good, putNumber, type Order, type Problem, type Result } from '../base/index.ts'
import { checkLayout } from './check.ts'
import type { Check, Codec, CompiledForm, DirectionCodec, PlacedPart, Step } from './compiled.ts'
import { framingAt, framingKind } from './framings/table.ts'
import { wayOf, type BinaryWay, type Form, type Layout } from './layout.ts'
import type { Direction, Message } from './messages.ts'
import type { Ground } from './part.ts'
import { partKind, sizeOfPart, type Part } from './parts/table.ts'
import {
  aroundOf,
  countOf,
  fixedSizeOf,
  isCheck,
  isCount,
  isOperationPart,
  isPayload,
  lengthShiftOf,
  offsetOf,
  partsOf,
  standingParts,
  startOf,
} from './place.ts'

/**
 * Both ways of a layout of bytes. `memory`: the order of bytes in the payload of a message, which is that of memory. Problem: the
 * first of `checkLayout`, or `layout.no-bytes` where a way is none of bytes.
 */
export function compileLayout(layout: Layout, memory: Order = 'low'): Result<Codec> {
  const [toPanel, toHost] = [compileWay(layout, 'to panel', memory), compileWay(layout, 'to host', memory)]
  if (!toPanel.ok) return toPanel
  return toHost.ok ? good({ toPanel: toPanel.value, toHost: toHost.value }) : toHost
}

/** The way of bytes of one direction. Problems as of `compileLayout`. */
export function compileWay(layout: Layout, direction: Direction, memory: Order): Result<DirectionCodec> {
  const problem = checkLayout(layout)[0]
  if (problem) return { ok: false, problem }
  const way = wayOf(layout, direction)
  return way.kind === 'binary' ? good(compileDirection(way, direction, memory)) : bad('layout.no-bytes', { direction })
}

/** The most bytes that a frame of a direction has on the wire, whatever is escaped in it. */
export const longestOnWire = ({ framing, longest }: DirectionCodec): number => framing.onWire(longest)

export const codecOf = (codec: Codec, direction: Direction): DirectionCodec =>
  direction === 'to panel' ? codec.toPanel : codec.toHost

function compileDirection(way: BinaryWay, direction: Direction, memory: Order): DirectionCodec {
  const travelling = way.forms.filter((f) => f.directions.includes(direction))
  const forms = travelling.map((form) => compileForm(way, form, travelling.length === 1))
  const byCode: CompiledForm[][] = []
  for (const form of forms) (byCode[form.code] ??= []).push(form)
  const first = travelling[0]
  const operationAt = first ? (offsetOf(way, first, isOperationPart) ?? -1) : -1
  const packed = first ? partsOf(way, first).some((p) => p.part === 'sequence and operation') : false
  const lengthPart = first && framingKind(way.framing.kind)?.isLedByLength ? partsOf(way, first).find(isCount) : undefined
  const length = lengthPart
    ? { at: offsetOf(way, first!, isCount)!, size: countOf(lengthPart).size, order: countOf(lengthPart).order }
    : null
  const sizes = forms.map((f) => f.fixedSize)
  const framing = framingAt(way.framing)
  const fixed = framing.bodySize
  return {
    direction,
    framing,
    byOperation: new Map(forms.map((f) => [f.operation, f])),
    byCode,
    only: forms.length === 1 && operationAt < 0 ? forms : null,
    operationAt,
    operationMask: packed ? 15 : 255,
    length,
    headSize: Math.max(length ? length.at + length.size : 0, operationAt + 1, startOf(way).length),
    shortest: fixed ?? Math.min(...sizes, Infinity),
    longest: fixed ?? Math.max(...forms.map((f) => f.fixedSize + (f.hasPayload ? way.mostPayload : 0)), 0),
    swaps: way.payload !== 'as memory' && way.payload !== memory,
    mostPayload: way.mostPayload,
    gapUs: way.gapUs,
  }
}

/** `isOnly`: no other form travels that way, so that nobody has looked at the operation yet. */
function compileForm(way: BinaryWay, form: Form, isOnly: boolean): CompiledForm {
  const parts = partsOf(way, form)
  const fixedSize = fixedSizeOf(way, form)
  const split = parts.findIndex(isPayload)
  const placed: PlacedPart[] = []
  let at = startOf(way).length
  parts.forEach((part, i) => {
    const size = sizeOfPart(part)
    const fromEnd = split >= 0 && i > split
    placed.push({ part, size, fromEnd, at: fromEnd ? fixedSize - at : at })
    at += size
  })
  const payloadAt = split >= 0 ? placed[split]!.at : fixedSize
  const lengthShift = lengthShiftOf(way, form)
  const ground: Ground = { code: form.code, lengthShift: lengthShift ?? 0, hasPayload: split >= 0 }
  const steps = <F>(of: (part: Part) => F | undefined): Step<F>[] =>
    placed.flatMap(({ part, at: place, fromEnd }) => {
      const run = of(part)
      return run ? [{ at: place, fromEnd, run }] : []
    })
  return {
    operation: form.operation,
    code: form.code,
    placed,
    fixedSize,
    payloadAt,
    hasPayload: split >= 0,
    check: compileCheck(way, form, placed),
    lengthShift,
    saysSize: compileSize(placed, fixedSize, lengthShift, split >= 0),
    puts: steps((part) => partKind(part.part)!.put?.(part as never, ground)),
    // Where several forms travel this way, the operation has been looked at to find this one.
    reads: steps((part) =>
      part.part === 'operation' && !isOnly ? undefined : partKind(part.part)!.read?.(part as never, ground),
    ),
  }
}

/** The field that says how long the body is, where one stands before the payload. */
function compileSize(
  placed: readonly PlacedPart[],
  fixedSize: number,
  lengthShift: number | null,
  hasPayload: boolean,
): CompiledForm['saysSize'] {
  for (const { part, at, size, fromEnd } of placed) {
    const kind = partKind(part.part)
    if (fromEnd) continue
    if (kind?.counts && lengthShift !== null) return { at, size, order: countOf(part).order, scale: 1, shift: -lengthShift }
    if (kind?.countsWords && hasPayload)
      return { at, size, order: (part as { order?: Order }).order ?? 'low', scale: 2, shift: fixedSize }
  }
  return null
}

function compileCheck(way: BinaryWay, form: Form, placed: PlacedPart[]): Check | null {
  const found = placed.find(({ part }) => isCheck(part))
  if (!found) return null
  const { check, from } = partKind(found.part.part)!.covers!
  const { algorithm, order } = check(found.part)
  const here = standingParts(way, form, 0).find(({ part }) => part === found.part)!
  return {
    algorithm,
    from: from(found.part, aroundOf(way, form, here, 0)),
    at: found.fromEnd ? -found.at : found.at,
    size: found.size,
    order,
    fits: checksumFits(algorithm, order),
  }
}

/** The bytes of a check that would be right for a body, and where they stand in it. Null: the form has none. */
export function rightCheck(compiled: CompiledForm, body: Uint8Array): { at: number; bytes: Uint8Array } | null {
  if (!compiled.check) return null
  const { algorithm, from, at, size, order } = compiled.check
  const place = at < 0 ? body.length + at : at
  if (place < from || place + size > body.length) return null
  const bytes = new Uint8Array(size)
  putNumber(bytes, 0, size, order, checksumFunction(algorithm)(body, from, place))
  return { at: place, bytes }
}

/**
 * A message as the bytes on the wire. Problems: `frame.no-form` (operation, direction), `frame.long` (bytes, most),
 * `frame.address` (address, most), `frame.fixed` (bytes, wants), `frame.end-inside` (end), `frame.whole-words` (bytes: a part counts words, the payload has an odd byte).
 */
export function encodeFrame(side: DirectionCodec, message: Message): Result<Uint8Array> {
  const compiled = side.byOperation.get(message.operation)
  if (!compiled) return bad('frame.no-form', { operation: message.operation, direction: side.direction })
  const payload = 'payload' in message ? message.payload : null
  const payloadSize = payload ? payload.length : 0
  if (payloadSize > side.mostPayload) return bad('frame.long', { bytes: payloadSize, most: side.mostPayload })
  const body = new Uint8Array(compiled.fixedSize + payloadSize)
  const { bodySize } = side.framing
  if (bodySize !== null && body.length !== bodySize) return bad('frame.fixed', { bytes: body.length, wants: bodySize })
  body.set(side.framing.start)
  if (payload) putPayload(body, compiled.payloadAt, payload, side.swaps)
  for (const { at, fromEnd, run } of compiled.puts) {
    const problem: Problem | null = run(body, fromEnd ? body.length - at : at, message)
    if (problem) return { ok: false, problem }
  }
  const check = rightCheck(compiled, body)
  if (check) body.set(check.bytes, check.at)
  return side.framing.wrap(body, side)
}

/** A last byte without its other half stays where it is. */
function putPayload(body: Uint8Array, at: number, payload: readonly number[], swaps: boolean): void {
  for (let i = 0; i < payload.length; i++) body[at + i] = payload[swaps && (i ^ 1) < payload.length ? i ^ 1 : i]!
}
