import type { Order } from '../base/index.ts'
import type { Direction, Layout, Way } from '../frames/index.ts'
import { inferBytes } from './bytes/infer.ts'
import type { Sample } from './example.ts'
import type { Explains, Slot, Taken } from './guess.ts'
import { areLines, inferLines } from './lines/infer.ts'

/** Guesses at one way of a layout. */
export interface WayGuesses {
  key: 'both' | Direction
  kind: Way['kind']
  slots: readonly Slot[]
  notes: readonly string[]
  open: readonly Explains[]
  way: Way | null
  /** The order of bytes, and of words, that its values show; null: none shows it. */
  order: Order | null
}

/** All that frames with their meanings say of a layout. */
export interface Guesses {
  ways: readonly WayGuesses[]
  /** The layout of all first or taken guesses; null where a way lacks. */
  layout: Omit<Layout, 'name'> | null
  /** Whether every slot is taken. */
  isTaken: boolean
}

/**
 * Guesses at the layout of frames whose meanings are known. Both directions are taken for one way where their frames are of one kind
 * and one reading fits both; else each has its own. `taken`: the key of a guess by the key of its way and slot, `both/address`.
 */
export function guessesOf(samples: readonly Sample[], taken: Taken = {}): Guesses {
  const numbered = samples.map((sample, index) => ({ ...sample, index }))
  const of = (direction: Direction) => numbered.filter(({ meaning }) => meaning.direction === direction)
  const [toPanel, toHost] = [of('to panel'), of('to host')]
  const oneWay = (key: WayGuesses['key'], from: typeof numbered, directions: readonly Direction[]): WayGuesses => {
    const own = Object.fromEntries(
      Object.entries(taken).flatMap(([at, guess]) => (at.startsWith(`${key}/`) ? [[at.slice(key.length + 1), guess]] : [])),
    )
    if (areLines(from)) return { key, kind: 'lines', ...inferLines({ samples: from, directions }, own), order: null }
    const { words, ...inferred } = inferBytes({ samples: from, directions }, own)
    return { key, kind: 'binary', ...inferred, order: words }
  }
  if (!samples.length) return { ways: [], layout: null, isTaken: false }
  const both = () => oneWay('both', numbered, ['to panel', 'to host'])
  const apart = () => [oneWay('to panel', toPanel, ['to panel']), oneWay('to host', toHost, ['to host'])]
  const isOneWay = !toPanel.length || !toHost.length || (areLines(toPanel) === areLines(toHost) && fits(both()))
  const ways = isOneWay ? [both()] : apart()
  const [first, second] = ways
  const isTaken = ways.every(({ key, slots }) =>
    slots.every((slot) => slot.guesses.some((guess) => guess.key === taken[`${key}/${slot.key}`])),
  )
  const layout = first?.way && (!second || second.way) ? { toPanel: first.way, toHost: second?.way ?? ('same' as const) } : null
  return { ways, layout, isTaken }
}

const fits = ({ way }: WayGuesses): boolean => way !== null
