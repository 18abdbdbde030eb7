import {
  oneMoreAction,
  oneMoreCheck,
  oneMoreKind,
  oneMorePart,
  oneMoreStep,
  oneMoreSystemVariable,
} from '../packages/core/src/testing/one-more.ts'

// Additions of an interface and a server that are built with this.
for (const register of [oneMoreKind, oneMorePart, oneMoreAction, oneMoreStep, oneMoreCheck, oneMoreSystemVariable]) register()
