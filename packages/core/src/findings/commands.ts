import { sentence, type Problem } from '../base/index.ts'
import { framesOfCommand, framesOfVariable, sayMessage } from '../explain/index.ts'
import { formsOf, type Direction } from '../frames/index.ts'
import { bookOf, type Command, type Project } from '../project/index.ts'
import {
  commandOf,
  commandSentences,
  contentWrong,
  encodeContent,
  goes,
  parseValues,
  protocolFor,
  unsaidWords,
  type Book,
  type BuildCommand,
  type Protocol,
} from '../protocols/index.ts'
import { factsOf } from '../rules/index.ts'
import { doersOf, type Check, type Finding, type Severity } from './finding.ts'

const directions = ['to panel', 'to host'] as const
const directionWords: Readonly<Record<Direction, string>> = { 'to panel': 'host → panel', 'to host': 'panel → host' }

/** So many frames of variables are read again to see whether a command takes them. */
const mostFrames = 200

const atCommand = ({ id, name }: Command, code: string, severity: Severity, facts: Problem['facts']): Finding => ({
  code,
  severity,
  station: 'Frames',
  at: id,
  facts: { name, ...facts },
  fix: null,
})

interface One {
  record: Command
  command: BuildCommand
}

const inOrder = (project: Project, book: Book): One[] =>
  project.commandOrder.flatMap((id) => {
    const record = project.commands[id]!
    const command = commandOf(book, record.number)
    return command ? [{ record, command }] : []
  })

/** Why a command cannot be said or heard, and how its bytes are read. */
export const commandFindings: Check = ({ project }) => {
  if (!project.commandOrder.length) return []
  const book = bookOf(project)
  const made = protocolFor(project.layout, book)
  if (!made.ok) return []
  const all = inOrder(project, book)
  return all.flatMap((one) => {
    const unsaid = whyUnsaid(made.value, one)
    return unsaid ? [atCommand(one.record, 'command-unsaid', 'error', { why: unsaid })] : misread(project, made.value, book, one)
  })
}

function whyUnsaid(protocol: Protocol, { command }: One): string | null {
  const wrong = contentWrong(command)
  if (wrong) return sentence(commandSentences[wrong.code] ?? wrong.code, wrong.facts)
  const content = encodeContent(command)
  if (!content.ok) return unsaidWords(content.problem)
  if (!content.value.length) return 'It has no content.'
  for (const direction of directions.filter((one) => goes(command, one))) {
    const message = { operation: 'message' as const, sequence: 0, address: command.number, payload: content.value }
    const bytes = protocol.encode(direction, message)
    if (!bytes.ok) return unsaidWords(bytes.problem)
  }
  return null
}

/** Bytes of a command that are read as something else, and frames of variables that are read as the command. */
function misread(project: Project, protocol: Protocol, book: Book, { record, command }: One): Finding[] {
  const isIt = (direction: Direction, bytes: Uint8Array): string | null => {
    const [message] = protocol.dissect(direction, bytes).readings
    if (message?.operation === 'message' && message.address === command.number) return null
    return message ? words(book, message) : 'no frame'
  }
  for (const { direction, bytes } of framesOfCommand(project, record.id)) {
    const other = isIt(direction, bytes)
    if (other !== null) return [atCommand(record, 'command-misread', 'error', { other })]
  }
  if (command.frame === 'message') return []
  const frames = project.variableOrder.slice(0, mostFrames).flatMap((id) => framesOfVariable(project, project.variables[id]!))
  const taken = frames.find(({ direction, bytes }) => isIt(direction, bytes) === null)
  return taken ? [atCommand(record, 'command-takes', 'error', { other: `${taken.operation} ${taken.name}` })] : []
}

const words = (book: Book, message: Parameters<typeof sayMessage>[1]): string => {
  const { what, name } = sayMessage(book, message)
  return `${what} ${name}`
}

/** Why commands that answer each other never come to an end; null: they do. */
function answersForEver(book: Book, command: BuildCommand): string | null {
  const passed = new Set<number>()
  for (let next: BuildCommand | undefined = command; next?.answer === 'command' && next.answerBy !== null;) {
    if (passed.has(next.number)) return `“${next.name}” is answered by what it answers: both ends go on for ever.`
    passed.add(next.number)
    next = commandOf(book, next.answerBy)
  }
  return null
}

/** An answer that cannot come, or that never ends. */
export const commandAnswers: Check = ({ project }) => {
  if (!project.commandOrder.length) return []
  const book = bookOf(project)
  return inOrder(project, book).flatMap(({ record, command }) => {
    const back = directions.filter((direction) => !goes(command, direction) || command.sender === 'both')
    if (command.answer === 'done') {
      const lacks = back.find((direction) => !formsOf(project.layout, direction).some(({ operation }) => operation === 'done'))
      const why = lacks && `The layout has no “acknowledge” frame ${directionWords[lacks]}.`
      return why ? [atCommand(record, 'command-answer', 'warning', { why })] : []
    }
    if (command.answer !== 'command') return []
    const by = command.answerBy === null ? undefined : commandOf(book, command.answerBy)
    const why = !by
      ? 'No replying command is selected.'
      : back.every((direction) => goes(by, direction))
        ? answersForEver(book, command)
        : `“${by.name}” does not go back to its sender.`
    return why ? [atCommand(record, 'command-answer', 'warning', { why })] : []
  })
}

/** Values of a scheduled frame that its command cannot have: nothing is sent. */
export const commandValues: Check = ({ project }) => {
  const { sendings, sendingOrder } = project.host
  return sendingOrder.flatMap((id) => {
    const { what, command: of, values } = sendings[id]!.settings
    const record = what === 'command' ? project.commands[of as keyof typeof project.commands] : undefined
    const command = record && commandOf(bookOf(project), record.number)
    if (!command || parseValues(command, values).ok) return []
    return [atCommand(record, 'command-values', 'error', { values })]
  })
}

/** An action that sends a command which the panel does not send. */
export const commandOtherWay: Check = ({ project }) =>
  doersOf(project).flatMap(({ at, name, rules }): Finding[] =>
    rules
      .flatMap(({ lines }) => lines)
      .flatMap((line) => {
        const command = project.commands[factsOf(line).orders as keyof typeof project.commands]
        return command?.sender === 'host'
          ? [
              {
                code: 'command-other-way',
                severity: 'error' as const,
                station: 'Pages' as const,
                at,
                facts: { name, command: command.name },
                fix: {
                  label: 'Set sender to both',
                  edit: 'set command',
                  args: { id: command.id, values: { sender: 'both' } },
                },
              },
            ]
          : []
      }),
  )
