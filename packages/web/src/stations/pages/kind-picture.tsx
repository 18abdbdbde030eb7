import { useEffect, useRef } from 'react'
import { putPainted } from '../../glass/glass.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import styles from './pages.module.css'

/** Room for the picture of a kind, px on the screen. */
const widest = 112

/** A kind of widget, untouched, as the panel draws it. */
export function KindPicture({ kind }: { kind: string }) {
  const session = useSession()
  const canvas = useRef<HTMLCanvasElement>(null)
  const letters = useStore(session.live, (l) => l.letters)
  useEffect(() => {
    let gone = false
    void session.worker.kindPicture(kind, widest).then((painted) => {
      const target = canvas.current
      if (gone || !target || !painted) return
      target.width = painted.rect.width
      target.height = painted.rect.height
      putPainted(target, painted)
    })
    return () => void (gone = true)
  }, [session, kind, letters])
  return (
    <span className={styles.kindPicture} aria-hidden>
      <canvas ref={canvas} width={widest} height={40} />
    </span>
  )
}
