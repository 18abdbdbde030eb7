import { sentence, type Problem } from '../base/index.ts'

/** Why a message cannot be said, by the code of the problem. */
export const unsaidSentences: Readonly<Record<string, string>> = {
  'frame.no-form': 'This layout has no “{operation}” frame {direction}.',
  'frame.end-inside': 'The data contains the end bytes {end}.',
  'frame.long': '{bytes} bytes of data; maximum {most}.',
  'line.no-name': 'No variable with a name of its own begins at address {address} and has {bytes} bytes.',
  'line.no-widget': 'Widget {number} has no name of its own.',
  'line.value': 'This value cannot be spelled.',
  'line.size': '{bytes} bytes; {wants} expected.',
  'line.flags': 'Only a variable with flags has bits.',
  'line.stop-inside': 'The text contains “{character}”, which ends it.',
  'line.long': '{bytes} characters; a line has at most {most}.',
  'frame.address': 'The address {address} does not fit into its field; at most {most}.',
  'frame.fixed': 'The frame has {bytes} bytes; the layout has {wants}.',
  'frame.untold': 'Nothing in its bytes tells this frame from others: begin it with a constant.',
  'frame.code': 'The operation code {code} does not fit its field; at most {most}.',
  'frame.led': 'The framing needs a length: put it in the header and trailer of the layout.',
  'command.value': 'The value {value} of “{name}” does not fit its field.',
  'command.marker': 'The text of “{name}” contains the bytes that end it.',
  'frame.digits': 'The value {value} has more than {digits} digits.',
  'frame.one-place': 'The frame has room for one place of memory, not {places}.',
  'frame.pairs': '{places} addresses; at most {most}.',
  'frame.pair-size': 'The value has {bytes} bytes; the frame has room for {wants}.',
  'frame.whole-words': 'The data of {bytes} bytes is no whole number of words.',
}

/** Why a message cannot be said, in words. */
export const unsaidWords = ({ code, facts }: Problem): string => sentence(unsaidSentences[code] ?? code, facts)
