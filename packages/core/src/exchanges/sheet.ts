import { fromHex, hexByte, wordsToPayload } from '../base/index.ts'
import { frameWords } from '../explain/index.ts'
import { answering, linkInWords, operationTexts, type Direction, type Message } from '../frames/index.ts'
import { bookOf, type Project } from '../project/index.ts'
import { commandOf, encodeContent, parseValues, protocolFor, type Protocol } from '../protocols/index.ts'
import { stepKind, stepWords, type CompiledStep, type Exchange } from '../scripts/index.ts'
import { encodeValue, parseValue, type Cell } from '../variables/index.ts'
import { compileExchange } from './compiled.ts'

/** A line of a terminal sheet: what somebody at the host’s end does, sends, waits for, or looks at. */
export interface SheetLine {
  number: number
  does: 'send' | 'expect' | 'look' | 'do'
  /** The step in words. */
  words: string
  direction: Direction | null
  /** The frame in hex, `..` where a byte depends on the number of the frame; '' where there is none. */
  hex: string
  /** The frame as characters, where it is a line of them; else ''. */
  text: string
  withinMs: number | null
  /** The frame that the host sends when this one has come, in the same spelling: a report is repeated until it is acknowledged. */
  reply: string
}

/** Bytes as hex, those that are others with another number as `..`. */
function maskedHex(one: Uint8Array, other: Uint8Array | null): string {
  return Array.from(one, (byte, k) => (other && (other.length !== one.length || other[k] !== byte) ? '..' : hexByte(byte))).join(
    ' ',
  )
}

/** A frame with two numbers and as many bytes: in some a byte may be escaped. */
function twoOf(of: (sequence: number) => Uint8Array | null): [Uint8Array | null, Uint8Array | null] {
  const some = [1, 2, 3, 4, 5, 6].flatMap((sequence) => of(sequence) ?? [])
  const least = Math.min(...some.map(({ length }) => length))
  const [one, other] = some.filter(({ length }) => length === least)
  return [one ?? null, other ?? null]
}

/** An exchange to be worked by hand with a terminal: each step with its frame in hex and as text. Null: the layout cannot be used. */
export function exchangeSheet(project: Project, exchange: Exchange, nameOf: (id: string) => string): SheetLine[] | null {
  const made = protocolFor(project.layout, bookOf(project))
  if (!made.ok) return null
  const protocol = made.value
  const compiled = compileExchange(project, exchange)
  let sequence = 0
  /** The last message of each side, which an answer is of. */
  const last: Partial<Record<Direction, Message>> = {}
  const lines = compiled.steps.map((step, k): SheetLine => {
    const stored = exchange.steps[step.id]!
    const isSent = step.kind.startsWith('host ')
    if (isSent) sequence = protocol.lastSequence ? (sequence % protocol.lastSequence) + 1 : 0
    const said = messageOf(project, step, isSent ? sequence : 1, last)
    if (said?.message && step.kind !== 'expect answer') last[said.direction] = said.message
    const frame = said && frameOf(protocol, said, isSent)
    const does =
      isSent || isFromHost(step)
        ? 'send'
        : !stepKind(step.kind).expects
          ? 'do'
          : said || step.kind === 'expect nothing' || step.kind === 'expect answer'
            ? 'expect'
            : 'look'
    const settings = step.settings as { withinMs?: number; ms?: number }
    return {
      number: k + 1,
      does,
      words: stepWords(stored, nameOf),
      direction: said?.direction ?? null,
      hex: frame?.hex ?? '',
      text: frame?.text ?? '',
      withinMs: does === 'expect' ? (settings.withinMs ?? settings.ms ?? null) : null,
      reply: said && project.link.confirm ? replyTo(protocol, said) : '',
    }
  })
  // Where the exchange itself asks for the answer, it is said there.
  return lines.map((line, k) => (line.reply && isAnswered(compiled.steps[k + 1]) ? { ...line, reply: '' } : line))
}

/** An answer or a command that is expected of the host is sent by whoever works in its place. */
const isFromHost = ({ kind, settings }: CompiledStep): boolean =>
  (kind === 'expect answer' || kind === 'expect command') && settings.from === 'host'

const isAnswered = (next: CompiledStep | undefined): boolean => next?.kind === 'expect answer' && isFromHost(next)

interface Said {
  direction: Direction
  message: Message | null
  bytes?: Uint8Array
}

function frameOf(protocol: Protocol, { direction, message, bytes }: Said, isSent: boolean): { hex: string; text: string } | null {
  const of = (sequence: number) => {
    const made = message && protocol.encode(direction, { ...message, sequence })
    return made?.ok ? made.value : null
  }
  const [one, other] = bytes ? [bytes, null] : isSent || !protocol.lastSequence ? [of(message!.sequence), null] : twoOf(of)
  if (!one) return null
  const words = protocol.isText[direction] ? frameWords(protocol, direction, one) : ''
  return { hex: maskedHex(one, other), text: words }
}

/** The acknowledgement that the host sends for a report or an event; '' where none is sent. */
function replyTo(protocol: Protocol, { direction, message }: Said): string {
  if (direction !== 'to host' || !message || !['report', 'event', 'message'].includes(message.operation)) return ''
  if (!protocol.can('to panel', 'done')) return ''
  const of = (sequence: number) => {
    const made = protocol.encode('to panel', { operation: 'done', ...answering({ ...message, sequence }) })
    return made.ok ? made.value : null
  }
  const [one, other] = protocol.lastSequence ? twoOf(of) : [of(1), null]
  if (!one) return ''
  return protocol.isText['to panel'] ? frameWords(protocol, 'to panel', one) : maskedHex(one, other)
}

/** The message that a step sends or expects; null where no frame shows it. */
function messageOf(
  project: Project,
  step: CompiledStep,
  sequence: number,
  last: Partial<Record<Direction, Message>>,
): Said | null {
  const memory = project.panel.order
  const valued = (operation: 'write' | 'report', cell: Cell | null, text: string): Said | null => {
    const value = cell && parseValue(cell.holds, text)
    if (!cell || !value?.ok) return null
    const words = encodeValue(cell.holds, value.value, cell.order)
    if (!words.ok) return null
    const payload = wordsToPayload(words.value, memory)
    return {
      direction: operation === 'write' ? 'to panel' : 'to host',
      message: { operation, sequence, address: cell.address, payload },
    }
  }
  const commanded = (number: number | null, values: string, direction: Direction): Said | null => {
    const command = number === null ? undefined : commandOf(bookOf(project), number)
    const wanted = command && parseValues(command, values)
    if (!command || !wanted?.ok) return null
    const content = encodeContent(command, wanted.value)
    return content.ok
      ? { direction, message: { operation: 'message', sequence, address: command.number, payload: content.value } }
      : null
  }
  switch (step.kind) {
    case 'host writes':
      return valued('write', step.settings.variable, step.settings.value)
    case 'expect report':
      return valued('report', step.settings.variable, step.settings.value)
    case 'host asks': {
      const cell = step.settings.variable
      return cell && { direction: 'to panel', message: { operation: 'ask', sequence, address: cell.address, words: cell.words } }
    }
    case 'host sends bytes': {
      const bytes = fromHex(step.settings.bytes)
      return bytes.ok ? { direction: 'to panel', message: null, bytes: bytes.value } : null
    }
    case 'host sends command':
      return commanded(step.settings.command, step.settings.values, 'to panel')
    case 'expect command':
      return commanded(step.settings.command, step.settings.values, step.settings.from === 'host' ? 'to panel' : 'to host')
    case 'expect event': {
      const { widget, what } = step.settings
      return widget === null ? null : { direction: 'to host', message: { operation: 'event', sequence, address: widget, what } }
    }
    case 'expect answer': {
      const { from, answer, reason } = step.settings
      const direction = from === 'host' ? 'to panel' : 'to host'
      const asked = last[direction === 'to host' ? 'to panel' : 'to host']
      if (!asked || answer === 'value') return null
      const said = answering(asked)
      return answer === 'done'
        ? { direction, message: { operation: 'done', ...said } }
        : { direction, message: { operation: 'refused', ...said, reason: reason === 'any' ? 'value' : reason } }
    }
    default:
      return null
  }
}

const doesWords = { send: 'SEND', expect: 'EXPECT', look: 'LOOK', do: 'DO' } as const

/** A terminal sheet as plain text, a step a paragraph. */
export function sheetText(project: Project, exchange: Exchange, lines: readonly SheetLine[]): string {
  const head = [
    `Exchange: ${exchange.name}`,
    `Line: ${linkInWords(project.link)}. Layout: ${project.layout.name}.`,
    '→ is sent to the panel, ← comes from it. A byte “..” depends on the number of the frame.',
    '',
  ]
  const body = lines.flatMap(({ number, does, words, direction, hex, text, reply }) => {
    const arrow = direction === 'to host' ? '←' : '→'
    return [
      `${number}. ${doesWords[does]}: ${words}`,
      ...(text ? [`   ${arrow} ${text}`] : []),
      ...(hex ? [`   ${arrow} ${hex}`] : []),
      ...(reply ? [`   → ${reply}   (${operationTexts.done}, or it is sent again)`] : []),
    ]
  })
  return `${[...head, ...body].join('\n')}\n`
}
