import { Button, Kbd } from '@mantine/core'
import type { KeyboardEvent, ReactNode } from 'react'
import { takesFocus } from '../controls/focus.ts'

interface Props {
  title: string
  onClose(): void
  children: ReactNode
}

/**
 * A form that takes the place of the column, so that the glass beside it stays in sight. It has the focus when it comes. Keys stop in
 * it, but those with Ctrl, which are the program's; Escape closes it.
 */
export function ColumnForm({ title, onClose, children }: Props) {
  const onKeyDown = (e: KeyboardEvent) => {
    if (!e.ctrlKey && !e.metaKey && e.key !== 'Tab') e.stopPropagation()
    if (e.key !== 'Escape') return
    e.preventDefault()
    onClose()
  }
  return (
    <section ref={takesFocus} className="stack" aria-label={title} tabIndex={-1} data-form onKeyDown={onKeyDown}>
      <div className="row">
        <h2 className="grow">{title}</h2>
        <Button size="compact-xs" variant="subtle" onClick={onClose}>
          Close <Kbd size="xs">Esc</Kbd>
        </Button>
      </div>
      {children}
    </section>
  )
}
