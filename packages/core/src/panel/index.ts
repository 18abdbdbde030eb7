export { Panel, type Carried, type Pretended } from './panel.ts'
export { panelSource } from './talk.ts'
