export { StandIn, type HostPort, type HostVerdict, type OutputState } from './stand-in.ts'
export { approach } from './quantity.ts'
