import { Popover, type PopoverProps } from '@mantine/core'
import { createContext, use, type ReactNode } from 'react'
import { takesFocus } from './focus.ts'

const InPopover = createContext(false)

/** Whether this stands in a popover: what opens from there stays inside it, or a click on it would close both. */
export const useInPopover = (): boolean => use(InPopover)

interface Props extends Omit<PopoverProps, 'children'> {
  target: ReactNode
  children: ReactNode
}

/** What opens beside a control: the focus goes in and comes back; keys stop there, but those with Ctrl. */
export function Pop({ target, children, ...props }: Props) {
  const inside = useInPopover()
  return (
    <Popover trapFocus returnFocus withinPortal={!inside} withArrow {...props}>
      <Popover.Target>{target}</Popover.Target>
      <Popover.Dropdown ref={takesFocus} onKeyDown={(e) => !e.ctrlKey && !e.metaKey && e.stopPropagation()}>
        <InPopover value>{children}</InPopover>
      </Popover.Dropdown>
    </Popover>
  )
}
