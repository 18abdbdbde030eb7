import { Menu, Popover, type MenuDropdownProps, type PopoverProps } from '@mantine/core'
import {
  cloneElement,
  createContext,
  use,
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type MouseEventHandler,
  type ReactElement,
  type ReactNode,
} from 'react'
import { takesFocus } from './focus.ts'

const InPopover = createContext(false)

/** Whether this stands in a popover: what opens from there stays inside it, or a click on it would close both. */
export const useInPopover = (): boolean => use(InPopover)

/**
 * First target of the focus trap, which comes late by a timer: the focus has been taken already, and the next
 * key may have led it on.
 */
const Taken = () => <span data-autofocus hidden />

/** Keys stop in what has opened, but those with Ctrl, which are the program's, and Tab, which is kept in there by whoever hears it. */
const stops = (e: KeyboardEvent): void => {
  if (!e.ctrlKey && !e.metaKey && e.key !== 'Tab') e.stopPropagation()
}

interface Props extends Omit<PopoverProps, 'children' | 'defaultOpened'> {
  target: ReactElement<{ onClick?: MouseEventHandler }>
  children: ReactNode
}

/**
 * Popover beside a control: the focus goes in, stays there, and comes back. Escape closes it when nothing inside has more use for
 * it: a list that is open there closes first, and what is typed there is put back first.
 */
export function Pop({ target, children, opened: given, onChange, ...props }: Props) {
  const inside = useInPopover()
  const [own, setOwn] = useState(false)
  const opened = given ?? own
  const set = (now: boolean) => (setOwn(now), onChange?.(now))
  /** Where the focus was. */
  const before = useRef<HTMLElement | null>(null)
  useLayoutEffect(() => {
    if (opened && document.activeElement instanceof HTMLElement) before.current = document.activeElement
  }, [opened])
  const onKeyDown = (e: KeyboardEvent) => {
    stops(e)
    if (e.key !== 'Escape') return
    set(false)
    before.current?.focus({ preventScroll: true })
  }
  return (
    <Popover
      trapFocus
      returnFocus
      withinPortal={!inside}
      withArrow
      closeOnEscape={false}
      {...props}
      opened={opened}
      onChange={set}
    >
      <Popover.Target>{given === undefined ? cloneElement(target, { onClick: () => set(!opened) }) : target}</Popover.Target>
      <Popover.Dropdown ref={takesFocus} onKeyDown={onKeyDown}>
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
