export {
  type Effect,
  type World,
  type Moment,
  type NameOf,
  type ActionOf,
  type ActionKind,
  type ActionFacts,
  actionOf,
  isEvent,
  momentTexts,
  pageMoments,
  panelMoments,
} from './action.ts'
export { actionKinds, actionKind, registerAction } from './table.ts'
export {
  type Rule,
  type Line,
  type CompiledRule,
  type CompiledLine,
  rulesType,
  pageRulesType,
  panelRulesType,
  freshLine,
  factsOf,
  refsOfRule,
  perform,
  performEnd,
  lasts,
} from './rule.ts'
export { ruleSentence, lineSentence } from './sentences.ts'
export { stepped } from './actions/step.ts'
