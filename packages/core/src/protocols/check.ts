import type { Problem } from '../base/index.ts'
import {
  ambiguityProblems,
  badWords,
  checkLayout,
  layoutAdvice,
  layoutSentences,
  undecidedProblems,
  waysOf,
  type BadCode,
  type Layout,
} from '../frames/index.ts'
import { ambiguousLines } from './lines/ambiguity.ts'
import { checkLines } from './lines/check.ts'
import { lineFaults, lineSentences } from './lines/words.ts'

/** Why a layout cannot be used, in coded reasons, over all its ways; an empty list means that every frame it makes has one meaning. */
export function layoutProblems(layout: Layout): Problem[] {
  let found = known.get(layout)
  if (!found) {
    found = [...checkLayout(layout), ...waysOf(layout).flatMap(({ way }) => (way.kind === 'lines' ? checkLines(way) : []))]
    // A layout that cannot be said at all need not be looked at for two readings.
    if (!found.length) found = [...ambiguityProblems(layout), ...waysOf(layout).flatMap(linesTwice)]
    known.set(layout, found)
  }
  return found
}
const known = new WeakMap<Layout, Problem[]>()

const linesTwice = ({ way, directions }: ReturnType<typeof waysOf>[number]): Problem[] =>
  way.kind === 'lines' ? ambiguousLines(way, directions) : []

/** Peculiarities of a usable layout: frames of two readings that a dialogue tells apart, and forms that may not be told apart. */
export const layoutHints = (layout: Layout): Problem[] =>
  layoutProblems(layout).length ? [] : [...layoutAdvice(layout), ...undecidedProblems(layout)]

/** The sentences of `layoutProblems`, by code. */
export const wayProblemSentences: Readonly<Record<string, string>> = { ...layoutSentences, ...lineSentences }

/** Why a frame is bad, in words, of whichever way it is. */
export const badSentence = (code: BadCode): string =>
  (({ ...badWords, ...lineFaults }) as Readonly<Record<string, string>>)[code] ?? code
