import { fromHex, mustHold } from '../../base/index.ts'
import { parseMeanings, type Sample } from '../../examples/index.ts'
import { operationTexts } from '../../frames/index.ts'
import type { Example } from './descriptions.ts'

/** The bytes of an example: hex, or characters behind a quote, with `{0D}` for those that cannot be seen. */
export const bytesOf = (bytes: string): Uint8Array =>
  bytes.startsWith('"')
    ? Uint8Array.from(
        bytes.slice(1).replaceAll(/\{([0-9A-F]{2})\}/g, (_, code: string) => String.fromCharCode(parseInt(code, 16))),
        (c) => c.charCodeAt(0),
      )
    : mustHold(fromHex(bytes))

const places: Readonly<Record<string, string>> = {
  level: 'level (0x1200, u16, step 0.1, page main)',
  mode: 'mode (0x1201, off|drain|fill, page main)',
  total: 'total (0x1210, u32, page main)',
  title: 'title (0x1300, text 8, page main)',
}
const modes = ['off', 'drain', 'fill']

/** The meaning of an example as somebody would type it. */
export function meaningOf({ direction, operation, of, value, what, sequence }: Omit<Example, 'bytes'>): string {
  const tail = sequence === undefined ? '' : `, sequence ${sequence}`
  const way = direction === 'to panel' ? '→' : '←'
  if (operation === 'event') return `${way} event ${of} (5) ${what}${tail}`
  const said =
    value === undefined
      ? ''
      : ` = ${of === 'mode' ? modes[value as number] : typeof value === 'string' ? `"${value}"` : of === 'level' ? value.toFixed(1) : value}`
  return `${way} ${operationTexts[operation]} ${places[of]}${said}${tail}`
}

/** Examples with what they mean; a command is none: its content is of the project. */
export function samplesOf(examples: readonly Example[]): Sample[] {
  const usable = examples.filter(({ operation }) => operation !== 'message')
  return parseMeanings(usable.map(meaningOf)).map((meaning, k) => ({
    wire: bytesOf(usable[k]!.bytes),
    meaning: mustHold(meaning),
  }))
}

/** Frames that none of the six examples has, one for each operation with a value and for a question, with other values. */
export const heldBack: readonly Omit<Example, 'bytes'>[] = [
  { direction: 'to panel', operation: 'write', of: 'level', value: 571.3, sequence: 9 },
  { direction: 'to host', operation: 'report', of: 'mode', value: 0, sequence: 4 },
  { direction: 'to host', operation: 'value', of: 'level', value: 98.6, sequence: 11 },
  { direction: 'to panel', operation: 'ask', of: 'mode', sequence: 14 },
  { direction: 'to panel', operation: 'write', of: 'total', value: 98765, sequence: 15 },
]
