export { StandIn, type OutputState } from './stand-in.ts'
export { approach } from './quantity.ts'
