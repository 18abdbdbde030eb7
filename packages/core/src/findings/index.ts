import { artworkFull, cannotBeWritten, pictureFindings, pictureOffGlass, typefaceFindings } from './artwork.ts'
import { crossedPairs, oddKnobs, opaqueMargins, statesOfPictures } from './families.ts'
import { beyondType, inOwnWords, overlapping, sameName, sameWireName, unused } from './addresses.ts'
import { mistypedAction } from './actions.ts'
import type { Check, Finding, View } from './finding.ts'
import {
  foundByKind,
  glyphMissing,
  noLetters,
  notReported,
  outsideGlass,
  textTooWide,
  touchesOverlap,
  withoutVariable,
} from './glass.ts'
import { commandAnswers, commandFindings, commandOtherWay, commandValues } from './commands.ts'
import { keypadLacks } from './keypads.ts'
import { sharedFrame, twoReadings } from './layout.ts'
import { targetTooSmall, textTooSmall, textTooTall, tooLittleContrast } from './legible.ts'
import { noneInRange, setsWholeWord, sharedQuantity, stateOrAction, unfitVariable, unitWithoutScale } from './meaning.ts'
import { backlightToZero, cannotBeLeft, cannotBeReached } from './pages.ts'
import { unfitPage } from './page-kinds.ts'
import { absentFromPanel, tooDark } from './profile.ts'
import { findingSentences } from './words.ts'

/** Every check there is, in the order findings are shown. */
const checks: Check[] = [
  twoReadings,
  noLetters,
  artworkFull,
  absentFromPanel,
  overlapping,
  inOwnWords,
  sameName,
  sameWireName,
  beyondType,
  outsideGlass,
  cannotBeWritten,
  glyphMissing,
  backlightToZero,
  mistypedAction,
  textTooWide,
  textTooTall,
  notReported,
  withoutVariable,
  unfitVariable,
  unfitPage,
  sharedQuantity,
  foundByKind,
  keypadLacks,
  setsWholeWord,
  touchesOverlap,
  cannotBeLeft,
  cannotBeReached,
  tooLittleContrast,
  textTooSmall,
  targetTooSmall,
  unused,
  unitWithoutScale,
  noneInRange,
  stateOrAction,
  tooDark,
  crossedPairs,
  statesOfPictures,
  oddKnobs,
  opaqueMargins,
  pictureOffGlass,
  pictureFindings,
  typefaceFindings,
  sharedFrame,
  commandFindings,
  commandAnswers,
  commandValues,
  commandOtherWay,
]

/** Adds a check with the sentences of its codes; a test takes it out again with the function it gets back. */
export function registerCheck(check: Check, sentences: Record<string, string>): () => void {
  checks.push(check)
  Object.assign(findingSentences, sentences)
  return () => {
    checks.splice(checks.indexOf(check), 1)
    for (const code of Object.keys(sentences)) delete findingSentences[code]
  }
}

export const checkProject = (view: View): Finding[] => checks.flatMap((check) => check(view))

export { shrinkings, type Shrinking } from './shrinkings.ts'
export { widthFor } from './glass.ts'
export { Viewer, type Finding, type FindingStation, type Severity, type View } from './finding.ts'
export { findingWords, findingSentences } from './words.ts'
