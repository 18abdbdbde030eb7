import { useEffect, type ReactNode } from 'react'
import { createPortal } from 'react-dom'
import styles from './glass.module.css'

/** A window of its own, dressed as this one is; null where the browser lets none open. Sizes in px. */
export function openWindow(title: string, width: number, height: number): Window | null {
  const opened = window.open('', '', `popup,width=${width},height=${height}`)
  if (!opened) return null
  const { document: there } = opened
  there.title = title
  there.documentElement.lang = document.documentElement.lang
  for (const style of document.querySelectorAll('link[rel="stylesheet"], style')) there.head.append(there.importNode(style, true))
  there.body.className = styles.popped!
  return opened
}

/** Its children in that window, which closes when this goes. Keys that are pressed there are those of this window. */
export function PoppedOut({ into, onClose, children }: { into: Window; onClose(): void; children: ReactNode }) {
  useEffect(() => {
    const key = (e: KeyboardEvent) => void (e.defaultPrevented || window.dispatchEvent(new KeyboardEvent(e.type, e)))
    const leave = () => into.close()
    into.addEventListener('keydown', key)
    into.addEventListener('keyup', key)
    into.addEventListener('pagehide', onClose)
    window.addEventListener('pagehide', leave)
    return () => {
      into.removeEventListener('pagehide', onClose)
      window.removeEventListener('pagehide', leave)
      into.close()
    }
  }, [into, onClose])
  return createPortal(children, into.document.body)
}
