/** Messages of both sides, whatever the bytes look like. */
export type Operation = 'write' | 'set bits' | 'ask' | 'value' | 'report' | 'event' | 'message' | 'done' | 'refused'

/** Which way a frame goes. */
export type Direction = 'to panel' | 'to host'

/** Gestures on a widget: lifted on it, or after sliding off; held comes once, before either. */
export type EventKind = 'pressed' | 'lifted' | 'held' | 'slid off'
export type Reason = 'operation' | 'address' | 'not writable' | 'length' | 'value' | 'busy'

export const operations: readonly Operation[] = [
  'write',
  'set bits',
  'ask',
  'value',
  'report',
  'event',
  'message',
  'done',
  'refused',
]
/** Texts that are displayed for the operations. */
export const operationTexts = {
  write: 'write',
  'set bits': 'set bits',
  ask: 'read request',
  value: 'read response',
  report: 'report',
  event: 'event',
  message: 'command',
  done: 'acknowledge',
  refused: 'reject',
} as const satisfies Record<Operation, string>
export const eventKinds = ['pressed', 'lifted', 'held', 'slid off'] as const satisfies readonly EventKind[]
/** Texts that are displayed for what happened to a widget. */
export const eventTexts = {
  pressed: 'pressed',
  lifted: 'released',
  held: 'long press',
  'slid off': 'slid off',
} as const satisfies Record<EventKind, string>
/** Texts that are displayed for the reasons of a rejection. */
export const reasonTexts = {
  operation: 'unknown operation',
  address: 'unknown address',
  'not writable': 'read-only',
  length: 'wrong length',
  value: 'value out of range',
  busy: 'busy',
} as const satisfies Record<Reason, string>
export const reasons = ['operation', 'address', 'not writable', 'length', 'value', 'busy'] as const satisfies readonly Reason[]

/** Senders of each operation: done and refused answer writes (to the host) and reports (to the panel). */
export const directionsOf: Record<Operation, readonly Direction[]> = {
  write: ['to panel'],
  'set bits': ['to panel'],
  ask: ['to panel'],
  value: ['to host'],
  report: ['to host'],
  event: ['to host'],
  message: ['to panel', 'to host'],
  done: ['to panel', 'to host'],
  refused: ['to panel', 'to host'],
}

/** Kinds that done and refused may answer whose address is a number. */
export type Numbered = 'event' | 'command'

interface Said {
  /** The reference of an answer; 0 where the layout has no place for it. */
  sequence: number
  /** Of the first word; for an event the number of the widget, for a message its own number. */
  address: number
}

/** Bytes of memory at their place. */
export interface PlacedBytes {
  address: number
  payload: readonly number[]
}

/**
 * A write or a report may have several places, all at once or none of them: `also` has those behind the first.
 * The address of a value may be −1: not said, so that a dialogue takes it for the answer to the first open question. The payload of
 * done is that of the write which it confirms, where a layout sends it back; `to`: what is answered, where its address is a number and
 * no place of memory, so that a line can name it. `payload` is bytes of memory as they stand there, in the
 * panel's order: numbers 0–255.
 */
export type Message =
  | (Said & { operation: 'write'; payload: readonly number[]; also?: readonly PlacedBytes[] })
  | (Said & { operation: 'value'; payload: readonly number[] })
  | (Said & { operation: 'report'; payload: readonly number[]; also?: readonly PlacedBytes[] })
  | (Said & { operation: 'message'; payload: readonly number[] })
  | (Said & { operation: 'set bits'; mask: number; bits: number })
  | (Said & { operation: 'ask'; words: number })
  | (Said & { operation: 'event'; what: EventKind })
  | (Said & { operation: 'done'; payload?: readonly number[]; to?: Numbered })
  | (Said & { operation: 'refused'; reason: Reason; to?: Numbered })

/** Sequence, address and kind by which an answer names the message that it answers. */
export const answering = ({ operation, sequence, address }: Message): { sequence: number; address: number; to?: Numbered } => ({
  sequence,
  address,
  ...(operation === 'event' ? { to: 'event' as const } : operation === 'message' ? { to: 'command' as const } : {}),
})

/** All places of a write or a report, the first one first. */
export const placesOf = ({ address, payload, also }: PlacedBytes & { also?: readonly PlacedBytes[] }): readonly PlacedBytes[] =>
  also ? [{ address, payload }, ...also] : [{ address, payload }]

/** The bytes of memory that a message carries; null where it carries none. */
export const payloadOf = (message: Message): readonly number[] | null =>
  'payload' in message && message.operation !== 'done' ? message.payload : null
