export { Beside, type BesideEntry } from './beside.ts'
export { Rig, type MakeHost } from './rig.ts'
export { type Conversation, type Entry } from './conversation.ts'
