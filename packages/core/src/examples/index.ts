export {
  type Known,
  type Meaning,
  type Place,
  meaningSentences,
  meaningWords,
  nothingKnown,
  parseMeaning,
  parseMeanings,
} from './meaning.ts'
export { type ExampleCheck, type Sample, checkExamples, exampleBook, exampleOf, messageOf } from './example.ts'
export { type Pasted, frameBytes, frameText, readPasted } from './paste.ts'
export { shippedLayouts, type ShippedLayout } from './shipped.ts'
export { type Explains, type Guess, type Slot, type Taken } from './guess.ts'
export { type Guesses, type WayGuesses, guessesOf } from './infer.ts'
