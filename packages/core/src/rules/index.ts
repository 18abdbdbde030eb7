export {
  type Effect,
  type World,
  type Moment,
  type NameOf,
  type DeedOf,
  type DeedKind,
  type DeedFacts,
  deedOf,
  isEvent,
  pageMoments,
  panelMoments,
} from './deed.ts'
export { deedKinds, deedKind, registerDeed } from './table.ts'
export {
  type Action,
  type Line,
  type CompiledAction,
  type CompiledLine,
  actionsType,
  pageActionsType,
  panelActionsType,
  freshLine,
  factsOf,
  perform,
  performEnd,
  lasts,
} from './actions.ts'
export { actionSentence, lineSentence, momentWords } from './sentences.ts'
export { stepped } from './deeds/step.ts'
