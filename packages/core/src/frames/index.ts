export {
  type Operation,
  type Direction,
  type EventKind,
  type Reason,
  type Message,
  type Numbered,
  type PlacedBytes,
  operations,
  eventKinds,
  eventTexts,
  operationTexts,
  reasonTexts,
  reasons,
  directionsOf,
  payloadOf,
  placesOf,
  answering,
} from './messages.ts'
export {
  type BinaryLayout,
  type BinaryWay,
  type Form,
  type Layout,
  type LayoutExample,
  type LineForm,
  type LinePart,
  type LinesWay,
  type NameStyle,
  type PayloadOrder,
  type Way,
  bothWays,
  identified,
  mostExamples,
  formsOf,
  payloadOrders,
  type TextTravel,
  textTravels,
  plainParts,
  wayOf,
  waysOf,
} from './layout.ts'
export { type PartKindOf, type PartKindRecord, partOf } from './part.ts'
export { type NumberSpelling, type WireNumber, mostIn, putWire, takeWire } from './number.ts'
export { type Part, type PartKind, part, partKinds, partKind, registerPart, freshPart, sizeOfPart } from './parts/table.ts'
export { plainEventCodes, plainReasonCodes } from './parts/codes.ts'
export { lampBinary, lengthLedStart } from './lamp-binary.ts'
export { type Standing, partsOf, standingParts, reachOf, isPayload, isCount, isCheck, countOf } from './place.ts'
export { type Ambiguity, ambiguities, ambiguityProblems, undecidedProblems } from './ambiguity.ts'
export { checkLayout, layoutAdvice, layoutSentences, layoutProblemLines } from './check.ts'
export { type BadCode, badWords } from './bad.ts'
export { type EndedFrames, EndedDecoder } from './framings/ended.ts'
export { type FramingKindOf, type FramingKindRecord, framingOf } from './framing.ts'
export { type Framing, framingAt, framingKind, framingKinds, freshFraming, registerFraming } from './framings/table.ts'
export { type Codec, type Decoder, type DirectionCodec, type AssignedFrame, type FramingAt, type Outcome } from './compiled.ts'
export { codecOf, compileLayout, compileWay, encodeFrame, longestOnWire } from './codec.ts'
export { notSaid } from './parse.ts'
export { makeDecoder } from './decoder.ts'
export { type Anatomy, type Piece, bodyOfPieces, dissect, frameAsHex, frameAsCArray, frameAsCString } from './anatomy.ts'
export { type Hint, hintsFor, hintSentences, mendFrame } from './hint.ts'
export {
  type LinkSettings,
  linkSettings,
  plainLink,
  bitsPerByte,
  bytesUs,
  byteEndUs,
  linkInWords,
  usualBaudRates,
} from './link.ts'
