import { withItemIds, type Item } from '../describe/index.ts'
import type { Order } from '../base/index.ts'
import type { Framing } from './framings/table.ts'
import type { Direction, Operation } from './messages.ts'
import { part, type Part } from './parts/table.ts'
import { plainEventCodes, plainReasonCodes } from './parts/codes.ts'

/** How the two bytes of a word of memory stand in a payload, on the wire only. */
export type PayloadOrder = 'as memory' | Order
export const payloadOrders: readonly PayloadOrder[] = ['as memory', 'low', 'high']

/** One operation as the layout says it: its code, where it travels, and the parts between head and end. */
export interface Form extends Item {
  operation: Operation
  directions: readonly Direction[]
  /** 0–255, or 0–65 535 where the part of the operation has two bytes. */
  code: number
  /** The data types of variables that it is for; none: all. */
  types?: readonly string[]
  /** Bytes of its body in all, where frames have a fixed length and this one its own. */
  size?: number
  parts: readonly Part[]
}

/** How a text travels: its whole place, its bytes alone, with an end byte behind them, or its place filled with a byte. */
export type TextTravel = 'whole' | 'used' | 'ended' | 'padded'
export const textTravels: readonly TextTravel[] = ['whole', 'used', 'ended', 'padded']

/** The recipe of all frames that travel one way, in bytes. A frame is head, the parts of its form, end. */
export interface BinaryWay {
  kind: 'binary'
  framing: Framing
  payload: PayloadOrder
  /** How texts travel; missing: whole, as they stand in memory. `textByte` ends or pads them. */
  texts?: TextTravel
  textByte?: number
  /** Payload bytes at most. */
  mostPayload: number
  /** Silence inside a frame after which it counts as broken off. */
  gapUs: number
  /** The checks that it describes are not used: of a module that may go without. */
  checks?: 'on' | 'off'
  head: readonly Part[]
  forms: readonly Form[]
  end: readonly Part[]
}

/** A part of a line as it is stored: its kind, and its settings beside it. */
export type LinePart = Item & { part: string } & Record<string, unknown>

/** One operation as a line says it. `types`: the data types it is for; none: all. */
export interface LineForm extends Item {
  operation: Operation
  directions: readonly Direction[]
  types: readonly string[]
  parts: readonly LinePart[]
}

/** The recipe of all lines of text that travel one way. Bytes, but times in µs. */
export interface LinesWay {
  kind: 'lines'
  /** Bytes that begin and end each line. */
  start: readonly number[]
  end: readonly number[]
  /** Bytes that are passed over wherever they stand. */
  ignored: readonly number[]
  /** Bytes of a line at most, its start and end left out. */
  longest: number
  /** Silence inside a line after which it counts as broken off. */
  gapUs: number
  /** How names are made of those of the project. */
  names: NameStyle
  spelling: Readonly<Record<string, unknown>>
  /** The checks that it describes are not used. */
  checks?: 'on' | 'off'
  forms: readonly LineForm[]
}

/** `template`: text with `{name}` and perhaps `{page}` in it. */
export interface NameStyle {
  template: string
  letters: 'as they are' | 'capitals' | 'small'
}

/** How frames of one direction are made. */
export type Way = BinaryWay | LinesWay

/** A layout has so many examples at most. */
export const mostExamples = 64

/** A frame of a layout, in hex, and its meaning in words: a check of the layout that travels with it. */
export interface LayoutExample extends Item {
  bytes: string
  means: string
}

/** The recipe of all frames of a link: a way for each direction. `same`: frames to the host are made as those to the panel. */
export interface Layout {
  name: string
  toPanel: Way
  toHost: Way | 'same'
  examples?: readonly LayoutExample[]
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
export const formsOf = (layout: Layout, direction: Direction): (Form | LineForm)[] =>
  (wayOf(layout, direction).forms as readonly (Form | LineForm)[]).filter((form) => form.directions.includes(direction))

/** A layout of bytes that is the same both ways. */
export interface BinaryLayout extends Layout {
  toPanel: BinaryWay
  toHost: 'same'
}

/** A layout of bytes that is the same both ways. */
export const bothWays = (name: string, way: Omit<BinaryWay, 'kind'>): BinaryLayout => ({
  name,
  toPanel: identified({ kind: 'binary', ...way }),
  toHost: 'same',
})

/** A way whose forms and parts have their ids, as every stored one. */
export const identified = <W extends Way>(way: W): W => ({
  ...way,
  forms: withItemIds(
    'form',
    (way.forms as readonly Form[]).map((form) => ({ ...form, parts: withItemIds('part', form.parts) })),
  ),
  ...(way.kind === 'binary' ? { head: withItemIds('part', way.head), end: withItemIds('part', way.end) } : {}),
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
      return [part('words', { size: 1, order })]
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
