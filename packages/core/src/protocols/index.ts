export type { Protocol } from './protocol.ts'
export { protocolFor } from './table.ts'
export { type Heard, Receiver } from './receiver.ts'
