import { sentence, type Problem } from '@moth-lamp/core/base'
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
  'frame.no-form': 'This layout has no “{operation}” frame {direction}.',
  'frame.end-inside': 'The data contains the end bytes {end}.',
  'frame.long': '{bytes} bytes of data; maximum {most}.',
  'line.no-name': 'No variable with a name of its own begins at {address} and has {bytes} bytes.',
  'line.no-widget': 'Widget {number} has no name of its own.',
  'line.value': 'This value cannot be spelled.',
  'line.size': '{bytes} bytes; {wants} expected.',
  'line.flags': 'Only a variable with flags has bits.',
  'line.stop-inside': 'The text contains “{character}”, which ends it.',
  'line.long': '{bytes} characters; a line has at most {most}.',
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
