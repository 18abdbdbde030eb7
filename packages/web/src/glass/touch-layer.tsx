import { useRef } from 'react'
import { useSession } from '../shell/context.tsx'

/** Fingers on the live glass: one pointer at a time, captured until it is lifted. */
export function TouchLayer({ scale }: { scale: number }) {
  const session = useSession()
  const down = useRef<number | null>(null)
  const send = (phase: 'down' | 'move' | 'up', e: React.PointerEvent) => {
    const box = e.currentTarget.getBoundingClientRect()
    session.touch(phase, Math.floor((e.clientX - box.left) / scale), Math.floor((e.clientY - box.top) / scale))
  }
  const lift = (e: React.PointerEvent) => {
    if (down.current !== e.pointerId) return
    down.current = null
    send('up', e)
  }
  return (
    <div
      style={{ position: 'absolute', inset: 0, cursor: 'pointer', touchAction: 'none' }}
      data-glass="touch"
      onPointerDown={(e) => {
        if (down.current !== null || e.button !== 0) return
        down.current = e.pointerId
        e.currentTarget.setPointerCapture(e.pointerId)
        send('down', e)
      }}
      onPointerMove={(e) => down.current === e.pointerId && send('move', e)}
      onPointerUp={lift}
      onPointerCancel={lift}
    />
  )
}
