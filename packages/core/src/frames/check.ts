import { sameJson, sentence, type Problem } from '../base/index.ts'
import { withoutItemIds } from '../describe/index.ts'
import { wayOf, waysOf, type BinaryWay, type Form, type Layout } from './layout.ts'
import type { Direction } from './messages.ts'
import { framingKind } from './framings/table.ts'
import { mostIn } from './number.ts'
import { partKind, type Part } from './parts/table.ts'
import {
  bodySizeOf,
  carriesPayload,
  countOf,
  fixedSizeOf,
  isCount,
  isOperationPart,
  isPayload,
  lengthShiftOf,
  offsetOf,
  partsOf,
} from './place.ts'

/**
 * Why the ways of bytes of a layout cannot be used, in coded reasons; an empty list means that every frame it makes can be said and has one
 * meaning. Codes: layout.bytes, layout.framing, layout.no-end, layout.flag, layout.start, layout.fixed, layout.needs, layout.twice, layout.code,
 * layout.same-codes, layout.operation-missing, layout.operation-place, layout.length-missing,
 * layout.length-place, layout.length-codes, layout.length-range, layout.words-range, layout.stray-part, layout.empty, layout.gap.
 */
export function checkLayout(layout: Layout): Problem[] {
  const problems: Problem[] = []
  const say = (code: string, facts: Problem['facts'] = {}) => void problems.push({ code: `layout.${code}`, facts })
  for (const { way, directions } of waysOf(layout)) {
    if (way.kind !== 'binary') continue
    checkFraming(way, say, problems)
    for (const form of way.forms) checkForm(way, form, say, problems)
    for (const direction of directions) checkDirection(way, direction, say)
    if (!way.forms.length) say('empty')
  }
  return problems
}

/** A usable layout with a peculiarity: an answer and a report that are the very same frame. */
export function layoutAdvice(layout: Layout): Problem[] {
  const way = wayOf(layout, 'to host')
  const host = way.kind === 'binary' ? way.forms.filter((form) => form.directions.includes('to host')) : []
  return host.flatMap((one, i) =>
    host
      .slice(i + 1)
      .filter((other) => areOneFrame(one, other))
      .map((other) => ({ code: 'layout.two-readings', facts: { operation: one.operation, other: other.operation } })),
  )
}

/**
 * Whether a value that was asked for and a report are said by the very same frame, as in many modules: while a question for
 * that place is open it is the answer, else a report.
 */
const areOneFrame = (one: Form, other: Form): boolean =>
  one.code === other.code &&
  [one.operation, other.operation].sort().join() === 'report,value' &&
  sameJson(withoutItemIds(one.parts), withoutItemIds(other.parts))

type Say = (code: string, facts?: Problem['facts']) => void

function checkFraming(way: BinaryWay, say: Say, problems: Problem[]): void {
  const { framing } = way
  const kind = framingKind(framing.kind)
  const least = kind?.endsBySilence ? 100 : 1000
  if (way.mostPayload < 2 || way.mostPayload > 1024) say('bytes', { most: way.mostPayload })
  if (way.gapUs < least || way.gapUs > 10_000_000) say('gap', { gapUs: way.gapUs })
  const problem = kind ? kind.wrong(framing) : { code: 'layout.framing', facts: { kind: framing.kind } }
  if (problem) problems.push(problem)
}

const tells = (part: Part): string => partKind(part.part)?.tells ?? part.part

function checkForm(way: BinaryWay, form: Form, say: Say, problems: Problem[]): void {
  const parts = partsOf(way, form)
  const { operation } = form
  for (const kind of new Set(parts.map((p) => p.part)))
    if (partKind(kind)?.onlyIn?.includes(operation) === false) say('stray-part', { operation, part: kind })
  const has = (need: string) => parts.some((p) => p.part === need || partKind(p.part)?.stands?.includes(need))
  for (const need of neededParts(form)) if (!has(need)) say('needs', { operation, part: need })
  const once = parts
    .filter((p) => !partKind(p.part)?.many)
    .flatMap((p) => [...new Set([tells(p), ...(partKind(p.part)?.stands ?? [])])])
  for (const said of new Set(once)) if (once.filter((k) => k === said).length > 1) say('twice', { operation, part: said })
  for (const part of parts) {
    const problem = partKind(part.part)?.wrong?.(part as never)
    if (problem) problems.push(problem)
  }
  const coded = parts.find(isOperationPart)
  const most = coded ? partKind(coded.part)!.codes!(coded).most : 0xffff
  if (!Number.isInteger(form.code) || form.code < 0 || form.code > most) say('code', { operation, code: form.code, most })
  checkSizes(way, form, say)
  for (const [at, part] of parts.entries()) {
    // It ends right before itself: what it is to cover must stand there.
    const late = partKind(part.part)?.covers?.begins(part) ?? null
    const place = late ? parts.findIndex(late === 'payload' ? isPayload : isCount) : -1
    if (late && place > at) say('check-early', { operation, covers: late })
  }
}

const neededParts = (form: Form): string[] =>
  ['address', 'words', 'payload', 'mask', 'bits', 'what', 'reason'].filter((part) =>
    partKind(part)?.neededBy?.includes(form.operation),
  )

function checkSizes(way: BinaryWay, form: Form, say: Say): void {
  const { operation } = form
  const bodySize = bodySizeOf(way, form)
  const parts = partsOf(way, form)
  const fixed = fixedSizeOf(way, form)
  const payload = carriesPayload(operation) ? way.mostPayload : 0
  if (bodySize !== null) {
    const room = bodySize - fixed
    const hasPayload = parts.some(isPayload)
    if (hasPayload ? room < 1 || room > way.mostPayload : room !== 0) say('fixed', { operation, has: fixed, wants: bodySize })
  }
  const inFrame = bodySize !== null ? [bodySize, bodySize] : [fixed, fixed + payload]
  const length = parts.find(isCount)
  const shift = lengthShiftOf(way, form)
  if (length && shift !== null) {
    const count = countOf(length)
    const [least, most] = inFrame.map((size) => Math.floor((size + shift) / count.unit)) as [number, number]
    if (!Number.isInteger(count.adds) || least < 0 || most > mostIn(count))
      say('length-range', { operation, least, most, size: count.size })
  }
  const words = parts.map((p) => partKind(p.part)?.countsWords?.(p)).find((number) => number !== undefined)
  const most = (bodySize !== null ? bodySize - fixed : payload) / 2
  if (words && payload && most > mostIn(words)) say('words-range', { operation, most, size: words.size })
}

function checkDirection(way: BinaryWay, direction: Direction, say: Say): void {
  const forms = way.forms.filter((f) => f.directions.includes(direction))
  const places = forms.map((form) => ({
    form,
    operation: offsetOf(way, form, isOperationPart),
    length: offsetOf(way, form, isCount),
  }))
  const told = places.filter(({ operation }) => operation !== null)
  if (told.length && told.length < places.length)
    for (const { form, operation } of places)
      if (operation === null) say('operation-missing', { operation: form.operation, direction })
  if (new Set(told.map((p) => p.operation)).size > 1) say('operation-place', { direction })
  if (new Set(forms.map((f) => JSON.stringify(withoutItemIds(partsOf(way, f).filter(isOperationPart))))).size > 1)
    say('operation-place', { direction })
  // Where nothing tells the operation first, all frames must end alike.
  const ends = forms.map((f) => `${lengthShiftOf(way, f)} ${bodySizeOf(way, f)}`)
  const isLed = framingKind(way.framing.kind)?.isLedByLength || framingKind(way.framing.kind)?.bodySize
  if (!told.length && forms.length > 1 && isLed && new Set(ends).size > 1)
    for (const { form } of places) say('operation-missing', { operation: form.operation, direction })
  // Where a code tells it, all forms of the code must end alike.
  forms.forEach((form, k) => {
    const other = told.length && isLed ? forms.findIndex((one, i) => i > k && one.code === form.code && ends[i] !== ends[k]) : -1
    if (other >= 0) say('length-codes', { operation: form.operation, other: forms[other]!.operation, direction })
  })
  if (!framingKind(way.framing.kind)?.isLedByLength) return
  for (const { form, length } of places) if (length === null) say('length-missing', { operation: form.operation, direction })
  if (new Set(places.map((p) => p.length)).size > 1) say('length-place', { direction })
  const sort = (f: Form) => {
    const found = partsOf(way, f).find(isCount)
    return JSON.stringify(found ? withoutItemIds([found]) : null)
  }
  if (new Set(forms.map(sort)).size > 1) say('length-place', { direction })
}

/** The sentences of `checkLayout` and `layoutAdvice`. */
export const layoutSentences: Record<string, string> = {
  'layout.bytes': 'The maximum payload must be 2 to 1024 bytes, not {most}.',
  'layout.gap': 'The inter-byte timeout must be 1 ms to 10 s (a silence that ends frames: from 0.1 ms).',
  'layout.framing': 'Unknown framing “{kind}”.',
  'layout.no-end': 'Frames that end with end bytes need at least one.',
  'layout.flag': 'Flag and escape must differ, and neither may appear when escaped. Choose another flag, escape or XOR.',
  'layout.start': 'The start bytes may not contain a zero, which ends each frame.',
  'layout.fixed': '“{operation}” has {has} bytes without data; the fixed length is {wants}.',
  'layout.needs': '“{operation}” needs a {part} field.',
  'layout.check-early': 'The checksum of {operation} is before the {covers} that it covers. Move it behind.',
  'layout.twice': 'Duplicate field “{part}” in “{operation}”.',
  'layout.stray-part': 'Unexpected field “{part}” in “{operation}”.',
  'layout.code': 'The code of “{operation}” must be 0 to {most}, not {code}.',
  'layout.ambiguous': '“{operation}” and “{other}” {direction} may be the same frame: {bytes}.',
  'layout.undecided':
    '“{operation}” and “{other}” {direction} could not be shown to differ. A frame that is both is read as the one with more constant bytes, then as the first.',
  'layout.length-codes':
    '“{operation}” and “{other}” have one code and end differently: let the length count what follows it, or give another code.',
  'layout.same-codes': '“{one}” and “{other}” have the same code {code}.',
  'layout.operation-missing':
    '“{operation}” {direction}: operation code is not at a fixed offset. Add an operation field before the data.',
  'layout.operation-place': 'The operation code {direction} is not at a fixed offset.',
  'layout.length-missing': '“{operation}” {direction} has no length field before the data.',
  'layout.length-place': 'The length fields {direction} differ in offset or in what they cover.',
  'layout.length-range': 'The length of “{operation}” is {least} to {most}, which {size} byte(s) cannot hold.',
  'layout.words-range':
    '“{operation}” may have {most} words, which a count of {size} byte(s) cannot hold. Reduce the maximum payload.',
  'layout.two-readings': '“{operation}” and “{other}” are the same frame: a reply while a read request is open, else a report.',
  'layout.number-size': 'A number of {size} bytes must be spelled in digits; binary and BCD have at most 4.',
  'layout.module': 'The module number {number} does not fit: at most {most}.',
  'layout.crc': 'Polynomial, start and final XOR of the CRC must fit into {width} bits.',
  'layout.empty': 'The layout has no operations.',
}

/** Why a layout cannot be used in few lines, by the sentences of its problems: what is wrong with several operations in the same way is said once. */
export function layoutProblemLines(problems: readonly Problem[], sentences: Readonly<Record<string, string>>): string[] {
  const groups = new Map<string, { problem: Problem; operations: string[] }>()
  for (const problem of problems) {
    const { operation, direction: _, ...others } = problem.facts
    const alike = JSON.stringify([problem.code, operation === undefined ? problem.facts : others])
    const group = groups.get(alike) ?? { problem, operations: [] }
    groups.set(alike, group)
    if (operation !== undefined && !group.operations.includes(String(operation))) group.operations.push(String(operation))
  }
  return [...groups.values()].map(({ problem: { code, facts }, operations: of }) => {
    const named = of.length > 3 ? `${of.slice(0, 2).join('”, “')}” and ${of.length - 2} more, “${of.at(-1)!}` : of.join('”, “')
    return sentence(sentences[code] ?? code, of.length ? { ...facts, operation: named } : facts)
  })
}
