import { Button, Collapse } from '@mantine/core'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useState, type ReactNode } from 'react'

interface Props {
  title: string
  /** Open from the beginning, to be closed. */
  startsOpen?: boolean
  children: ReactNode
}

/** Something under a heading that is closed until it is asked for. */
export function Disclosure({ title, startsOpen = false, children }: Props) {
  const [open, setOpen] = useState(startsOpen)
  const Sign = open ? ChevronDown : ChevronRight
  return (
    <div>
      <Button
        variant="subtle"
        size="compact-xs"
        aria-expanded={open}
        leftSection={<Sign size={13} />}
        onClick={() => setOpen(!open)}
      >
        {title}
      </Button>
      <Collapse expanded={open} transitionDuration={0}>
        {open && children}
      </Collapse>
    </div>
  )
}
