export { PanelEvents, type PanelEvent } from './panel-events.ts'
export { Rig, type MakeHost } from './rig.ts'
export { type Conversation, type Entry } from './conversation.ts'
