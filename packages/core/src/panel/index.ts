export { type Pretended } from './desk.ts'
export { Panel, type Carried } from './panel.ts'
export { panelSource } from './talk.ts'
