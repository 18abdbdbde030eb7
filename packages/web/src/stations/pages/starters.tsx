import { Kbd, UnstyledButton } from '@mantine/core'
import { useKeys } from '../../controls/keys.ts'
import type { DragEvent } from 'react'
import { addCommand, addOffered } from '../../commands/add-commands.ts'
import { dropOnGlass } from '../../commands/drop-pictures.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import type { Page } from '@moth-lamp/core/project'
import { KindPicture } from './kind-picture.tsx'
import styles from './starters.module.css'

/** One way to begin on an empty page: its key, the kind that its picture shows, and its text. */
interface Starter {
  key: string
  picture: string
  text: string
}

const starters: readonly Starter[] = [
  { key: 'n', picture: 'number', text: 'a value from the host' },
  { key: 'v', picture: 'step value', text: 'a setpoint with − and +' },
  { key: 'b', picture: 'button', text: 'a command to the host' },
  { key: 'f', picture: 'lamps', text: 'lamps from a flags word' },
  { key: 'g', picture: 'gauge', text: 'a gauge' },
]

/** A glass that is narrower on the screen has no room for pictures, px. */
const leastWidth = 430

/** The empty page: what a panel begins with most often, each with its variable, its address and its frames. */
export function Starters({ page, width }: { page: Page; width: number }) {
  const session = useSession()
  const adding = useStore(session.view, (v) => v.adding)
  const add = ({ key, picture }: Starter) => {
    if (key === 'b') addCommand(session, page)
    else addOffered(session, page, picture)
  }
  // A picture may be dropped where a card stands: it goes to the glass below.
  const drop = (e: DragEvent<HTMLElement>) => {
    const files = [...e.dataTransfer.files]
    if (!files.length) return
    e.preventDefault()
    const { left, top } = e.currentTarget.parentElement!.getBoundingClientRect()
    const scale = width / session.project.panel.width
    void dropOnGlass(session, files, page, { x: (e.clientX - left) / scale, y: (e.clientY - top) / scale })
  }
  useKeys(adding ? [] : starters.map((starter) => [starter.key, () => add(starter)]))
  if (adding) return null
  return (
    <div
      className={styles.starters}
      onDragOver={(e) => e.dataTransfer.types.includes('Files') && e.preventDefault()}
      onDrop={drop}
    >
      <p>
        <strong>Press A to add a widget, or drag a rectangle</strong>
        {width >= leastWidth && <span>Each of these comes with its variable, address and frames.</span>}
      </p>
      {width >= leastWidth && (
        <div className={styles.cards} role="group" aria-label="Start with">
          {starters.map((starter) => (
            <UnstyledButton key={starter.key} className={styles.card} onClick={() => add(starter)}>
              <KindPicture kind={starter.picture} room="free" />
              <span>{starter.text}</span>
              <Kbd size="xs">{starter.key.toUpperCase()}</Kbd>
            </UnstyledButton>
          ))}
          <UnstyledButton className={`${styles.card} ${styles.all}`} data-start="all" onClick={() => askAll()}>
            <strong>All widgets …</strong>
            <span>every widget and group</span>
            <Kbd size="xs">A</Kbd>
          </UnstyledButton>
        </div>
      )}
    </div>
  )
}

/** Opens the list of all kinds, as its key does. */
const askAll = (): void => document.querySelector<HTMLElement>('[data-add]')?.click()
