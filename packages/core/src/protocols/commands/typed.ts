import { bad, good, type Result } from '../../base/index.ts'
import { compileWay, dissect, wayOf, type AssignedFrame, type Direction, type Layout } from '../../frames/index.ts'
import type { CommandField } from './field.ts'
import { fieldKind, freshField } from './fields/table.ts'

/** A frame of a manual as a command has it: what its content is, and what the layout puts around that. */
export interface TypedFrame {
  frame: 'layout' | 'bare'
  /** Its operation code, in header and trailer of the layout. */
  code: number
  /** Its address in header or trailer; −1: they have none. */
  address: number
  content: Uint8Array
}

/** A frame that takes whatever stands in it. */
const anything = (code: number | null): AssignedFrame => ({
  number: -1,
  address: -1,
  code,
  constants: 0,
  begins: new Array<null>(8).fill(null),
  least: 0,
  most: 1024,
  fits: () => true,
  pieces: () => [],
})

/**
 * The content of a frame as a manual has it, without what the layout puts around it. What does not look like a frame of the layout
 * is taken as it is. Problem: `bytes.empty`.
 */
export function typedFrame(layout: Layout, direction: Direction, wire: Uint8Array): Result<TypedFrame> {
  if (!wire.length) return bad('bytes.empty')
  const way = wayOf(layout, direction)
  if (way.kind === 'lines') return good({ frame: 'bare', code: 0, address: -1, content: lineOf(way, wire) })
  const side = compileWay(layout, direction, 'low')
  if (!side.ok) return side
  const open = side.value.framing.unwrap(wire)
  const { start } = side.value.framing
  const starts = start.every((byte, k) => open.body[k] === byte)
  const body = open.fault === null && starts ? open.body : Uint8Array.from([...start, ...wire])
  const code = side.value.operationAt < 0 ? 0 : side.value.readCode(body, side.value.operationAt)
  const asLayout = compileWay(layout, direction, 'low', undefined, [anything(code)])
  const whole = asLayout.ok ? side.value.framing.wrap(body, side.value) : asLayout
  if (asLayout.ok && whole.ok && way.head.length + way.end.length > 0) {
    const taken = dissect(asLayout.value, whole.value).readings.find(({ operation }) => operation === 'message')
    const hasAddress = [...way.head, ...way.end].some((part) => part.part === 'address')
    if (taken && 'payload' in taken)
      return good({
        frame: 'layout',
        code,
        address: hasAddress ? taken.address : -1,
        content: Uint8Array.from(taken.payload ?? []),
      })
  }
  return good({ frame: 'bare', code: 0, address: -1, content: body.slice(start.length) })
}

/** A line without its start and end. */
function lineOf({ start, end }: { start: readonly number[]; end: readonly number[] }, wire: Uint8Array): Uint8Array {
  const from = start.length && start.every((byte, k) => wire[k] === byte) ? start.length : 0
  let to = wire.length
  while (to > from && (end.includes(wire[to - 1]!) || wire[to - 1] === 10 || wire[to - 1] === 13)) to--
  return wire.slice(from, to)
}

/**
 * The fields with a stretch of a constant made a field of its own: `at` counts the bytes of the constant. The same where it is not
 * inside one.
 */
export function markField(
  fields: readonly CommandField[],
  index: number,
  at: number,
  size: number,
  field: CommandField,
): readonly CommandField[] {
  const constant = fields[index]
  const bytes = constant?.field === 'constant' ? (constant['bytes'] as readonly number[]) : null
  if (!bytes || at < 0 || size < 1 || at + size > bytes.length) return fields
  const part = (from: number, to: number): CommandField[] =>
    to > from ? [{ ...freshField('constant'), bytes: bytes.slice(from, to) }] : []
  return [...fields.slice(0, index), ...part(0, at), field, ...part(at + size, bytes.length), ...fields.slice(index + 1)]
}

/** The field that some bytes of a constant are likely to be: figures in ASCII, or a number of so many bytes. */
export function likelyField(bytes: readonly number[]): CommandField {
  const text = String.fromCharCode(...bytes)
  const number = freshField('number')
  if (/^\d+$/.test(text)) return { ...number, spelling: 'decimal', size: 0, value: Number(text) }
  if (bytes.length > 4) return { ...freshField('text'), size: bytes.length, value: /^[ -~]+$/.test(text) ? text.trimEnd() : '' }
  const size = bytes.length
  const fresh: CommandField = { ...number, size }
  const value = fieldKind('number')!.read({ ...fresh, variable: null } as never, Uint8Array.from(bytes), 0, size)
  return { ...fresh, value: value ?? 0 }
}
