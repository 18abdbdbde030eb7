export { type Protocol, type Book, type Entry, type Dialogue, emptyBook, nextSequence } from './protocol.ts'
export { protocolFor } from './table.ts'
export { type End, type Wire, type Verdict, type Happening, type Uncounted } from './end.ts'
export { type Heard, Receiver } from './receiver.ts'
