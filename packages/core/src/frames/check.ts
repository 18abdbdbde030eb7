import { checksums, type Problem } from '../base/index.ts'
import type { Form, Layout, Part } from './layout.ts'
import { operations, type Direction, type Operation } from './messages.ts'

/** The bytes a part takes on the wire before escaping; a payload counts 0 here. */
export function sizeOfPart(part: Part): number {
  switch (part.part) {
    case 'constant':
      return part.bytes.length
    case 'length':
    case 'address':
    case 'words':
      return part.size
    case 'payload':
      return 0
    case 'mask':
    case 'bits':
      return 2
    case 'checksum':
      return checksums[part.algorithm].size
    default:
      return 1
  }
}

export const partsOf = (layout: Layout, form: Form): Part[] => [...layout.head, ...form.parts, ...layout.end]

/** Start bytes outside the parts; a delimited body has none. */
export const startOf = (layout: Layout): readonly number[] => (layout.framing.kind === 'delimited' ? [] : layout.framing.start)

/** Bytes of a form without payload, start bytes included, flags not. */
export const fixedSizeOf = (layout: Layout, form: Form): number =>
  startOf(layout).length + partsOf(layout, form).reduce((sum, part) => sum + sizeOfPart(part), 0)

export const carriesPayload = (operation: Operation): boolean =>
  operation === 'write' || operation === 'value' || operation === 'report' || operation === 'message'

/** Where the operation (or the length) stands from the start of a frame, or null where it is not at a fixed place. */
export function offsetOf(layout: Layout, form: Form, wanted: (part: Part) => boolean): number | null {
  let at = startOf(layout).length
  for (const part of partsOf(layout, form)) {
    if (wanted(part)) return at
    if (part.part === 'payload') return null
    at += sizeOfPart(part)
  }
  return null
}

export const isOperationPart = (part: Part): boolean => part.part === 'operation' || part.part === 'sequence and operation'

/**
 * Why a layout cannot be used, in coded reasons; an empty list means that every frame it makes has one reading.
 * Codes: layout.bytes, layout.flag, layout.start, layout.fixed, layout.needs, layout.twice, layout.code, layout.same-code,
 * layout.operation-missing, layout.operation-place, layout.length-missing, layout.length-place, layout.length-range,
 * layout.stray-part, layout.empty, layout.gap.
 */
export function checkLayout(layout: Layout): Problem[] {
  const problems: Problem[] = []
  const say = (code: string, facts: Problem['facts'] = {}) => void problems.push({ code: `layout.${code}`, facts })
  checkFraming(layout, say)
  for (const form of layout.forms) checkForm(layout, form, say)
  for (const direction of ['to panel', 'to host'] as const) checkDirection(layout, direction, say)
  if (!layout.forms.length) say('empty')
  return problems
}

type Say = (code: string, facts?: Problem['facts']) => void

function checkFraming(layout: Layout, say: Say): void {
  const { framing } = layout
  const isByte = (n: number) => Number.isInteger(n) && n >= 0 && n <= 255
  if (layout.mostPayload < 2 || layout.mostPayload > 1024) say('bytes', { most: layout.mostPayload })
  if (layout.gapUs < 1000 || layout.gapUs > 10_000_000) say('gap', { gapUs: layout.gapUs })
  if (framing.kind === 'delimited') {
    const { flag, escape, xor } = framing
    const sent = [flag ^ xor, escape ^ xor]
    if (![flag, escape, xor].every(isByte) || flag === escape || xor === 0 || sent.includes(flag) || sent.includes(escape))
      say('flag', { flag, escape, xor })
    return
  }
  if (!framing.start.every(isByte)) say('start', {})
  if (framing.kind === 'fixed' && framing.start.length === 0) say('start', {})
}

/** Parts every form of an operation must have, or nobody could act on it. */
function needsOf(form: Form): Part['part'][] {
  switch (form.operation) {
    case 'set bits':
      return ['address', 'mask', 'bits']
    case 'ask':
      return ['address', 'words']
    case 'event':
      return ['address', 'what']
    case 'refused':
      return ['reason']
    case 'done':
      return []
    default:
      return ['address', 'payload']
  }
}

const allowedBeside: readonly Part['part'][] = [
  'constant',
  'length',
  'operation',
  'sequence and operation',
  'sequence',
  'address',
  'checksum',
]

function checkForm(layout: Layout, form: Form, say: Say): void {
  const parts = partsOf(layout, form)
  const { operation } = form
  for (const need of needsOf(form)) if (!parts.some((p) => p.part === need)) say('needs', { operation, part: need })
  const once = parts.filter((p) => p.part !== 'constant').map((p) => (isOperationPart(p) ? 'operation' : p.part))
  for (const kind of new Set(once)) if (once.filter((k) => k === kind).length > 1) say('twice', { operation, part: kind })
  for (const part of parts) {
    const fits =
      allowedBeside.includes(part.part) ||
      needsOf(form).includes(part.part) ||
      (part.part === 'words' && carriesPayload(operation))
    if (!fits) say('stray-part', { operation, part: part.part })
  }
  const packed = parts.some((p) => p.part === 'sequence and operation')
  if (!Number.isInteger(form.code) || form.code < 0 || form.code > (packed ? 15 : 255))
    say('code', { operation, code: form.code, most: packed ? 15 : 255 })
  const longest = fixedSizeOf(layout, form) + (carriesPayload(operation) ? layout.mostPayload : 0)
  const { framing } = layout
  if (framing.kind === 'fixed' && !parts.some((p) => p.part === 'payload') && fixedSizeOf(layout, form) !== framing.length)
    say('fixed', { operation, has: fixedSizeOf(layout, form), wants: framing.length })
  if (framing.kind === 'fixed' && framing.length < fixedSizeOf(layout, form))
    say('fixed', { operation, has: fixedSizeOf(layout, form), wants: framing.length })
  const length = parts.find((p) => p.part === 'length')
  if (length && longest + length.adds > (length.size === 1 ? 255 : 65535))
    say('length-range', { operation, most: longest + length.adds, size: length.size })
  if (length && !Number.isInteger(length.adds)) say('length-range', { operation, most: length.adds, size: length.size })
}

function checkDirection(layout: Layout, direction: Direction, say: Say): void {
  const forms = layout.forms.filter((f) => f.directions.includes(direction))
  const places = forms.map((form) => ({
    form,
    operation: offsetOf(layout, form, isOperationPart),
    length: offsetOf(layout, form, (p) => p.part === 'length'),
  }))
  if (forms.length > 1) {
    for (const { form, operation } of places)
      if (operation === null) say('operation-missing', { operation: form.operation, direction })
    if (new Set(places.map((p) => p.operation)).size > 1) say('operation-place', { direction })
    if (new Set(forms.map((f) => partsOf(layout, f).find(isOperationPart)?.part)).size > 1) say('operation-place', { direction })
  }
  for (const op of operations) if (forms.filter((f) => f.operation === op).length > 1) say('twice', { operation: op, part: op })
  const seen = new Map<number, Operation>()
  for (const form of forms) {
    const other = seen.get(form.code)
    if (other && other !== form.operation) say('same-code', { operation: form.operation, other, code: form.code, direction })
    seen.set(form.code, form.operation)
  }
  if (layout.framing.kind !== 'length-led') return
  for (const { form, length } of places) if (length === null) say('length-missing', { operation: form.operation, direction })
  if (new Set(places.map((p) => p.length)).size > 1) say('length-place', { direction })
  const sort = (f: Form) => JSON.stringify(partsOf(layout, f).find((p) => p.part === 'length') ?? null)
  if (new Set(forms.map(sort)).size > 1) say('length-place', { direction })
}

/** The sentences of `checkLayout`. */
export const layoutSentences: Record<string, string> = {
  'layout.bytes': 'The payload may have 2 to 1024 bytes, not {most}.',
  'layout.gap': 'The silence that breaks a frame off must be 1 ms to 10 s.',
  'layout.flag':
    'Flag and escape must be two bytes, and neither may appear when either is escaped: choose another flag, escape or XOR.',
  'layout.start': 'The start bytes must be bytes, and a fixed length needs at least one of them to find a frame by.',
  'layout.fixed': '“{operation}” has {has} bytes, but every frame is to have {wants}.',
  'layout.needs': '“{operation}” needs a part “{part}”.',
  'layout.twice': '“{operation}” has more than one “{part}”: which one counts?',
  'layout.stray-part': '“{operation}” has no use for a part “{part}”.',
  'layout.code': 'The code of “{operation}” must be 0 to {most}, not {code}.',
  'layout.same-code': '“{operation}” and “{other}” {direction} both have the code {code}: a frame would have two readings.',
  'layout.operation-missing':
    '“{operation}” {direction} does not say which operation it is at a fixed place: add an operation part before the payload.',
  'layout.operation-place': 'The frames {direction} have their operation at different places: a frame would have two readings.',
  'layout.length-missing': '“{operation}” {direction} has no length before its payload: the receiver could not find its end.',
  'layout.length-place': 'The frames {direction} have their length at different places, or count different things.',
  'layout.length-range': 'The longest “{operation}” counts {most}, which a length of {size} byte(s) cannot say.',
  'layout.empty': 'The layout has no operation at all.',
}
