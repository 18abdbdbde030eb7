import { sameJson, type Problem } from '../../base/index.ts'
import { eventKinds, reasons, type Direction, type LinesWay, type Message } from '../../frames/index.ts'
import { wordsOf, type Holds } from '../../variables/index.ts'
import { emptyBook, type Book } from '../protocol.ts'
import { allReadings, compileLines, encodeLine, type LineCodec } from './codec.ts'
import { linePartKind } from './parts/table.ts'
import { lineWord } from './spelling.ts'

/** One value of each data type that is looked at, as bytes of memory of the low order. */
const samples: readonly { holds: Holds; payload: readonly number[] }[] = [
  { holds: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 65535 }, payload: [7, 0] },
  { holds: { type: 'choice', choices: [{ value: 7, word: 'seven' }] }, payload: [7, 0] },
  { holds: { type: 'flags', names: ['one'] }, payload: [1, 0] },
  { holds: { type: 'text', bytes: 8, encoding: 'ascii' }, payload: [55, 0, 0, 0, 0, 0, 0, 0] },
]

/**
 * Lines that two forms of a direction may be: `layout.ambiguous` (operation, other, direction, bytes: the line). Looked for over
 * variables that have every data type, and names that are the words of the forms; the real codec reads each line as every form.
 */
export function ambiguousLines(way: LinesWay, directions: readonly Direction[]): Problem[] {
  const book = sampleBook(way)
  return directions.flatMap((direction) => {
    const codec = compileLines(way, direction, book)
    const found = new Map<string, Problem>()
    for (const message of sampleMessages(codec, book)) {
      const line = encodeLine(codec, message)
      if (!line.ok) continue
      const read = allReadings(codec, line.value)
      for (const [i, one] of read.entries())
        for (const other of read.slice(i + 1)) {
          const operations = [one.form.operation, other.form.operation].sort().join()
          if (operations === 'report,value' || sameJson(one.message, other.message) || found.has(operations)) continue
          const facts = { operation: one.form.operation, other: other.form.operation, direction, bytes: `“${line.value}”` }
          found.set(operations, { code: 'layout.ambiguous', facts })
        }
    }
    return [...found.values()]
  })
}

/** Variables of each data type under a plain name and under each word that stands in a form. */
function sampleBook(way: LinesWay): Book {
  const constants = way.forms.flatMap((form) => form.parts.map((part) => linePartKind(part.part)?.constant?.(part) ?? ''))
  const words = [...new Set(constants.flatMap((text) => text.split(/\s+/)).filter((word) => /^\w+$/.test(word)))]
  const names = ['x', ...words.map(lineWord)].slice(0, 24)
  return {
    ...emptyBook(),
    variables: names.flatMap((name, n) =>
      samples.map(({ holds }, k) => ({
        name: k ? `${name}${k}` : name,
        cell: {
          index: n * samples.length + k,
          address: 0x100 + 8 * (n * samples.length + k),
          words: wordsOf(holds),
          holds,
          order: 'low' as const,
          travels: 'both' as const,
          stale: null,
        },
      })),
    ),
    widgets: names.map((name, n) => ({ name, number: n + 1 })),
  }
}

function sampleMessages(codec: LineCodec, book: Book): Message[] {
  const operations = new Set(codec.forms.map(({ form }) => form.operation))
  const messages: Message[] = []
  for (const { cell } of book.variables) {
    const said = { sequence: 1, address: cell.address }
    const { payload } = samples.find(({ holds }) => holds === cell.holds)!
    for (const operation of ['write', 'value', 'report'] as const) messages.push({ operation, ...said, payload })
    const also = [{ address: cell.address, payload }]
    for (const operation of ['write', 'report'] as const) messages.push({ operation, ...said, payload, also })
    messages.push({ operation: 'set bits', ...said, mask: 1, bits: 1 }, { operation: 'ask', ...said, words: cell.words })
    messages.push({ operation: 'done', ...said })
    for (const reason of reasons) messages.push({ operation: 'refused', ...said, reason })
  }
  for (const { number } of book.widgets)
    for (const what of eventKinds) messages.push({ operation: 'event', sequence: 1, address: number, what })
  messages.push({ operation: 'message', sequence: 1, address: 7, payload: [7, 0] })
  return messages.filter(({ operation }) => operations.has(operation))
}
