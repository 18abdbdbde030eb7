import { sentence, type Problem } from '@moth-lamp/core/base'
import { unsaidSentences } from '@moth-lamp/core/protocols'
import { parseValue, type Holds } from '@moth-lamp/core/variables'

const sentences: Record<string, string> = {
  'value.number': '“{value}” is not a number.',
  'value.range': 'The range is {low} to {high}.',
  'value.choice': 'Choose one of: {words}.',
  'value.flag': 'Unknown: “{word}”. Use {words}.',
  'value.time': 'Enter a time as 21:47 or 21:47:06.',
  'value.long': '{bytes} bytes; maximum {most}.',
  'value.encoding': '“{character}” is not available in {encoding}.',
  'value.type': 'The data type allows {low} to {high}.',
  'value.whole': 'Enter 0 to {most}.',
  ...unsaidSentences,
  'bytes.digit': '“{character}” (position {at}) is not a hex digit.',
  'bytes.odd': 'Odd number of hex digits in “{digits}”.',
  'bytes.empty': 'Enter bytes as hex: 7E 51 12 …',
  'bytes.long': 'More than {most} characters.',
}

export const valueProblemWords = (problem: Problem): string => sentence(sentences[problem.code] ?? problem.code, problem.facts)

/** Why a text is no value of a variable; null when it is one. */
export function valueProblem(holds: Holds, text: string): string | null {
  const read = parseValue(holds, text)
  return read.ok ? null : valueProblemWords(read.problem)
}
