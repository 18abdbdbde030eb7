import { codecOf } from './codec.ts'
import type { Codec, Decoder } from './compiled.ts'
import type { Direction } from './messages.ts'

/** A decoder of one direction, which begins between frames. */
export function makeDecoder(codec: Codec, direction: Direction): Decoder {
  const side = codecOf(codec, direction)
  return side.framing.decoder(side)
}
