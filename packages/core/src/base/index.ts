export { type Problem, type Result, good, bad, mustBe, mustHold, isProblem, sentence } from './result.ts'
export {
  type Order,
  hexByte,
  hexWord,
  toHex,
  fromHex,
  longestHexText,
  sameBytes,
  joinBytes,
  putNumber,
  takeNumber,
  wordsToBytes,
  wordsToPayload,
  bytesToWords,
} from './bytes.ts'
export {
  type ChecksumName,
  type ChecksumFunction,
  checksums,
  checksumNames,
  checksumFunction,
  checksumFits,
  checksumSize,
  type CrcModel,
  checksumOf,
} from './checksums.ts'
export { tenTo, roundHalfAway, clamp, wrapInto, sine, cosine } from './math.ts'
export { VirtualClock, Timers, type TimedEvent } from './clock.ts'
export { type Random, seededRandom, randomFrom } from './random.ts'
export {
  type Id,
  type IdKind,
  type ProjectId,
  type PageId,
  type WidgetId,
  type VariableId,
  type FaceId,
  type PictureId,
  type TypefaceId,
  type ExchangeId,
  type CommandId,
  type StepId,
  type ChangeId,
  newId,
  kindOfId,
  idPattern,
} from './ids.ts'
export {
  type Rect,
  intersect,
  isEmptyRect,
  overlaps,
  holdsPoint,
  holdsRect,
  sameRect,
  around,
  areaOf,
  inset,
  noRect,
  without,
} from './geometry.ts'
export { type ArchiveEntry, readArchive, unpackEntry } from './archive.ts'
export { canonicalJson, jsonLength, sameJson, sha256Hex, hashOfWords } from './canonical.ts'
