import { ColorSwatch, Table, TextInput } from '@mantine/core'
import { useRef } from 'react'
import { useTaken } from '../../../controls/fields.tsx'
import styles from './sheet.module.css'

interface Props {
  /** Text of the cell; null where the widget lacks the setting. */
  text: string | null
  label: string
  isColour: boolean
  /** It is the one that keys go to, or among those that are filled from it. */
  here: boolean
  within: boolean
  /** Draft of the cell. */
  typing: string | null
  onPick(extend: boolean): void
  onType(): void
  /** The draft, or null where it was given up; and the number of rows to move on. */
  onDone(text: string | null, move: number): void
}

/** A cell of the table: read as text, typed into where it is picked. */
export function SheetCell({ text, label, isColour, here, within, typing, onPick, onType, onDone }: Props) {
  return (
    <Table.Td
      role="gridcell"
      aria-label={`${label}: ${text ?? 'none'}`}
      aria-selected={within}
      className={`${styles.cell} ${within ? styles.within : ''} ${here ? styles.here : ''} ${text === null ? styles.none : ''}`}
      onMouseDown={(e) => typing === null && (e.preventDefault(), onPick(e.shiftKey))}
      onDoubleClick={() => text !== null && onType()}
    >
      {typing === null ? (
        <span className={styles.text}>
          {isColour && <ColorSwatch color={text!} size={12} radius={3} component="span" />}
          {text ?? '·'}
        </span>
      ) : (
        <CellField label={label} typing={typing} onDone={onDone} />
      )}
    </Table.Td>
  )
}

/** The field in which a cell is typed. */
function CellField({ label, typing, onDone }: { label: string; typing: string; onDone: Props['onDone'] }) {
  const field = useRef<HTMLInputElement>(null)
  const { take, giveUp } = useTaken(field, ({ value }) => onDone(value, 0))
  return (
    <TextInput
      ref={field}
      autoFocus
      size="xs"
      aria-label={label}
      defaultValue={typing}
      classNames={{ input: styles.input! }}
      onBlur={take}
      onKeyDown={(e) => {
        e.stopPropagation()
        if (e.key !== 'Enter' && e.key !== 'Escape') return
        giveUp()
        if (e.key === 'Enter') onDone(e.currentTarget.value, e.shiftKey ? -1 : 1)
        else onDone(null, 0)
      }}
    />
  )
}
