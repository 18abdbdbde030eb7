import { Button, Collapse } from '@mantine/core'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useSyncExternalStore, type ReactNode } from 'react'

interface Props {
  title: string
  /** Beside the title, in muted letters: what there is inside. */
  detail?: string | undefined
  children: ReactNode
}

/** The folds that were opened in this window: an opened one is open wherever its title stands again. */
let opened: ReadonlySet<string> = new Set()
const listeners = new Set<() => void>()
const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

/** Opens or closes every fold of that title, shown or not. */
export function setFold(title: string, open: boolean): void {
  const next = new Set(opened)
  if (open) next.add(title)
  else next.delete(title)
  opened = next
  for (const listener of listeners) listener()
}

/** Something under a heading that is closed until it is asked for, and then stays open. */
export function Disclosure({ title, detail, children }: Props) {
  const open = useSyncExternalStore(subscribe, () => opened.has(title))
  const Sign = open ? ChevronDown : ChevronRight
  return (
    <div>
      <Button
        variant="subtle"
        size="compact-xs"
        aria-expanded={open}
        leftSection={<Sign size={13} />}
        rightSection={detail && <span className="muted small">{detail}</span>}
        onClick={() => setFold(title, !open)}
      >
        {title}
      </Button>
      <Collapse expanded={open} transitionDuration={0}>
        {open && children}
      </Collapse>
    </div>
  )
}
