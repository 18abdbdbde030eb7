import { useEffect } from 'react'
import type { Page } from '@moth-lamp/core/project'
import { goHome } from '../../controls/focus.ts'
import { isTyping } from '../../controls/typing.ts'
import { shownValues } from '../../session/state.ts'
import type { Session } from '../../session/session.ts'
import { useSession } from '../../session/context.tsx'
import { addOffered } from '../../commands/add-commands.ts'
import { copiedText, pasteText } from './clipboard.ts'
import { deleteWidgets, duplicateWidgets, layerWidgets, nudgeWidgets, sizeWidgets, walkWidgets } from './page-commands.ts'

/** Keys and clipboard of the desk, while it is in Edit. */
export function useDeskKeys(page: Page, touching: boolean) {
  const session = useSession()
  useEffect(() => {
    if (touching) return
    const onKey = (e: KeyboardEvent) => {
      if (e.defaultPrevented || isTyping(e.target)) return
      const onDesk = !(e.target instanceof Element) || e.target.matches('body, main') || e.target.closest('[data-desk]') !== null
      if (deskKey(session, page, e, onDesk)) e.preventDefault()
    }
    const onClip = (e: ClipboardEvent) => {
      if (isTyping(e.target)) return
      if (e.type === 'paste') {
        if (pasteText(session, page, e.clipboardData?.getData('text/plain') ?? '')) e.preventDefault()
        return
      }
      const text = copiedText(session.project, page, session.view.value.widgets)
      if (!text) return
      e.clipboardData?.setData('text/plain', text)
      e.preventDefault()
      if (e.type === 'cut') deleteWidgets(session)
    }
    window.addEventListener('keydown', onKey)
    for (const type of ['copy', 'cut', 'paste'] as const) window.addEventListener(type, onClip)
    return () => {
      window.removeEventListener('keydown', onKey)
      for (const type of ['copy', 'cut', 'paste'] as const) window.removeEventListener(type, onClip)
    }
  }, [session, page, touching])
}

const ways: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/** Action of a key on the desk; false where it has none. */
function deskKey(session: Session, page: Page, e: KeyboardEvent, onDesk: boolean): boolean {
  const control = e.ctrlKey || e.metaKey
  const way = ways[e.key]
  const { widgets: picked, adding, addingFor, shown, areas, column } = session.view.value
  if (way && onDesk && picked.length) {
    const step = e.shiftKey ? 10 : 1
    ;(control ? sizeWidgets : nudgeWidgets)(session, way[0] * step, way[1] * step)
    return true
  }
  if (control && e.key.toLowerCase() === 'd') return (duplicateWidgets(session, page), true)
  if (control && e.key.toLowerCase() === 'a') return (session.view.set({ widgets: [...page.widgets] }), true)
  if (control || e.altKey) return false
  switch (e.key) {
    case 'Delete':
    case 'Backspace':
      return (deleteWidgets(session), true)
    case 'Escape':
      // From the column back to the glass, with what is selected; from there it is selected no more.
      if (e.target instanceof HTMLElement && e.target.closest('[data-column]')) return (goHome(e.target), true)
      return (
        session.view.set(
          adding || column === 'add' ? { adding: null, addingFor: '', addAt: null, column: 'path' } : { widgets: [] },
        ),
        true
      )
    case '[':
    case ']':
      return (walkWidgets(session, page, e.key === ']' ? 1 : -1), true)
    case '<':
    case '>': {
      const next = shownValues.indexOf(shown) + (e.key === '>' ? 1 : -1)
      return (session.view.set({ shown: shownValues[(next + shownValues.length) % shownValues.length]! }), true)
    }
    case 's':
    case 'S':
      return (session.view.set({ areas: !areas }), true)
    case 'PageUp':
    case 'PageDown':
      return onDesk && (layerWidgets(session, page, e.key === 'PageUp' ? 1 : -1), true)
    case 'Enter': {
      if (adding && onDesk) return (addOffered(session, page, adding, null, addingFor), true)
      // A control that has the focus is pressed by it.
      if (e.target instanceof Element && e.target.closest('button, a, input, [role="option"], [role="slider"]')) return false
      document.querySelector<HTMLElement>('[data-column] input, [data-column] button')?.focus()
      return picked.length > 0
    }
  }
  return false
}
