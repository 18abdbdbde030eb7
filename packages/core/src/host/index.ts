export { StandIn } from './stand-in.ts'
export { type Host, type HostControls, type HostValue, type OutputState, type TextExtent } from './controls.ts'
export { approach } from './quantity.ts'
