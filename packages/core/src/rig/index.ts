export { Rig } from './rig.ts'
export { type Conversation, type Entry } from './conversation.ts'
