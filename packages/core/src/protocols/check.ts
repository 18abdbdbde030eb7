import type { Problem } from '../base/index.ts'
import { badWords, checkLayout, layoutSentences, waysOf, type BadCode, type Layout } from '../frames/index.ts'
import { checkLines } from './lines/check.ts'
import { lineFaults, lineSentences } from './lines/words.ts'

/** Why a layout cannot be used, in coded reasons, over all its ways; an empty list means that every frame it makes has one meaning. */
export const layoutProblems = (layout: Layout): Problem[] => [
  ...checkLayout(layout),
  ...waysOf(layout).flatMap(({ way }) => (way.kind === 'lines' ? checkLines(way) : [])),
]

/** The sentences of `layoutProblems`, by code. */
export const wayProblemSentences: Readonly<Record<string, string>> = { ...layoutSentences, ...lineSentences }

/** Why a frame is bad, in words, of whichever way it is. */
export const badSentence = (code: BadCode): string =>
  (({ ...badWords, ...lineFaults }) as Readonly<Record<string, string>>)[code] ?? code
