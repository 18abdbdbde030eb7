import { useEffect, useRef } from 'react'
import { putPainted } from '../../glass/glass.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import styles from './pages.module.css'

/** The most a picture of a kind is wide, px on the screen: as in a menu, where it has a ground of its own, or free. */
const widest = { menu: 112, free: 150 }

/** A kind of widget, untouched, as the panel draws it. */
export function KindPicture({ kind, room = 'menu' }: { kind: string; room?: 'menu' | 'free' }) {
  const session = useSession()
  const canvas = useRef<HTMLCanvasElement>(null)
  const letters = useStore(session.live, (l) => l.letters)
  useEffect(() => {
    let gone = false
    void session.worker.kindPicture(kind, widest[room]).then((painted) => {
      const target = canvas.current
      if (gone || !target || !painted) return
      target.width = painted.rect.width
      target.height = painted.rect.height
      putPainted(target, painted)
    })
    return () => void (gone = true)
  }, [session, kind, letters, room])
  return (
    <span className={room === 'menu' ? styles.kindPicture : undefined} aria-hidden>
      <canvas ref={canvas} width={widest[room]} height={40} />
    </span>
  )
}
