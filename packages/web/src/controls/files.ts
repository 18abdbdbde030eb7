import { useEffect, useEffectEvent } from 'react'

const hasFiles = (data: DataTransfer | null): boolean => data?.types.includes('Files') === true

/** A file that is dropped where nothing takes it stays where it is: a browser would leave the page for it. */
export function keepStrayFilesOut(): void {
  window.addEventListener('dragover', (e) => {
    if (e.defaultPrevented || !hasFiles(e.dataTransfer)) return
    e.preventDefault()
    e.dataTransfer!.dropEffect = 'none'
  })
  window.addEventListener('drop', (e) => hasFiles(e.dataTransfer) && e.preventDefault())
}

/** Files that are dropped or pasted anywhere in the window while this is shown; what something else has taken is not told. */
export function useFilesGiven(take: (files: File[]) => void): void {
  const taken = useEffectEvent((e: Event, data: DataTransfer | null) => {
    const files = [...(data?.files ?? [])]
    if (e.defaultPrevented || !files.length) return
    e.preventDefault()
    take(files)
  })
  useEffect(() => {
    // Before the guard above hears of it, so that the pointer shows that it may be dropped.
    const over = (e: DragEvent) => hasFiles(e.dataTransfer) && e.preventDefault()
    const drop = (e: DragEvent) => taken(e, e.dataTransfer)
    const paste = (e: ClipboardEvent) => taken(e, e.clipboardData)
    document.addEventListener('dragover', over)
    document.addEventListener('drop', drop)
    document.addEventListener('paste', paste)
    return () => {
      document.removeEventListener('dragover', over)
      document.removeEventListener('drop', drop)
      document.removeEventListener('paste', paste)
    }
  }, [])
}
