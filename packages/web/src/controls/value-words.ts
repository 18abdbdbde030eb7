import { sentence, type Problem } from '@moth-lamp/core/base'
import { parseValue, type Holds } from '@moth-lamp/core/variables'

const sentences: Record<string, string> = {
  'value.number': '“{value}” is no number.',
  'value.range': 'The range is {low} to {high}.',
  'value.choice': 'It is one of: {words}.',
  'value.flag': '“{word}” is none of: {words}.',
  'value.time': 'A time is written 21:47 or 21:47:06.',
  'value.long': 'That is {bytes} bytes; there is room for {most}.',
  'value.encoding': '“{character}” cannot be written in {encoding}.',
  'value.type': 'The type holds {low} to {high}.',
  'value.whole': 'A whole number 0 to {most} is wanted.',
  'frame.no-form': 'The layout has no “{operation}” {direction}.',
  'frame.long': '{bytes} bytes of payload; the layout allows {most}.',
  'bytes.digit': '“{character}” (character {at}) is no hex digit.',
  'bytes.odd': '“{digits}” has half a byte too much or too little.',
  'bytes.empty': 'Type bytes as hex: 7E 51 12 …',
  'bytes.long': 'That is more than {most} characters.',
}

export const valueProblemWords = (problem: Problem): string => sentence(sentences[problem.code] ?? problem.code, problem.facts)

/** Why a text is no value of a variable; null when it is one. */
export function valueProblem(holds: Holds, text: string): string | null {
  const read = parseValue(holds, text)
  return read.ok ? null : valueProblemWords(read.problem)
}
