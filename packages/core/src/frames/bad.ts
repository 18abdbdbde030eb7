/** Why a frame of bytes is bad. `stray` and `idle` are bytes between frames. */
type FrameFault =
  | 'stray'
  | 'idle'
  | 'check'
  | 'operation'
  | 'length'
  | 'words'
  | 'constant'
  | 'escape'
  | 'bare'
  | 'aborted'
  | 'long'
  | 'short'
  | 'unfinished'
  | 'what'
  | 'reason'
  | 'digits'
  | 'half'
  | 'sequence'
  | 'module'

/** Why a frame is bad: a fault of bytes, or one that its way has besides. */
export type BadCode = FrameFault | (string & {})

/** The faults of bytes, in words. */
export const badWords: Readonly<Record<FrameFault, string>> = {
  stray: 'Not part of a frame.',
  idle: 'Empty frame (idle flags).',
  check: 'Checksum error.',
  operation: 'Unknown operation code in this direction.',
  length: 'The length field does not match the frame.',
  words: 'The word count does not match the data.',
  constant: 'A constant byte has another value.',
  escape: 'Escape before a byte that needs none.',
  bare: 'A byte that must be escaped stands there as it is.',
  aborted: 'Frame aborted by sender.',
  long: 'Frame longer than the layout allows.',
  short: 'Frame too short.',
  unfinished: 'Incomplete frame.',
  what: 'Unknown event code.',
  reason: 'Unknown reason code.',
  digits: 'A byte is no digit of this spelling.',
  half: 'The address is in the middle of a word.',
  sequence: 'Sequence number beyond the last.',
  module: 'For another module.',
}
