import { Button, Collapse } from '@mantine/core'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useState, type ReactNode } from 'react'

interface Props {
  title: string
  /** Beside the title, in muted letters: what there is inside. */
  detail?: string
  children: ReactNode
}

/** The folds that were opened in this window: an opened one is open wherever its title stands again. */
const opened = new Set<string>()

/** Opens a fold before it is shown, for a search that leads into it. */
export const openFold = (title: string): void => void opened.add(title)

/** Something under a heading that is closed until it is asked for, and then stays open. */
export function Disclosure({ title, detail, children }: Props) {
  const [open, setOpen] = useState(opened.has(title))
  const Sign = open ? ChevronDown : ChevronRight
  const set = (now: boolean) => {
    if (now) opened.add(title)
    else opened.delete(title)
    setOpen(now)
  }
  return (
    <div>
      <Button
        variant="subtle"
        size="compact-xs"
        aria-expanded={open}
        leftSection={<Sign size={13} />}
        rightSection={detail && <span className="muted small">{detail}</span>}
        onClick={() => set(!open)}
      >
        {title}
      </Button>
      <Collapse expanded={open} transitionDuration={0}>
        {open && children}
      </Collapse>
    </div>
  )
}
