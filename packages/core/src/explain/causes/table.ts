import type { Hint } from '../../frames/index.ts'
import { byteOrder, decimal, quotesMissing, textForNumber } from './content.ts'
import { causeOf, isPlausible, surenesses, wholeFrame, wordsOf, type Cause, type CauseFinder, type Suspect } from './cause.ts'
import { checkKind, checkSwapped, checkWrong, flipped, lengthWrong } from './check.ts'
import { cut, edgeMissing, glued, startExpected, startOther, startSwapped } from './edges.ts'
import { baudHalf, baudTwice, parityBit } from './line-level.ts'

/** Hints of the way itself: a name that is like another, characters that were expected. */
const hinted: CauseFinder = ({ protocol, direction, bytes, code, anatomy }) => {
  if (code === null) return null
  const wrong = anatomy.wrong ? [anatomy.wrong] : [{ from: 0, to: bytes.length }]
  const hint: Hint | undefined = protocol
    .hint(direction, bytes, code)
    .find((one) => one.code === 'hint.name' || one.code === 'hint.wanted')
  return hint ? causeOf(hint.code.slice('hint.'.length), 'likely', hint.facts, wrong) : null
}

/** The frame is one of the other direction. */
const otherWay: CauseFinder = (suspect) => {
  const { direction, bytes, code } = suspect
  if (code === null) return null
  const message = wholeFrame(suspect, direction === 'to panel' ? 'to host' : 'to panel', bytes)
  if (!message) return null
  const sure = isPlausible(suspect, message) ? 'likely' : 'possible'
  return causeOf('other-way', sure, { reads: wordsOf(suspect, message) }, [{ from: 0, to: bytes.length }])
}

/** Looked for in a frame that is good, and whose content nobody would mean. */
const inContent: readonly CauseFinder[] = [textForNumber, byteOrder]

/** Of those that are as sure, the one that is listed first is said first. */
const finders: readonly CauseFinder[] = [
  decimal,
  startSwapped,
  checkSwapped,
  lengthWrong,
  startOther,
  edgeMissing,
  textForNumber,
  quotesMissing,
  flipped,
  checkKind,
  parityBit,
  baudTwice,
  baudHalf,
  glued,
  hinted,
  otherWay,
  cut,
  checkWrong,
  startExpected,
]

/** So many causes are told at most. */
const mostCauses = 4

/** The likely causes of a suspect, the surest first. */
export function causesOf(suspect: Suspect): Cause[] {
  const found = (suspect.code === null ? inContent : finders).flatMap((find) => find(suspect) ?? [])
  return surenesses.flatMap((sure) => found.filter((cause) => cause.sure === sure)).slice(0, mostCauses)
}
