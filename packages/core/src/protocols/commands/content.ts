import { bad, good, sameBytes, type Problem, type Result } from '../../base/index.ts'
import type { Piece } from '../../frames/index.ts'
import { encodeValue, formatValue, parseValue, type Cell, type Value } from '../../variables/index.ts'
import type { BuildCommand } from './command.ts'
import type { Carried, CompiledField, FieldKind } from './field.ts'
import { fieldKind } from './fields/table.ts'

interface Placed {
  kind: FieldKind
  with: never
  /** Its bytes; null: it ends where `marker` begins, or `tail` bytes before the end. */
  size: number | null
  marker: readonly number[] | null
  tail: number
  carried: Carried | null
}

/** The content of a command ready for use. */
export interface Content {
  placed: readonly Placed[]
  /** The values that travel in it, in their order. */
  carried: readonly Carried[]
  /** Bytes that always stand there. */
  constants: number
  least: number
  /** The most bytes; of open fields as many as they may have. */
  most: number
}

const made = new WeakMap<readonly CompiledField[], Content>()
const mostOpen = 240

/** The content of a command from its fields; the same one for the same fields. */
export function contentOf({ fields }: Pick<BuildCommand, 'fields'>): Content {
  let content = made.get(fields)
  if (!content) made.set(fields, (content = compile(fields)))
  return content
}

function compile(fields: readonly CompiledField[]): Content {
  const known = fields.flatMap((one) => {
    const kind = fieldKind(one.field)
    return kind ? [{ kind, with: one.with as never, size: kind.size(one.with as never) }] : []
  })
  const placed = known.map(({ kind, with: settings, size }, k): Placed => {
    const behind = known.slice(k + 1)
    const next = behind[0]
    const marker = size === null && next?.kind.constant ? next.kind.constant(next.with) : null
    const tail = behind.reduce((sum, one) => sum + (one.size ?? 0), 0)
    return { kind, with: settings, size, marker, tail, carried: kind.carries?.(settings) ?? null }
  })
  const fixed = known.reduce((sum, { size }) => sum + (size ?? 0), 0)
  const open = known.filter(({ size }) => size === null).length
  return {
    placed,
    carried: placed.flatMap(({ carried }) => carried ?? []),
    constants: placed.reduce((sum, one) => sum + (one.kind.constant?.(one.with).length ?? 0), 0),
    least: fixed,
    most: fixed + open * mostOpen,
  }
}

/**
 * Why a command cannot be used, or null: `command.open` (name: it ends nowhere), and problems of its fields. Facts besides:
 * `command` (its name).
 */
export function contentWrong(command: Pick<BuildCommand, 'fields' | 'name'>): Problem | null {
  const { placed } = contentOf(command)
  for (const [k, one] of placed.entries()) {
    const problem = one.kind.wrong?.(one.with) ?? null
    if (problem) return { ...problem, facts: { ...problem.facts, command: command.name } }
    const isLast = placed.slice(k + 1).every(({ size }) => size !== null)
    if (one.size === null && !one.marker && !isLast)
      return { code: 'command.open', facts: { name: one.carried?.label ?? one.kind.label, command: command.name } }
  }
  return null
}

/**
 * The bytes of a command. `values`: one for each that travels; null or missing: that of the field itself. Problems:
 * `command.value` (name, value), `command.marker` (name): a text has what ends it.
 */
export function encodeContent(command: Pick<BuildCommand, 'fields'>, values: readonly (Value | null)[] = []): Result<number[]> {
  const bytes: number[] = []
  let k = 0
  for (const { kind, with: settings, size, marker, carried } of contentOf(command).placed) {
    const value = carried ? (values[k++] ?? carried.value) : ''
    const put = kind.put(settings, value, bytes)
    if (!put.ok) return put
    if (size === null && marker && contains(put.value, marker)) return bad('command.marker', { name: carried?.label ?? '' })
    for (const byte of put.value) bytes.push(byte)
  }
  return good(bytes)
}

const contains = (bytes: readonly number[], part: readonly number[]): boolean =>
  bytes.some((_, at) => part.every((byte, k) => bytes[at + k] === byte))

/** Where each field of some bytes stands, and its value; null: they are none of the command. */
function walk(content: Content, bytes: Uint8Array): { to: number; value: Value }[] | null {
  const out: { to: number; value: Value }[] = []
  let at = 0
  for (const one of content.placed) {
    const to = endOf(one, bytes, at)
    if (to < at || to > bytes.length) return null
    const value = one.kind.read(one.with, bytes, at, to)
    if (value === null) return null
    out.push({ to, value })
    at = to
  }
  return at === bytes.length ? out : null
}

function endOf({ size, marker, tail }: Placed, bytes: Uint8Array, at: number): number {
  if (size !== null) return at + size
  if (!marker) return bytes.length - tail
  for (let to = at; to + marker.length <= bytes.length; to++)
    if (sameBytes(bytes.subarray(to, to + marker.length), marker)) return to
  return -1
}

/** The values that travel in the bytes of a command; null: they are none of it. */
export function readContent(command: Pick<BuildCommand, 'fields'>, bytes: ArrayLike<number>): Value[] | null {
  const content = contentOf(command)
  if (bytes.length < content.least || bytes.length > content.most) return null
  const found = walk(content, bytes instanceof Uint8Array ? bytes : Uint8Array.from(bytes))
  return found && found.flatMap(({ value }, k) => (content.placed[k]!.carried ? [value] : []))
}

/** A stretch of a command: `from` to `to` (excluded) count its bytes. */
export type ContentPiece = Pick<Piece, 'kind' | 'label' | 'from' | 'to' | 'says'>

/** The stretches of the bytes of a command, as far as they are one. */
export function piecesOfContent(command: Pick<BuildCommand, 'fields'>, bytes: Uint8Array): ContentPiece[] {
  const content = contentOf(command)
  const found = walk(content, bytes)
  if (!found) return [{ kind: 'payload', label: 'data', from: 0, to: bytes.length, says: '' }]
  return found.map(({ to, value }, k) => {
    const { kind, carried } = content.placed[k]!
    const says = carried ? formatValue(carried.holds, value) : kind.tint === 'checksum' ? 'checksum ok' : ''
    return { kind: kind.tint, label: carried?.label || kind.label, from: k ? found[k - 1]!.to : 0, to, says }
  })
}

/** Values of a command that are typed, separated by commas; nothing between two: that of the field. Problems as of `parseValue`. */
export function parseValues(command: Pick<BuildCommand, 'fields'>, text: string): Result<(Value | null)[]> {
  const { carried } = contentOf(command)
  const typed = text.trim() ? splitValues(text, carried.length) : []
  if (typed.length > carried.length) return bad('command.values', { count: typed.length, most: carried.length })
  const values: (Value | null)[] = []
  for (const [k, one] of typed.entries()) {
    if (!one) {
      values.push(null)
      continue
    }
    const parsed = parseValue(carried[k]!.holds, one)
    if (!parsed.ok) return parsed
    values.push(parsed.value)
  }
  return good(values)
}

/** A single value may have commas in it. */
const splitValues = (text: string, most: number): string[] =>
  most === 1 ? [text.trim()] : text.split(',').map((one) => one.trim())

/** Values of a command in words: `speed 40, mode slow`. */
export const valuesInWords = (command: Pick<BuildCommand, 'fields'>, values: readonly Value[]): string =>
  contentOf(command)
    .carried.map(({ label, holds }, k) => `${label} ${formatValue(holds, values[k] ?? '')}`)
    .join(', ')

/** The words of memory that a command sets: those of its fields, and what it sets besides. Null: a value does not fit. */
export function wordsSetBy(
  command: Pick<BuildCommand, 'fields' | 'sets'>,
  values: readonly Value[],
): { cell: Cell; words: Uint16Array }[] | null {
  const pairs = [
    ...contentOf(command).carried.flatMap(({ cell }, k) => (cell ? [{ cell, value: values[k]! }] : [])),
    ...command.sets.flatMap(({ variable, value }) => {
      const parsed = variable && parseValue(variable.holds, value)
      return variable && parsed?.ok ? [{ cell: variable, value: parsed.value }] : []
    }),
  ]
  const out: { cell: Cell; words: Uint16Array }[] = []
  for (const { cell, value } of pairs) {
    const words = encodeValue(cell.holds, value, cell.order)
    if (!words.ok) return null
    out.push({ cell, words: words.value })
  }
  return out
}
