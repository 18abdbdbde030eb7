/** Why letters cannot be set one after another from left to right, as a panel does. */
export type WritingTrouble = 'right to left' | 'joined' | 'marks'

const rightToLeft = /[\p{Script=Hebrew}\p{Script=Arabic}\p{Script=Syriac}\p{Script=Thaana}\p{Script=Nko}\p{Script=Adlam}\u200f\u202b\u202e\u2067]/u // prettier-ignore
const joined =
  /[\p{Script=Devanagari}\p{Script=Bengali}\p{Script=Gurmukhi}\p{Script=Gujarati}\p{Script=Oriya}\p{Script=Tamil}\p{Script=Telugu}\p{Script=Kannada}\p{Script=Malayalam}\p{Script=Sinhala}\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}\p{Script=Tibetan}\p{Script=Mongolian}\u200d]/u
/** Marks that are set over the letter before them. */
const marks = /\p{M}/u

/**
 * The first letter of a text that a panel would draw wrong: of a script that runs from right to left or whose letters change with
 * their neighbours (Unicode 16, Scripts), or a mark that belongs over the letter before it. Null: every letter stands by itself.
 */
export function writingTrouble(text: string): { letter: string; why: WritingTrouble } | null {
  for (const letter of text) {
    if (letter < '\u0300') continue
    if (rightToLeft.test(letter)) return { letter, why: 'right to left' }
    if (joined.test(letter)) return { letter, why: 'joined' }
    if (marks.test(letter)) return { letter, why: 'marks' }
  }
  return null
}
