import { focusable, tabbable } from 'tabbable'

/**
 * Gives the focus back to where the work is: the row that a field stands in, else the glass or the list of the station.
 * Inside a dialog, a popover or a form of the column it stays where it is.
 */
export function goHome(from: HTMLElement): void {
  if (from.closest('[role="dialog"], [data-form]')) return
  const home = from.closest<HTMLElement>('[data-home]') ?? document.querySelector<HTMLElement>('[data-station-home]')
  if (home) home.focus({ preventScroll: true })
  else from.blur()
}

/**
 * Gives the focus to an element that has just opened: to its `data-first`, else to its first stop of Tab, else to itself. What
 * is typed before it does would be taken as keys of the desk. Once what opened has noted where the focus was, which it gives back.
 */
export const takesFocus = (opened: HTMLElement | null): void => {
  // A part that closes by Escape may be gone before the key has gone through the page: it is marked as used.
  opened?.addEventListener('keydown', (e) => e.key === 'Escape' && e.preventDefault(), { capture: true })
  queueMicrotask(() => {
    const first = opened && (opened.querySelector<HTMLElement>('[data-first]') ?? tabbable(opened)[0] ?? focusable(opened)[0])
    ;(first ?? opened)?.focus({ preventScroll: true })
  })
}

/** Gives the focus to the control of that name in an element, where it is there. */
export const focusIn = (within: ParentNode | null, label: string): void =>
  [...(within?.querySelectorAll<HTMLElement>('[aria-label]') ?? [])]
    .find((e) => e.getAttribute('aria-label') === label)
    ?.focus({ preventScroll: false })
