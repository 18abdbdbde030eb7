export { StandIn, type HostValue, type OutputState, type TextExtent } from './stand-in.ts'
export { approach } from './quantity.ts'
