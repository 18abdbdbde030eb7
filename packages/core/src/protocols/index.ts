export { type Protocol, type Book, type Entry, type Dialogue, emptyBook, nextSequence } from './protocol.ts'
export { type WireOf, asksBook, needsNames, protocolFor, sameWire } from './table.ts'
export { badSentence, layoutHints, layoutProblems, wayProblemSentences } from './check.ts'
export { unsaidSentences, unsaidWords } from './unsaid.ts'
export { type End, type Wire, type Verdict, type Happening, type Uncounted } from './end.ts'
export { type Heard, Receiver } from './receiver.ts'
export { lampLines } from './lines/lamp-lines.ts'
export { type LinePartKind, type LinePartKindOf, linePart } from './lines/part.ts'
export { freshLinePart, linePartKind, linePartKinds, registerLinePart } from './lines/parts/table.ts'
export { type Spelling, spell, spellingSettings } from './lines/spelling.ts'
export { wireName } from './lines/names.ts'
export { ownWireName } from './own-wire-name.ts'
export {
  type CommandField,
  type CompiledField,
  type Carried,
  type FieldKind,
  type FieldKindOf,
  fieldKindOf,
} from './commands/field.ts'
export { fieldKind, fieldKinds, freshField, registerFieldKind } from './commands/fields/table.ts'
export { type BuildCommand, commandSettings, goes } from './commands/command.ts'
export {
  type Content,
  contentOf,
  contentWrong,
  encodeContent,
  parseValues,
  piecesOfContent,
  readContent,
  valuesInWords,
  wordsSetBy,
} from './commands/content.ts'
export { type SaidCommand, commandGoing, commandNow, commandOf, unsaidCommand } from './commands/said.ts'
export { type TypedFrame, likelyField, markField, typedFrame } from './commands/typed.ts'
export { commandSentences } from './commands/sentences.ts'
export { namesTwice } from './lines/twice.ts'
