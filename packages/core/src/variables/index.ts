export {
  type Holds,
  type HoldsType,
  type NumberHolds,
  type ChoiceHolds,
  type FlagsHolds,
  type TextHolds,
  type Encoding,
  type Value,
  holdsTypes,
  isNumber,
  rawLimits,
  wordsOf,
  freshHolds,
  offOn,
  retyped,
} from './holds.ts'
export {
  encodeValue,
  decodeValue,
  rawOf,
  isInRange,
  isNone,
  noneValue,
  noneWord,
  inBounds,
  usedBits,
  clampToRange,
  formatDecimals,
  formatValue,
  unitAfter,
  formatTime,
  unknownTime,
  parseValue,
  textToBytes,
  bytesToText,
  freshValue,
  emptyWords,
} from './values.ts'
export { type Extreme, extremes, extremeOf } from './extremes.ts'
export {
  type Span,
  type MemoryPlan,
  type Overlap,
  AddressBook,
  spansOverlap,
  isInOwnWords,
  isInMemory,
  findOverlaps,
  formatAddress,
  parseAddress,
} from './addresses.ts'
export { shownIn, type UnitPair, type ShownIn } from './units.ts'
export {
  type Cell,
  type Travels,
  type Staleness,
  travelKinds,
  travelWords,
  travelsToHost,
  bytesOfCell,
  bytesAfterWrite,
} from './cell.ts'
export { CellIndex } from './cell-index.ts'
export { unknownDate, weekdayOf, dateOf, daysOf } from './dates.ts'
export { type OwnWord, ownWords, ownWordById, ownWordCount, ownOffset, ownIndex, unknownMinute } from './own-words.ts'
export { letterSets, lettersIn, usualLetters } from './letters.ts'
