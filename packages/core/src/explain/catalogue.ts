import { wordsToPayload, type CommandId } from '../base/index.ts'
import { byteEndUs, type Anatomy, type Direction, type Message } from '../frames/index.ts'
import { bookOf, orderOf, type Project, type Variable, type Widget } from '../project/index.ts'
import {
  commandOf,
  contentOf,
  encodeContent,
  goes,
  protocolFor,
  valuesInWords,
  type BuildCommand,
  type Protocol,
} from '../protocols/index.ts'
import { emptyWords, encodeValue, extremeOf, formatValue, isNumber, wordsOf, type Holds, type Value } from '../variables/index.ts'
import { factsOf, isEvent } from '../rules/index.ts'
import { rawOf } from '../widgets/index.ts'

/** A frame that this project will use, with an example of it. */
export interface FrameExample {
  key: string
  direction: Direction
  operation: Message['operation']
  /** Id of the variable, widget or command. */
  id: string
  name: string
  value: string
  bytes: Uint8Array
  anatomy: Anatomy
  /** Time on the line, µs. */
  lineUs: number
  /** The call in the host's code. */
  call: string
}

const exampleSequence = { 'to panel': 5, 'to host': 3 } as const

function example(
  project: Project,
  protocol: Protocol,
  direction: Direction,
  message: Message,
  id: string,
  name: string,
  value: string,
  argument = '',
): FrameExample[] {
  if (!protocol.can(direction, message.operation)) return []
  const bytes = protocol.encode(direction, message)
  if (!bytes.ok) return []
  return [
    {
      key: `${direction} ${message.operation} ${id} ${value}`,
      direction,
      operation: message.operation,
      id,
      name,
      value,
      bytes: bytes.value,
      anatomy: protocol.dissect(direction, bytes.value),
      lineUs: byteEndUs(project.link, 0, bytes.value.length),
      call: callOf(message, name, argument),
    },
  ]
}

/** Every frame of a variable in both directions, with `value` (or its initial value) in them. */
export function framesOfVariable(project: Project, variable: Variable, value: Value = variable.initial): FrameExample[] {
  const protocol = protocolFor(project.layout, bookOf(project))
  if (!protocol.ok) return []
  const { address, holds, travels, id, name } = variable
  const encoded = encodeValue(holds, value, orderOf(project.panel, variable))
  const payload = wordsToPayload(encoded.ok ? encoded.value : emptyWords(holds), project.panel.order)
  const shown = formatValue(holds, encoded.ok ? value : holds.type === 'text' ? '' : 0)
  const say = (direction: Direction, message: Message, words = shown) =>
    example(project, protocol.value, direction, message, id, name, words, argumentOf(name, holds, value))
  const toPanel = { sequence: exampleSequence['to panel'], address }
  const toHost = { sequence: exampleSequence['to host'], address }
  const out: FrameExample[] = []
  if (travels === 'stays') return out
  out.push(...say('to panel', { operation: 'write', ...toPanel, payload }))
  if (travels !== 'host to panel') out.push(...say('to host', { operation: 'report', ...toHost, payload }))
  if (holds.type === 'flags')
    out.push(...say('to panel', { operation: 'set bits', ...toPanel, mask: 1, bits: 1 }, `+${holds.names[0] || 'bit 0'}`))
  out.push(...say('to panel', { operation: 'ask', ...toPanel, words: wordsOf(holds) }, ''))
  out.push(...say('to host', { operation: 'value', sequence: toPanel.sequence, address, payload }))
  return out
}

/** The events a widget sends. */
export function framesOfWidget(project: Project, widget: Widget): FrameExample[] {
  const protocol = protocolFor(project.layout, bookOf(project))
  const { rules } = rawOf(widget)
  if (!protocol.ok || !rules) return []
  return rules
    .filter(({ lines }) => lines.some((line) => factsOf(line).says))
    .map(({ on }) => on.moment)
    .filter(isEvent)
    .flatMap((what) =>
      example(
        project,
        protocol.value,
        'to host',
        { operation: 'event', sequence: exampleSequence['to host'], address: widget.number, what },
        widget.id,
        widget.name,
        what,
      ),
    )
}

/** The most examples of one command. */
const mostExamples = 24

/** Values that are examples of a command: as its fields have them, the least, the most, and each label of a choice. */
function valuesOf(command: BuildCommand): Value[][] {
  const { carried } = contentOf(command)
  const usual = carried.map(({ value }) => value)
  const all = carried.length ? [usual] : [[]]
  const bounded = carried.some(({ cell }) => cell)
  if (bounded)
    for (const which of ['least', 'most'] as const)
      all.push(carried.map(({ cell, value }) => (cell ? extremeOf(cell.holds, which) : value)))
  carried.forEach(({ holds }, k) => {
    if (holds.type === 'choice') for (const { value } of holds.choices) all.push(usual.map((one, i) => (i === k ? value : one)))
  })
  return all
}

/** Frames of a command in its directions: with the values of its fields, the least, the most, and each label. */
export function framesOfCommand(project: Project, id: CommandId): FrameExample[] {
  const book = bookOf(project)
  const protocol = protocolFor(project.layout, book)
  const record = project.commands[id]
  const command = record && commandOf(book, record.number)
  if (!protocol.ok || !command) return []
  const directions = (['to panel', 'to host'] as const).filter((direction) => goes(command, direction))
  const out: FrameExample[] = []
  const seen = new Set<string>()
  for (const direction of directions)
    for (const values of valuesOf(command)) {
      const content = encodeContent(command, values)
      const key = `${direction} ${content.ok ? content.value.join() : ''}`
      if (!content.ok || seen.has(key) || out.length >= mostExamples) continue
      seen.add(key)
      const sequence = exampleSequence[direction]
      const message: Message = { operation: 'message', sequence, address: command.number, payload: content.value }
      out.push(...example(project, protocol.value, direction, message, id, command.name, valuesInWords(command, values)))
    }
  return out
}

/** Every frame of the project: variables in their order, then the events of widgets, then the commands. */
export function catalogue(project: Project): FrameExample[] {
  return [
    ...project.variableOrder.flatMap((id) => framesOfVariable(project, project.variables[id]!)),
    ...project.pageOrder.flatMap((page) =>
      project.pages[page]!.widgets.flatMap((id) => framesOfWidget(project, project.widgets[id]!)),
    ),
    ...project.commandOrder.flatMap((id) => framesOfCommand(project, id)),
  ]
}

const lower = (name: string): string => name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '_')
const upper = (name: string): string => name.toUpperCase().replaceAll(/[^A-Z0-9]+/g, '_')

/** A value as the argument of a call in C: `DOME_TARGET(231.0)` is raw by the variable's scale, `SHUTTER_STATE_OPEN` a name. */
function argumentOf(name: string, holds: Holds, value: Value): string {
  if (typeof value === 'string') return JSON.stringify(value)
  if (isNumber(holds)) return `${upper(name)}(${formatValue(holds, value, false)})`
  if (holds.type === 'choice') {
    const word = holds.choices.find((c) => c.value === value)?.word
    return word === undefined ? String(value) : `${upper(name)}_${upper(word)}`
  }
  return holds.type === 'time' ? String(value) : `0x${value.toString(16).toUpperCase().padStart(4, '0')}`
}

/** Host code of a frame: the function that sends it, or the callback for it. */
function callOf(message: Message, name: string, argument: string): string {
  switch (message.operation) {
    case 'write':
      return `panel_set_${name}(${argument})`
    case 'report':
    case 'value':
      return `on_${name}(raw)`
    case 'ask':
      return `panel_ask_${name}()`
    case 'event':
      return `on_event(${upper(name)}, what)`
    case 'message':
      return `panel_send_${lower(name)}()`
    default:
      return `panel_set_bits_${name}(mask, bits)`
  }
}
