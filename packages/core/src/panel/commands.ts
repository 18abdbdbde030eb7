import type { LinkSettings } from '../frames/index.ts'
import { commandGoing, commandNow, unsaidCommand, type Book, type SaidCommand, type Wire } from '../protocols/index.ts'
import type { Memory } from './memory.ts'
import type { Talk } from './talk.ts'

export interface CommandsView {
  book(): Book
  link(): LinkSettings
  memory(): Memory
  talk(): Talk
  wire: Wire
}

/** Commands of a panel: said with the values that its variables have then. */
export class Commands {
  constructor(private view: CommandsView) {}

  /** A command as it would be said now; null where it is none of the panel, or cannot be said. */
  foreseen(number: number): SaidCommand | null {
    const command = commandGoing(this.view.book(), number, 'to host')
    const said = command && commandNow(command, this.known)
    return said?.ok ? said.value : null
  }

  /** Sends a command in its turn, and waits for what answers it. `widget`: that which was touched; 0: none. */
  send(number: number, widget: number): void {
    const command = commandGoing(this.view.book(), number, 'to host')
    const said = this.said(number)
    if (!command || !said) return
    const { answer, answerBy, waitMs } = command
    const ms = waitMs || this.view.link().confirmTimeoutMs
    this.view.talk().say(said, widget, answer === 'none' ? null : { ms, command: answer === 'command' ? answerBy : null })
  }

  /** Answers with a command. */
  reply(number: number): void {
    const said = this.said(number)
    if (said) this.view.talk().answer({ ...said, sequence: 0 })
  }

  private known = (cell: Parameters<Memory['read']>[0]) => this.view.memory().read(cell).value

  /** Why a command cannot be said is told beside the line. */
  private said(number: number): SaidCommand | null {
    const command = commandGoing(this.view.book(), number, 'to host')
    if (!command) return null
    const said = commandNow(command, this.known)
    if (said.ok) return said.value
    this.view.wire.beside(unsaidCommand(command, said.problem))
    return null
  }
}
