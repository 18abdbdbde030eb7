export { type SavedChange, type SaveRequest, type SaveAnswer, mostChanges, mostBatchSize, mostAsked } from './messages.ts'
export { Replica, type SetAside } from './replica.ts'
export { Saver, type SaverEvent, type SaverCommand, type SaveState, type Failure, saverSentences } from './saver.ts'
