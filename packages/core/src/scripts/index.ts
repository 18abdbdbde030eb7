export {
  type HostScript,
  type Quantity,
  type QuantityKind,
  type Reaction,
  type HostOutput,
  type Effect,
  type Compare,
  emptyHostScript,
  quantityKinds,
  reactionSettings,
  outputSettings,
  freshQuantity,
} from './host-script.ts'
export { type Step, type StepKind, type Exchange, stepKinds, stepKindNames, freshStep } from './steps.ts'
