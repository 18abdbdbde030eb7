import { getHotkeyHandler } from '@mantine/hooks'
import { useEffect } from 'react'
import { isTyping } from './typing.ts'

/** Keys that do something wherever the focus is, but where someone types: `a`, `mod+K`, `/`. */
export function useKeys(keys: [string, () => void][]): void {
  // Attached anew with every rendering: what is done is always that of the newest.
  useEffect(() => {
    const handle = getHotkeyHandler(keys)
    const onKey = (e: KeyboardEvent) => !isTyping(e.target) && handle(e)
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  })
}
