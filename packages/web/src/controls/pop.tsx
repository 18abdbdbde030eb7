import { Menu, Popover, type MenuDropdownProps, type PopoverProps } from '@mantine/core'
import { createContext, use, type KeyboardEvent, type ReactNode } from 'react'
import { takesFocus } from './focus.ts'

const InPopover = createContext(false)

/** Whether this stands in a popover: what opens from there stays inside it, or a click on it would close both. */
export const useInPopover = (): boolean => use(InPopover)

/**
 * What whoever keeps the focus in here finds first to give it to, by a timer, and cannot: it has been taken already, and the next
 * key may have led it on.
 */
const Taken = () => <span data-autofocus hidden />

/** Keys stop in what has opened, but those with Ctrl, which are the program's, and Tab, which is kept in there by whoever hears it. */
const stops = (e: KeyboardEvent): void => {
  if (!e.ctrlKey && !e.metaKey && e.key !== 'Tab') e.stopPropagation()
}

interface Props extends Omit<PopoverProps, 'children'> {
  target: ReactNode
  children: ReactNode
}

/** What opens beside a control: the focus goes in, stays there, and comes back. */
export function Pop({ target, children, ...props }: Props) {
  const inside = useInPopover()
  return (
    <Popover trapFocus returnFocus withinPortal={!inside} withArrow {...props}>
      <Popover.Target>{target}</Popover.Target>
      <Popover.Dropdown ref={takesFocus} onKeyDown={stops}>
        <Taken />
        <InPopover value>{children}</InPopover>
      </Popover.Dropdown>
    </Popover>
  )
}

/** The items of a menu that has opened, of which the first has the focus. */
export function Items({ children, onKeyDown, ...props }: MenuDropdownProps) {
  return (
    <Menu.Dropdown ref={takesFocus} onKeyDown={(e) => (onKeyDown?.(e), stops(e))} {...props}>
      <Taken />
      {children}
    </Menu.Dropdown>
  )
}
