export { Panel, type Carried, type PanelPort, type Verdict } from './panel.ts'
export { panelSource } from './talk.ts'
