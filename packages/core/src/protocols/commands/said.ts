import { good, type Problem, type Result } from '../../base/index.ts'
import type { Direction, Message } from '../../frames/index.ts'
import type { Cell, Value } from '../../variables/index.ts'
import type { Book } from '../protocol.ts'
import { goes, type BuildCommand } from './command.ts'
import { contentOf, encodeContent } from './content.ts'

/** A command as a message without its sequence. */
export type SaidCommand = Omit<Extract<Message, { operation: 'message' }>, 'sequence'>

/** The command of a number, where a build has it. */
export const commandOf = ({ commands }: Pick<Book, 'commands'>, number: number): BuildCommand | undefined =>
  commands.find((command) => command.number === number)

/** A command of a number that goes in a direction. */
export function commandGoing(book: Pick<Book, 'commands'>, number: number, direction: Direction): BuildCommand | undefined {
  const command = commandOf(book, number)
  return command && goes(command, direction) ? command : undefined
}

/**
 * A command with the values that are given, else those that whoever sends it knows, else those of its fields. Problems as of
 * `encodeContent`.
 */
export function commandNow(
  command: BuildCommand,
  known: (cell: Cell) => Value | null,
  values: readonly (Value | null)[] = [],
): Result<SaidCommand> {
  const now = contentOf(command).carried.map(({ cell }, k) => values[k] ?? (cell ? known(cell) : null))
  const content = encodeContent(command, now)
  return content.ok ? good({ operation: 'message', address: command.number, payload: content.value }) : content
}

/** The event beside a line of a command that cannot be said. */
export const unsaidCommand = ({ number }: BuildCommand, problem: Problem) => ({
  what: 'not sent' as const,
  message: { operation: 'message' as const, sequence: 0, address: number, payload: [] },
  problem,
})
