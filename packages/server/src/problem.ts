import { sentence, type Problem } from '@moth-lamp/core/base'
import { fileSentences, gateSentences } from '@moth-lamp/core/project'
import { apiSentences, type ApiProblem } from '@moth-lamp/contract'
import { workSentences } from './work/workroom.ts'

/** An answer that is no success, on its way out. */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly facts: Problem['facts'] = {},
  ) {
    super(code)
  }
}

const sentences = { ...gateSentences, ...fileSentences, ...apiSentences, ...workSentences }

export const problemWords = ({ code, facts }: Problem): string => sentence(sentences[code] ?? code, facts)

export const asAnswer = ({ code, facts }: Problem): ApiProblem => ({ code, facts, message: problemWords({ code, facts }) })
