import type { EventKind, Message } from '../frames/index.ts'
import { nextSequence, type Protocol, type SaidCommand } from '../protocols/index.ts'
import { perform } from '../rules/index.ts'
import { travelsToHost } from '../variables/index.ts'
import type { BuildWidget } from '../compile/index.ts'
import type { Doer } from './doer.ts'
import type { Memory } from './memory.ts'
import { linesAt } from './touch.ts'
import type { Widgets } from './widgets.ts'

/** A frame that would be sent, and the message it says. */
export interface Foreseen {
  message: Message
  bytes: Uint8Array
}

/** The parts of the panel by which a press is foreseen. */
export interface ForeseeView {
  doer: Doer
  widgets: Widgets
  memory: Memory
  protocol: Protocol
  nowUs: number
  /** A command as the message that it is now, without telling anybody where it cannot be said. */
  command(number: number): SaidCommand | null
  /** The sequence of the last frame that was sent. */
  sequence: number
}

/** The frames that a press of a widget, or its lifting, would send now: nothing is done. */
export function framesOf(view: ForeseeView, widget: BuildWidget, moment: EventKind): Foreseen[] {
  const { writes, others } = view.doer.plan(moment, (world) => {
    for (const effect of view.widgets.anywhere(widget, moment, view.nowUs)) world.do(effect)
    linesAt(widget, moment).forEach((line) => perform(line, world))
  })
  const reports = writes.flatMap(({ cell, words }) =>
    travelsToHost(cell.travels)
      ? [{ operation: 'report' as const, address: cell.address, payload: view.memory.payloadOf(words) }]
      : [],
  )
  const events = others.flatMap((effect) =>
    effect.do === 'event' ? [{ operation: 'event' as const, address: widget.number, what: effect.what }] : [],
  )
  const commands = others.flatMap((effect) => (effect.do === 'command' ? (view.command(effect.number) ?? []) : []))
  let { sequence } = view
  return [...reports, ...events, ...commands].flatMap((said) => {
    sequence = nextSequence(view.protocol, sequence)
    const message: Message = { ...said, sequence }
    const bytes = view.protocol.encode('to host', message)
    return bytes.ok ? [{ message, bytes: bytes.value }] : []
  })
}
