export { type Typeface, readTypeface, measureText, lettersLacking } from './typeface.ts'
export { fontDamage, mostFontBytes } from './font-file.ts'
export { makeSheet, usualCharacters } from './sheet.ts'
export { coverageOf, flatten, type OutlineCommand } from './outline.ts'
