import { joinBytes, toHex } from '../../base/index.ts'
import { framingAt, wayOf, type Direction, type Layout } from '../../frames/index.ts'
import {
  allOf,
  causeOf,
  checkBits,
  isPlausible,
  mended,
  sureOf,
  wholeFrame,
  wordsOf,
  type CauseFinder,
  type Suspect,
} from './cause.ts'

/** The bytes before and behind every frame of a direction. */
export function edgesOf(layout: Layout, direction: Direction): { start: number[]; end: number[]; isFlag: boolean } {
  const way = wayOf(layout, direction)
  if (way.kind === 'lines') return { start: [...way.start], end: [...way.end], isFlag: false }
  const { start, before, after } = framingAt(way.framing)
  const isFlag = before.length > 0
  const end = isFlag ? [...after] : 'end' in way.framing ? [...way.framing.end] : way.framing.kind === 'cobs' ? [0] : []
  return { start: isFlag ? [...before] : [...start], end, isFlag }
}

const withStart = (start: readonly number[], bytes: Uint8Array): Uint8Array => joinBytes([Uint8Array.from(start), bytes])
const begins = (bytes: ArrayLike<number>, start: readonly number[]): boolean => start.every((byte, k) => bytes[k] === byte)

/** Where nothing else is known: how a frame begins. */
export const startExpected: CauseFinder = (suspect) => {
  const { start } = edgesOf(suspect.layout, suspect.direction)
  if (suspect.code !== 'stray' || !start.length || begins(suspect.bytes, start)) return null
  return causeOf('start-expected', 'possible', { start: toHex(start) }, [
    { from: 0, to: Math.min(start.length, suspect.bytes.length) },
  ])
}

/** Start bytes in each other's place. */
export const startSwapped: CauseFinder = (suspect) => {
  const { bytes, layout, direction } = suspect
  const { start, isFlag } = edgesOf(layout, direction)
  const turned = [...start].reverse()
  if (isFlag || start.length < 2 || begins(bytes, start) || !begins(bytes, turned)) return null
  const facts = { start: toHex(start), found: toHex(turned) }
  return mended(suspect, 'start-swapped', facts, [{ from: 0, to: start.length }], withStart(start, bytes.subarray(start.length)))
}

/** Other start bytes, or other flags, than those of the layout. */
export const startOther: CauseFinder = (suspect) => {
  const { bytes, layout, direction } = suspect
  const { start, end, isFlag } = edgesOf(layout, direction)
  if (!start.length || bytes.length <= start.length + end.length || begins(bytes, start)) return null
  const right = bytes.slice()
  right.set(start)
  const marks = [{ from: 0, to: start.length }]
  if (isFlag) {
    if (bytes[0] !== bytes.at(-1)) return null
    right.set(end, right.length - end.length)
    marks.push({ from: bytes.length - end.length, to: bytes.length })
  }
  const facts = { start: toHex(start), found: toHex(bytes.subarray(0, start.length)) }
  return mended(suspect, 'start-other', facts, marks, right)
}

/** A frame without its flags, without its start, or without its end. */
export const edgeMissing: CauseFinder = (suspect) => {
  const { bytes, layout, direction } = suspect
  const { start, end, isFlag } = edgesOf(layout, direction)
  const all = allOf(suspect)
  const last = [{ from: bytes.length - 1, to: bytes.length }]
  const ends = joinBytes([bytes, Uint8Array.from(end)])
  if (end.length && begins(bytes, start)) {
    const found = mended(suspect, 'end-missing', { end: toHex(end) }, last, ends)
    if (found) return found
  }
  if (!start.length || begins(bytes, start)) return null
  if (isFlag) {
    const between = mended(suspect, 'flags-missing', {}, all, withStart(start, ends))
    if (between) return between
  }
  return mended(suspect, 'start-missing', { start: toHex(start) }, [{ from: 0, to: 1 }], withStart(start, bytes))
}

/** So long a stretch at most is cut in two at every place. */
const mostCut = 300

/** Two frames with nothing between them, where the framing has something there. */
export const glued: CauseFinder = (suspect) => {
  const { bytes, layout, direction, protocol } = suspect
  if (bytes.length > mostCut || bytes.length < 6) return null
  const { start, end, isFlag } = edgesOf(layout, direction)
  const isSilent = protocol.silenceUs[direction] > 0
  if (!end.length && !isSilent) return null
  for (let at = 2; at <= bytes.length - 2; at++) {
    const one = joinBytes([bytes.subarray(0, at), Uint8Array.from(end)])
    const rest = bytes.subarray(at)
    const other = isFlag || (start.length && !begins(rest, start)) ? withStart(start, rest) : rest
    const first = wholeFrame(suspect, direction, one)
    const second = first && wholeFrame(suspect, direction, other)
    if (!first || !second) continue
    const bits = checkBits(protocol.dissect(direction, one)) + checkBits(protocol.dissect(direction, other))
    const sure = sureOf(bits, bytes.length, isPlausible(suspect, first) && isPlausible(suspect, second))
    const between = isSilent ? 'a silence' : toHex(end)
    const facts = { between, first: wordsOf(suspect, first), second: wordsOf(suspect, second) }
    return causeOf('glued', sure, facts, [{ from: at - 1, to: at + 1 }])
  }
  return null
}

/** The beginning of a frame, or its end. */
export const cut: CauseFinder = (suspect) => {
  const { bytes, layout, direction, code, anatomy } = suspect
  const { start, end, isFlag } = edgesOf(layout, direction)
  const known = anatomy.pieces.filter(({ kind }) => !['unknown', 'flag', 'start', 'end'].includes(kind))
  if (code === 'unfinished' && known.length && !(start.length && !begins(bytes, start))) {
    const least = leastOf(suspect)
    if (least > bytes.length)
      return causeOf('cut', 'likely', { has: bytes.length, least }, [{ from: bytes.length - 1, to: bytes.length }])
    return causeOf('cut', 'possible', { has: bytes.length, least: bytes.length + 1 }, [
      { from: bytes.length - 1, to: bytes.length },
    ])
  }
  const isEnd = end.length > 0 && end.every((byte, k) => bytes[bytes.length - end.length + k] === byte)
  if (isEnd && bytes.length > end.length && start.length && !begins(bytes, start) && (isFlag || code === 'stray'))
    return causeOf('cut-front', 'possible', {}, [{ from: 0, to: 1 }])
  return null
}

/** The bytes that a frame with this beginning has at least: as its length says, or as mending makes it with zeros behind. */
function leastOf({ protocol, direction, bytes }: Suspect): number {
  for (let more = 1; more <= 64; more++) {
    const longer = new Uint8Array(bytes.length + more)
    longer.set(bytes)
    const right = protocol.mend(direction, longer)
    if (right) return right.length
  }
  return 0
}
