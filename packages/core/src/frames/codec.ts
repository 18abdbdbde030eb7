import { bad, checksumFits, checksumFunction, good, type Order, type Problem, type Result } from '../base/index.ts'
import { checkLayout } from './check.ts'
import {
  placeIn,
  type AssignedFrame,
  type Check,
  type Codec,
  type CompiledForm,
  type DirectionCodec,
  type Place,
  type PlacedPart,
  type Step,
} from './compiled.ts'
import { putWire, takeWire, type WireNumber } from './number.ts'
import { framingAt, framingKind } from './framings/table.ts'
import { wayOf, type BinaryWay, type Form, type Layout } from './layout.ts'
import type { Direction, Message } from './messages.ts'
import type { Around, Ground } from './part.ts'
import { partKind, sizeOfPart, type Part } from './parts/table.ts'
import {
  aroundOf,
  bodySizeOf,
  countOf,
  fixedSizeOf,
  isCheck,
  isCount,
  isOperationPart,
  isPayload,
  lengthShiftOf,
  offsetOf,
  partsOf,
  spokenWay,
  standingParts,
  startOf,
  type Standing,
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

/**
 * The way of bytes of one direction. `typeAt`: the data type of the variable at an address; `assigned`: the frames of a project
 * besides the forms of the layout, in the order in which they are tried. Problems as of `compileLayout`.
 */
export function compileWay(
  layout: Layout,
  direction: Direction,
  memory: Order,
  typeAt?: DirectionCodec['typeAt'],
  assigned: readonly AssignedFrame[] = [],
): Result<DirectionCodec> {
  const problem = checkLayout(layout)[0]
  if (problem) return { ok: false, problem }
  const way = wayOf(layout, direction)
  return way.kind === 'binary'
    ? good(compileDirection(spokenWay(way), direction, memory, assigned, typeAt))
    : bad('layout.no-bytes', { direction })
}

/** The most bytes that a frame of a direction has on the wire, whatever is escaped in it. */
export const longestOnWire = ({ framing, longest }: DirectionCodec): number => framing.onWire(longest)

export const codecOf = (codec: Codec, direction: Direction): DirectionCodec =>
  direction === 'to panel' ? codec.toPanel : codec.toHost

/** The data type at an address, where nobody has told. */
const unknownType = (): null => null

function compileDirection(
  way: BinaryWay,
  direction: Direction,
  memory: Order,
  assigned: readonly AssignedFrame[],
  typeAt: DirectionCodec['typeAt'] = unknownType,
): DirectionCodec {
  const travelling = way.forms.filter((f) => f.directions.includes(direction))
  // Of forms that one frame may be, the one with more bytes that always stand there comes first, then the order of the layout.
  const forms = travelling
    .map((form) => ({
      form: compileForm(way, form, travelling.length + assigned.length === 1, memory),
      constants: constantsIn(way, form),
    }))
    .sort((a, b) => b.constants - a.constants)
    .map(({ form }) => form)
  const byOperation = new Map<Message['operation'], CompiledForm[]>()
  for (const form of forms) byOperation.set(form.operation, [...(byOperation.get(form.operation) ?? []), form])
  const first = travelling[0]
  const operationAt = first ? (offsetOf(way, first, isOperationPart) ?? -1) : -1
  const operationPart = first ? partsOf(way, first).find(isOperationPart) : undefined
  const lengthPart = first && framingKind(way.framing.kind)?.isLedByLength ? partsOf(way, first).find(isCount) : undefined
  const code = operationPart ? partKind(operationPart.part)!.codes!(operationPart) : null
  const isNew = travelling.length === 0 && assigned.length === 1
  const said = new Map(
    assigned.map((frame) => [frame.number, compileAssigned(way, frame, operationAt, operationPart, isNew)] as const),
  )
  const own = [...said.values()].filter((one): one is CompiledForm => 'placed' in one)
  const byCode: CompiledForm[][] = []
  for (const form of [...own, ...forms]) (byCode[form.code] ??= []).push(form)
  const length = lengthPart ? { at: offsetOf(way, first!, isCount)!, number: countOf(lengthPart) } : null
  const framing = framingAt(way.framing)
  const isFixed = framing.bodySize !== null
  const all = [...own, ...forms]
  const least = (f: CompiledForm) => f.ownSize ?? framing.bodySize ?? f.fixedSize + (f.assigned?.least ?? 0)
  const most = (f: CompiledForm) =>
    isFixed || !f.hasPayload ? least(f) : f.fixedSize + Math.min(f.assigned?.most ?? Infinity, way.mostPayload)
  const operationSize = operationPart ? sizeOfPart(operationPart) : 0
  return {
    direction,
    framing,
    byOperation,
    byCode,
    assigned: said,
    only: operationAt < 0 && all.length ? all : null,
    operationAt,
    operationSize,
    operationMask: code?.mask ?? 0,
    readCode: code?.read ?? (() => -1),
    length,
    headSize: Math.max(length ? length.at + length.number.size : 0, operationAt + operationSize, startOf(way).length),
    shortest: Math.min(...all.map(least), Infinity),
    longest: Math.max(...all.map(most), 0),
    swaps: turnsWords(way, memory),
    mostPayload: way.mostPayload,
    typeAt,
    gapUs: way.gapUs,
  }
}

/** Whether the two bytes of a word change places between memory and the wire. */
const turnsWords = ({ payload }: BinaryWay, memory: Order): boolean => payload !== 'as memory' && payload !== memory

const constantsIn = (way: BinaryWay, form: Form): number =>
  partsOf(way, form).reduce((sum, part) => sum + (part.part === 'constant' ? sizeOfPart(part) : 0), 0)

/**
 * The form of a frame that a project assigns. Problems, where nothing tells it from the forms of the way: `frame.untold`,
 * `frame.code` (code, most), `frame.led` (its length is to be said).
 */
function compileAssigned(
  way: BinaryWay,
  assigned: AssignedFrame,
  operationAt: number,
  operationPart: Part | undefined,
  isOnly: boolean,
): CompiledForm | Problem {
  const form = (code: number): Form => ({ operation: 'message', directions: [], code, parts: [{ part: 'payload' }] })
  const codes = operationPart && partKind(operationPart.part)!.codes!(operationPart)
  if (assigned.code !== null) {
    const most = codes?.mask || (operationPart && sizeOfPart(operationPart) === 1 ? 0xff : 0xffff)
    if (assigned.code > most) return { code: 'frame.code', facts: { code: assigned.code, most } }
    return { ...compileForm(way, form(assigned.code), isOnly, 'low'), assigned }
  }
  if (framingKind(way.framing.kind)?.isLedByLength) return { code: 'frame.led', facts: {} }
  const bare = { ...way, head: [], end: [] }
  if (!operationPart || !codes) return { ...compileForm(bare, form(0), true, 'low'), assigned }
  const at = operationAt - startOf(way).length
  const bytes = assigned.begins.slice(at, at + sizeOfPart(operationPart))
  if (bytes.length < sizeOfPart(operationPart) || bytes.includes(null)) return { code: 'frame.untold', facts: {} }
  const code = codes.mask ? bytes[0]! & codes.mask : codes.read(Uint8Array.from(bytes as number[]), 0)
  return { ...compileForm(bare, form(code), true, 'low'), assigned }
}

/** `isOnly`: no other form travels that way, so that nobody has looked at the operation yet. `memory`: the order of bytes there. */
function compileForm(way: BinaryWay, form: Form, isOnly: boolean, memory: Order): CompiledForm {
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
  const spanning = parts[split]
  const packing = (spanning && partKind(spanning.part)!.packs?.(spanning as never, memory, turnsWords(way, memory))) ?? null
  const bytesPerByte = packing?.bytesPerByte ?? 1
  const lengthShift = lengthShiftOf(way, form)
  const count = parts.find(isCount)
  const lengthUnit = count ? countOf(count).unit : 1
  const ground: Ground = { code: form.code, lengthShift: lengthShift ?? 0, lengthUnit, hasPayload: split >= 0, bytesPerByte }
  const steps = <F>(of: (part: Part) => F | undefined): Step<F>[] =>
    placed.flatMap(({ part, at: place, fromEnd }) => {
      const run = of(part)
      return run ? [{ at: place, fromEnd, run }] : []
    })
  return {
    operation: form.operation,
    code: form.code,
    types: form.types ?? [],
    placed,
    fixedSize,
    ownSize: bodySizeOf(way, form),
    payloadAt,
    hasPayload: split >= 0,
    packing,
    checks: compileChecks(way, form),
    lengthShift,
    lengthUnit,
    saysSize: compileSize(placed, fixedSize, lengthShift, split >= 0 ? bytesPerByte : 0),
    assigned: null,
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
  bytesPerByte: number,
): CompiledForm['saysSize'] {
  for (const { part, at, fromEnd } of placed) {
    const kind = partKind(part.part)
    if (fromEnd) continue
    if (kind?.counts && lengthShift !== null) return { at, number: countOf(part), scale: countOf(part).unit, shift: -lengthShift }
    if (kind?.countsWords && bytesPerByte)
      return { at, number: kind.countsWords(part), scale: 2 * bytesPerByte, shift: fixedSize }
  }
  return null
}

/** The checks of a form; each is asked where it stands with a payload and without, to know which of its places move. */
function compileChecks(way: BinaryWay, form: Form): Check[] {
  const [none, some] = [standingParts(way, form, 0), standingParts(way, form, 2)]
  const checks = none.flatMap((here, k): Check[] => {
    if (!isCheck(here.part)) return []
    const { check, from, to } = partKind(here.part.part)!.covers!
    const { algorithm, number } = check(here.part)
    const place = (of: (standing: Standing, around: Around) => number): Place => {
      const [base, other] = [of(here, aroundOf(way, form, here, 0)), of(some[k]!, aroundOf(way, form, some[k]!, 2))]
      return { base, moves: other > base }
    }
    const at = place((standing) => standing.from)
    const behind = place((standing, around) => to?.(standing.part, around) ?? standing.from)
    return [
      {
        algorithm,
        number,
        at,
        from: place((standing, around) => from(standing.part, around)),
        to: behind,
        fits: fitsOf(algorithm, number, at, behind),
      },
    ]
  })
  const covers = (one: Check, other: Check) => one !== other && one.to.base > other.at.base && one.from.base <= other.at.base
  return checks.sort((a, b) => (covers(a, b) ? 1 : covers(b, a) ? -1 : 0))
}

function fitsOf(algorithm: Check['algorithm'], number: WireNumber, at: Place, to: Place): Check['fits'] {
  if (number.spelling === 'binary' && at.base === to.base && at.moves === to.moves) {
    const fits = checksumFits(algorithm, number.order)
    return (bytes, from, _to, place) => fits(bytes, from, place)
  }
  const run = checksumFunction(algorithm)
  return (bytes, from, behind, place) => run(bytes, from, behind) === takeWire(bytes, place, number)
}

/** The bytes of the checks that would be right for a body, and where they stand in it, in the order in which they are made. */
export function rightChecks(compiled: CompiledForm, body: Uint8Array): { at: number; bytes: Uint8Array }[] {
  const payloadSize = body.length - compiled.fixedSize
  const right = body.slice()
  return compiled.checks.flatMap(({ algorithm, number, at, from, to }) => {
    const [place, first, behind] = [at, from, to].map((one) => placeIn(one, payloadSize)) as [number, number, number]
    if (behind < first || place < 0 || place + number.size > body.length || behind > body.length) return []
    putWire(right, place, number, checksumFunction(algorithm)(right, first, behind))
    return [{ at: place, bytes: right.slice(place, place + number.size) }]
  })
}

/**
 * A message as the bytes on the wire, by the first form of its operation that can say it. Problems: `frame.no-form` (operation,
 * direction), `frame.long` (bytes, most), `frame.address` (address, most), `frame.fixed` (bytes, wants), `frame.end-inside`
 * (end), `frame.whole-words` (bytes: a part counts words, the payload has an odd byte), `frame.one-place` (places: the form has room
 * for one), and those of the kinds of parts that pack data.
 */
export function encodeFrame(side: DirectionCodec, message: Message): Result<Uint8Array> {
  let problem: Problem | null = null
  const own = message.operation === 'message' ? side.assigned.get(message.address) : undefined
  if (own && !('placed' in own)) return { ok: false, problem: own }
  for (const compiled of own ? [own] : (side.byOperation.get(message.operation) ?? [])) {
    if (compiled.types.length && !isFor(side, compiled, message)) continue
    const body = encodeForm(side, compiled, message)
    const made = body.ok ? side.framing.wrap(body.value, side) : body
    if (made.ok) return made
    problem ??= made.problem
  }
  return problem ? { ok: false, problem } : bad('frame.no-form', { operation: message.operation, direction: side.direction })
}

const isFor = (side: DirectionCodec, { types }: CompiledForm, { address }: Message): boolean => {
  const type = side.typeAt(address)
  return type !== null && types.includes(type)
}

/** The body of a message by one form. Problems as of `encodeFrame`. */
export function encodeForm(side: DirectionCodec, compiled: CompiledForm, message: Message): Result<Uint8Array> {
  const said = compiled.assigned ? { ...message, address: compiled.assigned.address } : message
  const content = contentOnWire(compiled, message)
  if (content && !content.ok) return content
  const payload = content?.value ?? null
  const payloadSize = payload ? payload.length : 0
  if (payloadSize > side.mostPayload) return bad('frame.long', { bytes: payloadSize, most: side.mostPayload })
  const body = new Uint8Array(compiled.fixedSize + payloadSize)
  const bodySize = compiled.ownSize ?? side.framing.bodySize
  if (bodySize !== null && body.length !== bodySize) return bad('frame.fixed', { bytes: body.length, wants: bodySize })
  body.set(side.framing.start)
  if (payload) putPayload(body, compiled.payloadAt, payload, side.swaps && !compiled.assigned && !compiled.packing)
  for (const { at, fromEnd, run } of compiled.puts) {
    const problem: Problem | null = run(body, fromEnd ? body.length - at : at, said)
    if (problem) return { ok: false, problem }
  }
  for (const check of rightChecks(compiled, body)) body.set(check.bytes, check.at)
  return good(body)
}

/** The bytes that stand where the payload does; null: the form has none, or the message. */
function contentOnWire({ hasPayload, packing }: CompiledForm, message: Message): Result<readonly number[]> | null {
  if ('also' in message && message.also?.length && !packing) return bad('frame.one-place', { places: message.also.length + 1 })
  if (!hasPayload || !('payload' in message) || !message.payload) return null
  return packing ? packing.pack({ ...message, payload: message.payload }) : good(message.payload)
}

/** A last byte without its other half stays where it is. */
function putPayload(body: Uint8Array, at: number, payload: readonly number[], swaps: boolean): void {
  for (let i = 0; i < payload.length; i++) body[at + i] = payload[swaps && (i ^ 1) < payload.length ? i ^ 1 : i]!
}
