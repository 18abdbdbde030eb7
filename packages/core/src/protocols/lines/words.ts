/** Why a line is bad, in words; faults that frames of bytes have too are told as theirs. */
export const lineFaults: Readonly<Record<string, string>> = {
  word: 'Unknown command word.',
  gap: 'Separator missing.',
  name: 'Unknown name.',
  number: 'Not a number.',
  value: 'Not a value of this variable.',
  type: 'This form is for another data type.',
  quoting: 'Quotes missing or not closed.',
  'left-over': 'Characters left over at the end.',
}

/** The sentences of `checkLines`. */
export const lineSentences: Readonly<Record<string, string>> = {
  'layout.longest': 'The longest line must be 16 to 1024 bytes, not {most}.',
  'layout.name-template': 'The template of names needs {name} in it.',
  'layout.spelling': 'The spelling of values is incomplete.',
  'layout.end-inside': 'The characters “{text}” of “{operation}” contain a start, end or ignored byte.',
  'layout.empty-line': 'The line of “{operation}” is empty, and an empty line means nothing. Add a part.',
  'layout.pair-gap':
    'The pairs of “{operation}” are separated by “{text}”, and so begins what stands behind them. Change one of the two.',
  'layout.quote-gap': 'A quote stands beside the value of “{operation}”, which has quotes of its own.',
  'layout.open-part': 'The {part} of “{operation}” needs a separator behind it.',
}
