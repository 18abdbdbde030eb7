import { Button, Stack } from '@mantine/core'
import { useState } from 'react'
import { Pop } from '../controls/pop.tsx'
import styles from './delete-used.module.css'

interface Props {
  /** Name of the deleted record. */
  name: string
  /** Its users in words, each once. */
  users: readonly string[]
  /** Consequence for its users: a sentence. */
  then: string
  onDelete(): void
}

/** Deletes at once what nobody uses; of what is used it lists who does first, and says what becomes of them. */
export function DeleteUsed({ name, users, then, onDelete }: Props) {
  const [open, setOpen] = useState(false)
  if (!users.length)
    return (
      <Button onClick={onDelete} title="unused">
        Delete
      </Button>
    )
  return (
    <Pop
      opened={open}
      onChange={setOpen}
      position="bottom-end"
      width={300}
      target={
        <Button onClick={() => setOpen(!open)} aria-expanded={open}>
          Delete …
        </Button>
      }
    >
      {open && (
        <Stack gap={8}>
          <strong>
            “{name}” is used in {users.length} {users.length === 1 ? 'place' : 'places'}
          </strong>
          <ul className={styles.users}>
            {users.map((user, k) => (
              <li key={k}>{user}</li>
            ))}
          </ul>
          <p className="small muted">{then} Undo brings all of it back.</p>
          <Button variant="filled" data-first onClick={onDelete}>
            Delete
          </Button>
        </Stack>
      )}
    </Pop>
  )
}
