import { oneMoreCheck, oneMoreDeed, oneMoreKind, oneMorePart, oneMoreStep } from '../packages/core/src/testing/one-more.ts'

// What an interface and a server have besides that are built with this.
for (const register of [oneMoreKind, oneMorePart, oneMoreDeed, oneMoreStep, oneMoreCheck]) register()
