export { type Pretended } from './desk.ts'
export { Panel } from './panel.ts'
export { type Carried } from './follow.ts'
export { panelSource } from './talk.ts'
