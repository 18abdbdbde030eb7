export {
  type Action,
  type Amount,
  type Deed,
  type Moment,
  type CompiledAction,
  type World,
  moments,
  deedKinds,
  actionsSchema,
  freshDeed,
  actionRefs,
  actionWithout,
  compileAction,
  perform,
  stepped,
} from './action.ts'
export { actionSentence, type NameOf } from './sentences.ts'
