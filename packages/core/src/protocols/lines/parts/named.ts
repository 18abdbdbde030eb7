import { bad, good } from '../../../base/index.ts'
import { record } from '../../../describe/index.ts'
import { namedFor, nameOfNumbered, noName } from '../names.ts'
import { faultAt, linePart } from '../part.ts'

/** The name of the variable that a line is about, of an event that of the widget. */
export const name = linePart({
  part: 'name',
  label: 'name',
  tint: 'address',
  isOpen: true,
  settings: record({}),
  neededBy: ['write', 'set bits', 'ask', 'value', 'report'],
  onlyIn: ['write', 'set bits', 'ask', 'value', 'report', 'event', 'done', 'refused'],
  made: () => '',
  put: (_, message, { names }) => {
    if (message.operation === 'event') {
      const widget = names.widgetOf.get(message.address)
      if (widget && names.widgets.get(widget.wire) === widget) return good(widget.wire)
      return bad('line.no-widget', { number: message.address })
    }
    if ('to' in message && message.to) {
      const wire = nameOfNumbered(names, message.to, message.address)
      return wire === null ? bad('line.no-widget', { number: message.address }) : good(wire)
    }
    const named = namedFor(names, message)
    return named ? good(named.wire) : noName(message)
  },
  read: (_, line, at, into, { names, operation, until }) => {
    const to = until(line, at)
    const word = line.slice(at, to)
    if (operation === 'event') {
      const widget = names.widgets.get(word)
      if (!widget) return faultAt('name', at, to, { name: word })
      into.number = widget.number
      return to
    }
    into.named = names.cells.get(word) ?? null
    const isAnswer = operation === 'done' || operation === 'refused'
    for (const [kind, all] of isAnswer && !into.named
      ? ([
          ['event', names.widgets],
          ['command', names.commands],
        ] as const)
      : []) {
      const found = all.get(word)
      if (!found) continue
      into.number = found.number
      into.to = kind
      return to
    }
    return into.named ? to : faultAt('name', at, to, { name: word })
  },
})

/** The number of a widget, or of a message, in decimal figures. */
export const number = linePart({
  part: 'number',
  label: 'number',
  tint: 'address',
  isOpen: true,
  settings: record({}),
  neededBy: ['message'],
  onlyIn: ['event', 'message'],
  made: () => 'decimal',
  put: (_, { address }) => good(String(address)),
  read: (_, line, at, into, { until }) => {
    const to = until(line, at)
    const figures = line.slice(at, to)
    if (!/^\d{1,5}$/.test(figures)) return faultAt('number', at, to, { value: figures })
    into.number = Number(figures)
    return to
  },
})
