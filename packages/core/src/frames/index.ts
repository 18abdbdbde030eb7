export {
  type Operation,
  type Direction,
  type EventKind,
  type Reason,
  type Message,
  operations,
  eventKinds,
  reasons,
  directionsOf,
} from './messages.ts'
export {
  type Framing,
  type Counts,
  type Covers,
  type Part,
  type PartKind,
  plainEventCodes,
  plainReasonCodes,
  type Form,
  type Layout,
  framingKinds,
  countsKinds,
  coversKinds,
  partKinds,
  freshPart,
  plainParts,
} from './layout.ts'
export { lampBinary, lengthLedStart } from './lamp-binary.ts'
export { checkLayout, layoutSentences, partsOf, sizeOfPart } from './check.ts'
export { type Codec, type BadCode, compileLayout, encodeFrame } from './codec.ts'
export { type Decoder, type Outcome, makeDecoder } from './decoder.ts'
export { type Anatomy, type Piece, dissect, frameAsHex, frameAsCArray } from './anatomy.ts'
export { type LinkSettings, plainLink, bitsPerByte, byteEndUs, linkInWords, usualBaudRates } from './link.ts'
