import { sentence, type Problem } from '@moth-lamp/core/base'
import { meaningSentences } from '@moth-lamp/core/examples'
import { unsaidSentences, unsaidWords } from '@moth-lamp/core/protocols'
import { valueProblemWords } from '../../../controls/value-words.ts'

/** A meaning or a frame that cannot be taken, in words. */
export const problemWords = (problem: Problem): string =>
  meaningSentences[problem.code] ? sentence(meaningSentences[problem.code]!, problem.facts) : valueProblemWords(problem)

/** Why a layout cannot say an example. */
export const cannotWords = (problem: Problem): string =>
  unsaidSentences[problem.code] ? unsaidWords(problem) : problemWords(problem)
