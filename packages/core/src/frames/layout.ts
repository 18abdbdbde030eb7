import { withItemIds, type Item } from '../describe/index.ts'
import type { Order } from '../base/index.ts'
import type { Framing } from './framings/table.ts'
import type { Direction, Operation } from './messages.ts'
import type { Part } from './parts/table.ts'
import { plainEventCodes, plainReasonCodes } from './parts/codes.ts'

/** How the two bytes of a word of memory stand in a payload, on the wire only. */
export type PayloadOrder = 'as memory' | Order
export const payloadOrders: readonly PayloadOrder[] = ['as memory', 'low', 'high']

/** One operation as the layout says it: its code, where it travels, and the parts between head and end. */
export interface Form extends Item {
  operation: Operation
  directions: readonly Direction[]
  code: number
  parts: readonly Part[]
}

/** The recipe of all frames that travel one way, in bytes. A frame is head, the parts of its form, end. */
export interface BinaryWay {
  kind: 'binary'
  framing: Framing
  payload: PayloadOrder
  /** Payload bytes at most. */
  mostPayload: number
  /** Silence inside a frame after which it counts as broken off. */
  gapUs: number
  head: readonly Part[]
  forms: readonly Form[]
  end: readonly Part[]
}

/** How frames of one direction are made. */
export type Way = BinaryWay

/** The recipe of all frames of a link: a way for each direction. `same`: frames to the host are made as those to the panel. */
export interface Layout {
  name: string
  toPanel: Way
  toHost: Way | 'same'
}

/** The way in which frames of a direction are made. */
export const wayOf = ({ toPanel, toHost }: Layout, direction: Direction): Way =>
  direction === 'to panel' || toHost === 'same' ? toPanel : toHost

/** The ways of a layout, each with the directions that it serves. */
export const waysOf = ({ toPanel, toHost }: Layout): { way: Way; directions: readonly Direction[] }[] =>
  toHost === 'same'
    ? [{ way: toPanel, directions: ['to panel', 'to host'] }]
    : [
        { way: toPanel, directions: ['to panel'] },
        { way: toHost, directions: ['to host'] },
      ]

/** The operations that a layout has in a direction. */
export const formsOf = (layout: Layout, direction: Direction): Form[] =>
  wayOf(layout, direction).forms.filter((form) => form.directions.includes(direction))

/** A layout that is the same both ways. */
export const bothWays = (name: string, way: Omit<BinaryWay, 'kind'>): Layout => ({
  name,
  toPanel: identified({ kind: 'binary', ...way }),
  toHost: 'same',
})

/** A way whose forms and parts have their ids, as every stored one. */
export const identified = (way: Way): Way => ({
  ...way,
  head: withItemIds('part', way.head),
  forms: withItemIds(
    'form',
    way.forms.map((form) => ({ ...form, parts: withItemIds('part', form.parts) })),
  ),
  end: withItemIds('part', way.end),
})

/** Fields of each operation between head and end, in the given byte order. */
export function plainParts(operation: Operation, order: Order): Part[] {
  switch (operation) {
    case 'set bits':
      return [
        { part: 'mask', order },
        { part: 'bits', order },
      ]
    case 'ask':
      return [{ part: 'words', size: 1, order }]
    case 'event':
      return [{ part: 'what', codes: plainEventCodes }]
    case 'done':
      return []
    case 'refused':
      return [{ part: 'reason', codes: plainReasonCodes }]
    default:
      return [{ part: 'payload' }]
  }
}
