import { useEffect, useState } from 'react'
import { useStore } from '../session/store.ts'
import { useSession } from './context.tsx'

/** One line that says what just happened; it goes by itself, or when it is closed. */
export function Notice() {
  const session = useSession()
  const notice = useStore(session.document, (d) => d.notice)
  const [closed, setClosed] = useState(0)
  useEffect(() => {
    if (!notice) return
    const timer = window.setTimeout(() => setClosed(notice.n), notice.tone === 'bad' ? 12_000 : 5_000)
    return () => clearTimeout(timer)
  }, [notice])
  if (!notice || notice.n <= closed) return null
  return (
    <div className={`notice ${notice.tone}`} role={notice.tone === 'bad' ? 'alert' : 'status'}>
      {notice.text}
      <button className="button plain tiny" aria-label="Close" onClick={() => setClosed(notice.n)}>
        ✕
      </button>
    </div>
  )
}
