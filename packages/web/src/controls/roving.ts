import { useEffect, useRef, type KeyboardEvent, type RefObject } from 'react'

/**
 * One stop of Tab for a column of buttons: the one that is current, or the first. Up, Down, Home and End go from one to the next.
 * The buttons are those in the element of `ref`, in the order in which they stand.
 */
export function useRoving<E extends HTMLElement>(): { ref: RefObject<E | null>; onKeyDown(e: KeyboardEvent): void } {
  const ref = useRef<E>(null)
  const buttons = () => [...(ref.current?.querySelectorAll<HTMLElement>('button') ?? [])]
  // With every rendering: a button may have come, or another be current.
  useEffect(() => {
    const all = buttons()
    const stop = all.find((b) => b.hasAttribute('aria-current')) ?? all[0]
    for (const button of all) button.tabIndex = button === stop ? 0 : -1
  })
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.altKey || e.ctrlKey || e.metaKey || e.defaultPrevented) return
    const all = buttons()
    const at = all.indexOf(e.target as HTMLElement)
    const to = { ArrowUp: at - 1, ArrowDown: at + 1, Home: 0, End: all.length - 1 }[e.key]
    if (at < 0 || to === undefined) return
    e.preventDefault()
    e.stopPropagation()
    all[Math.max(0, Math.min(to, all.length - 1))]!.focus()
  }
  return { ref, onKeyDown }
}
