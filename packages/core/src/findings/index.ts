import { beyondType, inOwnWords, overlapping, sameName, unused } from './addresses.ts'
import { mistypedDeed } from './deeds.ts'
import type { Check, Finding, View } from './finding.ts'
import { digitsTooFew, glyphMissing, outsideGlass, textTooWide, touchesOverlap, withoutVariable } from './glass.ts'
import { twoReadings } from './layout.ts'
import { backlightToZero, cannotBeLeft, cannotBeReached } from './pages.ts'

/** Every check there is, in the order findings are shown. */
const checks: readonly Check[] = [
  twoReadings,
  overlapping,
  inOwnWords,
  sameName,
  beyondType,
  outsideGlass,
  glyphMissing,
  backlightToZero,
  mistypedDeed,
  textTooWide,
  digitsTooFew,
  withoutVariable,
  touchesOverlap,
  cannotBeLeft,
  cannotBeReached,
  unused,
]

export const checkProject = (view: View): Finding[] => checks.flatMap((check) => check(view))

export { Viewer, type Finding, type FindingStation, type Severity, type View } from './finding.ts'
export { findingWords, findingSentences } from './words.ts'
