import { spansOverlap } from '../variables/index.ts'
import type { TimedEvent, Timers } from '../base/index.ts'
import type { BuildHeader } from '../compile/index.ts'
import { placesOf, type Message, type Reason } from '../frames/index.ts'
import { readContent, Receiver, wordsSetBy, type BuildCommand, type Heard, type Protocol, type Wire } from '../protocols/index.ts'
import type { Memory } from './memory.ts'
import type { Talk } from './talk.ts'

export interface EarView {
  memory: Memory
  wire: Wire
  header(): BuildHeader
  protocol(): Protocol
  talk(): Talk
  /** The command of a number that goes to the panel, where the build has it. */
  command(number: number): BuildCommand | undefined
  /** Answers with the command of a number. */
  reply(command: number): void
  /** The host has written some words. */
  wrote(address: number, words: number): void
}

/** The ear of a panel: bytes become messages, messages are obeyed and answered, and a host that is heard is there. */
export class Ear {
  private receiver: Receiver
  private expiry: TimedEvent | null = null
  private aliveTimer: TimedEvent | null = null

  constructor(
    private timers: Timers,
    private view: EarView,
  ) {
    this.receiver = this.newReceiver()
  }

  private newReceiver(): Receiver {
    const protocol = this.view.protocol()
    return new Receiver(protocol, 'to panel', protocol.dialogue(this.view.header().link.confirmTimeoutMs * 1000))
  }

  /** Frames are others from now on: what had begun to come is forgotten. */
  begin(): void {
    this.receiver = this.newReceiver()
  }

  /** Bytes from the line, of the try `attempt`; all are in by now. */
  receive(bytes: Uint8Array, fromUs: number, attempt: number): void {
    for (const heard of this.receiver.receive(bytes, fromUs, this.timers.nowUs, attempt)) this.take(heard)
    this.awaitSilence()
  }

  private awaitSilence(): void {
    const deadline = this.receiver.deadlineUs
    this.timers.cancel(this.expiry)
    this.expiry =
      deadline === null
        ? null
        : this.timers.at(deadline, () => {
            for (const heard of this.receiver.expire(this.timers.nowUs)) this.take(heard)
          })
  }

  private take(heard: Heard): void {
    const { wire } = this.view
    if (heard.kind === 'bad') return wire.heard(heard, null, null)
    this.hostIsAlive()
    const { message } = heard
    if (message.operation === 'done' || message.operation === 'refused')
      return wire.heard(heard, this.view.talk().heardAnswer(message) ? 'ok' : 'unexpected', null)
    const reason = this.obey(message)
    wire.heard(heard, reason ? 'refused' : this.isOutOfRange(message) ? 'out of range' : 'ok', reason)
    if (reason) this.view.talk().refuse(message, reason)
  }

  private hostIsAlive(): void {
    const { memory } = this.view
    memory.setOwn('host_alive', 1)
    this.timers.cancel(this.aliveTimer)
    this.aliveTimer = this.timers.after(this.view.header().link.aliveMs * 1000, () => memory.setOwn('host_alive', 0))
  }

  /** Does what a message says: null, or why not. Done is said here, refused by the caller. */
  private obey(message: Message): Reason | null {
    const { memory } = this.view
    switch (message.operation) {
      case 'write': {
        const places = placesOf(message)
        const reason = memory.hostWritePlaces(places)
        if (reason) return reason
        for (const { address, payload } of places) this.view.wrote(address, Math.ceil(payload.length / 2))
        this.view.talk().done(message)
        return null
      }
      case 'set bits': {
        const reason = memory.hostSetBits(message.address, message.mask, message.bits)
        if (reason) return reason
        this.view.wrote(message.address, 1)
        this.view.talk().done(message)
        return null
      }
      case 'ask': {
        const { address, words, sequence } = message
        if (words < 1 || words * 2 > this.view.protocol().limits.payload) return 'length'
        if (!memory.isThere(address, words)) return 'address'
        this.view.talk().answer({ operation: 'value', sequence, address, payload: memory.bytesOf(address, words) })
        return null
      }
      case 'message':
        return this.obeyCommand(message)
      default:
        return 'operation'
    }
  }

  /** Sets what a command sets, all of it or nothing, and answers as it is answered. */
  private obeyCommand(message: Message & { operation: 'message' }): Reason | null {
    const command = this.view.command(message.address)
    if (!command) return 'operation'
    const values = readContent(command, message.payload)
    if (!values) return 'length'
    const set = wordsSetBy(command, values)
    if (!set) return 'value'
    this.view.talk().heardCommand(command.number)
    const reason = this.view.memory.hostWriteAll(set.map(({ cell, words }) => ({ address: cell.address, words })))
    if (reason) return reason
    for (const { cell } of set) this.view.wrote(cell.address, cell.words)
    if (command.answer === 'done') this.view.talk().done(message, true)
    if (command.answer === 'command' && command.answerBy !== null) this.view.reply(command.answerBy)
    return null
  }

  private isOutOfRange(message: Message): boolean {
    if (message.operation !== 'write') return false
    const { memory } = this.view
    return placesOf(message).some(({ address, payload }) => {
      const span = { address, words: Math.ceil(payload.length / 2) }
      return [...memory.cellsIn(address, span.words)].some((cell) => spansOverlap(cell, span) && !memory.read(cell).inRange)
    })
  }
}
