import type { Decoder, DirectionCodec } from './compiled.ts'

/** A decoder of one direction, which begins between frames. */
export const makeDecoder = (side: DirectionCodec): Decoder => side.framing.decoder(side)
