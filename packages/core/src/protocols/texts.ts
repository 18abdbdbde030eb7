import type { Anatomy, BinaryWay, Decoder, Message, Outcome, PlacedBytes } from '../frames/index.ts'
import type { Book } from './protocol.ts'
import type { WayProtocol } from './way.ts'

/** Turns the payload of a text between memory, where zeros fill its place, and the wire. */
interface Turned {
  toWire(payload: readonly number[]): readonly number[]
  fromWire(payload: readonly number[]): readonly number[]
}

/** The bytes of a text up to the zeros that fill its place. */
function used(payload: readonly number[]): readonly number[] {
  let end = payload.length
  while (end > 0 && payload[end - 1] === 0) end--
  return payload.slice(0, end)
}

/** How texts of a way travel; null: as they stand in memory. */
function turning({ texts, textByte = 0 }: BinaryWay): Turned | null {
  switch (texts) {
    case 'used':
      // A text of nothing is one zero, so that something is written.
      return { toWire: (payload) => (used(payload).length ? used(payload) : [0]), fromWire: (payload) => payload }
    case 'ended':
      return {
        toWire: (payload) => [...used(payload), textByte],
        fromWire: (payload) => (payload.at(-1) === textByte ? payload.slice(0, -1) : payload),
      }
    case 'padded':
      return {
        toWire: (payload) => [...used(payload), ...new Array<number>(payload.length - used(payload).length).fill(textByte)],
        fromWire: (payload) => {
          let end = payload.length
          while (end > 0 && payload[end - 1] === textByte) end--
          return payload.map((byte, i) => (i < end ? byte : 0))
        },
      }
    default:
      return null
  }
}

/** Whether a way asks which addresses are texts. */
export const turnsTexts = (way: BinaryWay): boolean => turning(way) !== null

/** The protocol of a way in which texts travel otherwise than they stand in memory. */
export function withTexts(protocol: WayProtocol, way: BinaryWay, book: Book): WayProtocol {
  const turned = turning(way)
  if (!turned) return protocol
  const texts = new Set(book.variables.filter(({ cell }) => cell.holds.type === 'text').map(({ cell }) => cell.address))
  type Turn = (payload: readonly number[]) => readonly number[]
  const at = <P extends PlacedBytes>(place: P, turn: Turn): P =>
    texts.has(place.address) ? { ...place, payload: turn(place.payload) } : place
  const by = (message: Message, turn: Turn): Message => {
    if (!('payload' in message) || !message.payload || message.operation === 'message') return message
    const first = at(message as Message & PlacedBytes, turn)
    return 'also' in first && first.also ? { ...first, also: first.also.map((place) => at(place, turn)) } : first
  }
  const heard = (message: Message) => by(message, turned.fromWire)
  return {
    ...protocol,
    encode: (message) => protocol.encode(by(message, turned.toWire)),
    decoder: () => new Turning(protocol.decoder(), heard),
    dissect: (wire): Anatomy => {
      const anatomy = protocol.dissect(wire)
      return { ...anatomy, readings: anatomy.readings.map(heard) }
    },
    hint: (wire, code) => protocol.hint(wire, code).map((hint) => (hint.reads ? { ...hint, reads: heard(hint.reads) } : hint)),
  }
}

/** A decoder whose messages are turned. */
class Turning implements Decoder {
  constructor(
    private decoder: Decoder,
    private heard: (message: Message) => Message,
  ) {}

  get deadlineUs(): number | null {
    return this.decoder.deadlineUs
  }

  feed(bytes: Uint8Array, firstUs: number, lastUs: number): Outcome[] {
    return this.decoder.feed(bytes, firstUs, lastUs).map((outcome) => this.turned(outcome))
  }

  expire(atUs: number): Outcome[] {
    return this.decoder.expire(atUs).map((outcome) => this.turned(outcome))
  }

  private turned(outcome: Outcome): Outcome {
    return outcome.kind === 'frame' ? { ...outcome, readings: outcome.readings.map(this.heard) } : outcome
  }
}
