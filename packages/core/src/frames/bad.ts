/** Why a frame is bad. `stray` and `idle` are bytes between frames. */
export type BadCode =
  | 'stray'
  | 'idle'
  | 'check'
  | 'operation'
  | 'length'
  | 'words'
  | 'constant'
  | 'escape'
  | 'aborted'
  | 'long'
  | 'short'
  | 'unfinished'
  | 'what'
  | 'reason'

/** What is wrong, in words. */
export const badWords: Record<BadCode, string> = {
  stray: 'These bytes belong to no frame.',
  idle: 'A flag with nothing before the next one: the line was idle.',
  check: 'The checksum is wrong.',
  operation: 'The layout has no operation with this code in this direction.',
  length: 'The length does not fit the frame.',
  words: 'The number of words does not fit the payload.',
  constant: 'A constant byte has another value.',
  escape: 'An escape stands before a byte that needs none.',
  aborted: 'An escape right before the flag: the frame was broken off.',
  long: 'The frame is longer than the layout allows.',
  short: 'The frame is too short for what it says it is.',
  unfinished: 'The frame is not finished.',
  what: 'The event code means nothing here.',
  reason: 'The reason code means nothing here.',
}
