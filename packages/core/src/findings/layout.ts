import { layoutProblemLines, lampBinary } from '../frames/index.ts'
import { layoutHints, layoutProblems, wayProblemSentences } from '../protocols/index.ts'
import { sentence } from '../base/index.ts'
import type { Check } from './finding.ts'

/** A layout with two readings cannot be built: the panel keeps running the last one that could. */
export const twoReadings: Check = ({ project }) =>
  layoutProblemLines(layoutProblems(project.layout), wayProblemSentences)
    .slice(0, 5)
    .map((why) => ({
      code: 'layout',
      severity: 'error',
      station: 'Frames',
      at: '',
      facts: { why },
      fix: { label: 'Reset to lamp binary', edit: 'set layout', args: { values: { ...lampBinary } } },
    }))

/** Ambiguities of the layout. */
export const sharedFrame: Check = ({ project }) =>
  layoutHints(project.layout).map(({ code, facts }) => ({
    code: 'layout-advice',
    severity: 'advice',
    station: 'Frames',
    at: '',
    facts: { why: sentence(wayProblemSentences[code] ?? code, facts) },
    fix: null,
  }))
