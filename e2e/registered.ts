import {
  oneMoreAction,
  oneMoreCheck,
  oneMoreKind,
  oneMorePart,
  oneMoreStep,
  oneMoreSystemVariable,
} from '../packages/core/src/testing/one-more.ts'

// What an interface and a server have besides that are built with this.
for (const register of [oneMoreKind, oneMorePart, oneMoreAction, oneMoreStep, oneMoreCheck, oneMoreSystemVariable]) register()
