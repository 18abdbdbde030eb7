import type { TextHolds } from './holds.ts'

const codes = (from: number, to: number): string =>
  Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i)).join('')

const ascii = codes(0x20, 0x7e)
const latin = codes(0xa0, 0xff)

/** Sets of letters by name, for a text or a font that says what may be in it. */
export const letterSets: readonly { name: string; letters: string }[] = [
  { name: 'digits', letters: `${codes(0x30, 0x39)} .,:+-` },
  { name: 'capitals', letters: codes(0x41, 0x5a) },
  { name: 'ASCII', letters: ascii },
  { name: 'Latin', letters: latin },
  { name: 'Greek', letters: `${codes(0x391, 0x3a1)}${codes(0x3a3, 0x3a9)}${codes(0x3b1, 0x3c9)}ΆΈΉΊΌΎΏάέήίόύώΐΰϊϋ` },
  { name: 'Cyrillic', letters: `${codes(0x410, 0x44f)}ЁёЄєІіЇїҐґЎў` },
]

/** Default characters of a text: ASCII, Latin-1, and signs that panels use; in order. */
export const usualLetters = [...`${ascii}${latin}ŒœŠšŽžŸ–—‘’“”•…€←↑→↓−≤≥`]
  .sort((a, b) => a.codePointAt(0)! - b.codePointAt(0)!)
  .join('')

/** The letters that may be in a text: those it says, or the printable ones of its encoding; of UTF-8, those of Latin. */
export function lettersIn({ letters, encoding }: TextHolds): string {
  if (letters) return letters
  return encoding === 'ascii' ? ascii : encoding === 'latin-1' ? ascii + latin : usualLetters
}
