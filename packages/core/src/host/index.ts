export { SimulatedHost } from './simulated-host.ts'
export { type Host, type HostControls, type HostValue, type OutputState, type TextExtent } from './controls.ts'
export { approach } from './quantity.ts'
