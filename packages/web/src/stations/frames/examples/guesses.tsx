import { Button } from '@mantine/core'
import { useState } from 'react'
import type { Order } from '@moth-lamp/core/base'
import type { Explains, Guess, Guesses, Slot, WayGuesses } from '@moth-lamp/core/examples'
import type { Project } from '@moth-lamp/core/project'
import styles from './examples.module.css'

/** The guesses that are taken, by way and slot. */
export type TakenGuesses = Record<string, string>

/** Everything that fits one way only, at once. */
export function TakeSure({
  guesses,
  taken,
  onTake,
}: {
  guesses: Guesses
  taken: TakenGuesses
  onTake(taken: TakenGuesses): void
}) {
  const sure = guesses.ways.flatMap(({ key, slots }) =>
    slots.flatMap((slot) =>
      slot.guesses.length === 1 && !taken[`${key}/${slot.key}`] ? [[`${key}/${slot.key}`, slot.guesses[0]!.key] as const] : [],
    ),
  )
  return (
    <Button disabled={!sure.length} onClick={() => onTake({ ...taken, ...Object.fromEntries(sure) })}>
      Take {sure.length} without a rival
    </Button>
  )
}

interface WayProps {
  project: Project
  way: WayGuesses
  taken: Record<string, string>
  onTake(slot: string, guess: string): void
  onHover(guess: Guess | null): void
}

const wayWords = { both: 'Both directions', 'to panel': 'host → panel', 'to host': 'panel → host' }

export function Way({ project, way, taken, onTake, onHover }: WayProps) {
  const { key, kind, slots, notes, open, order } = way
  return (
    <section aria-label={wayWords[key]}>
      <h3 className={styles.way}>
        {wayWords[key]} <span className="muted small">{kind === 'lines' ? 'lines of text' : 'bytes'}</span>
      </h3>
      {slots.map((slot) => (
        <SlotRow key={slot.key} slot={slot} taken={taken[`${key}/${slot.key}`]} onTake={onTake} onHover={onHover} />
      ))}
      <ul className={styles.notes}>
        {open.length > 0 && <li className="bad">{openWords(open)}</li>}
        {order && order !== project.panel.order && (
          <li>
            The values are {orderWords(order)}, the panel’s memory is not: texts and 32-bit values would be turned. The layout is
            made together with the order of memory.
          </li>
        )}
        {notes.map((note) => (
          <li key={note}>{note}</li>
        ))}
      </ul>
    </section>
  )
}

/** `Not explained: bytes 5–6 of frame 2.` */
const openWords = (open: readonly Explains[]): string =>
  `Not explained: ${open
    .slice(0, 4)
    .map(({ example, from, to }) => `${to - from === 1 ? `byte ${from + 1}` : `bytes ${from + 1}–${to}`} of frame ${example + 1}`)
    .join(', ')}${open.length > 4 ? ' …' : ''}.`

export const orderWords = (order: Order): string => (order === 'low' ? 'little-endian' : 'big-endian')

interface SlotProps extends Pick<WayProps, 'onTake' | 'onHover'> {
  slot: Slot
  taken: string | undefined
}

function SlotRow({ slot, taken, onTake, onHover }: SlotProps) {
  const [all, setAll] = useState(false)
  const shown = slot.guesses.filter(({ key }, k) => all || k < 2 || key === taken)
  const more = slot.guesses.length - shown.length
  return (
    <div className={styles.slot} role="group" aria-label={slot.label}>
      <span className={styles.label}>{slot.label}</span>
      <div className={styles.chips}>
        {shown.map((guess) => (
          <Button
            key={guess.key}
            size="compact-xs"
            variant={guess.key === taken ? 'filled' : 'default'}
            aria-pressed={guess.key === taken}
            classNames={{ root: styles.chip!, label: styles.chipWords! }}
            onClick={() => onTake(slot.key, guess.key)}
            onMouseEnter={() => onHover(guess)}
            onMouseLeave={() => onHover(null)}
            onFocus={() => onHover(guess)}
            onBlur={() => onHover(null)}
          >
            {guess.key === taken && '✓ '}
            {guess.says} <small className={styles.fits}>{`${guess.fits} of ${guess.of}`}</small>
          </Button>
        ))}
        {more > 0 && (
          <Button size="compact-xs" variant="subtle" onClick={() => setAll(true)}>
            {more} more
          </Button>
        )}
      </div>
    </div>
  )
}
