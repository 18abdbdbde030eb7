import { ActionIcon, Button } from '@mantine/core'
import { PictureInPicture2 } from 'lucide-react'
import { useCallback, useEffect, useState } from 'react'
import { Glass } from '../../glass/glass.tsx'
import { openWindow, PoppedOut } from '../../glass/popped-out.tsx'
import { TouchLayer } from '../../glass/touch-layer.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { ClockCard } from './clock-card.tsx'
import { ConversationCard } from './conversation.tsx'
import { HostCard } from './host-card.tsx'
import { SendCard } from './send-card.tsx'
import { SimulatedHostCard } from './simulated-host.tsx'
import { seconds } from './words.ts'
import { useFolding } from '../../parts/folding.ts'
import station from '../../parts/station.module.css'
import styles from './bench.module.css'

/** Width of the cards beside a glass that stands upright, px. */
const cardsBeside = 290

/** The room inside an element, as it changes. */
function useRoom(element: HTMLElement | null): { width: number; height: number } {
  const [room, setRoom] = useState({ width: 850, height: 720 })
  useEffect(() => {
    if (!element) return
    const watch = new ResizeObserver(() => setRoom({ width: element.clientWidth, height: element.clientHeight }))
    watch.observe(element)
    return () => watch.disconnect()
  }, [element])
  return room
}

/** The panel live with its host: glass, values, sending, and either the conversation or the simulated host beside them. */
export function BenchStation() {
  const session = useSession()
  const folding = useFolding()
  const project = useProject()
  const [scripting, setScripting] = useState(false)
  const [left, setLeft] = useState<HTMLDivElement | null>(null)
  const room = useRoom(left)
  const running = useStore(session.live, (l) => l.running)
  const heldAt = useStore(session.live, (l) => (l.running ? '' : seconds(l.nowUs)))
  const [popped, setPopped] = useState<Window | null>(null)
  const bringBack = useCallback(() => setPopped(null), [])
  const { width, height } = project.panel
  // The glass takes the width there is and leaves some height for what is below; small glasses are doubled. A glass that is
  // higher than it is wide takes the height, and the cards stand beside it.
  const upright = height > width && room.width >= 640
  const fit = upright
    ? Math.min((room.width - cardsBeside - 43) / width, Math.max(200, room.height - 48) / height)
    : Math.min((room.width - 43) / width, Math.max(200, room.height - 226) / height)
  const scale = fit >= 2 ? Math.min(3, Math.floor(fit)) : fit >= 1 ? 1 : Math.max(0.2, fit)
  const notes = [scale < 1 ? `scaled ${Math.round(scale * 100)} %` : '', running ? '' : `paused at ${heldAt}`].filter(Boolean)
  return (
    <div className={`${folding} ${styles.bench}`} data-sided>
      <div className={`${styles.left} ${upright ? styles.upright : ''}`} ref={setLeft}>
        <div className={styles.benchGlass}>
          {popped ? (
            <>
              <p className={station.empty}>
                The glass is in a separate window.
                <Button onClick={bringBack}>Return</Button>
              </p>
              <PoppedOut into={popped} onClose={bringBack}>
                <LiveGlass scale={1} running={running} notes={running ? [] : [`paused at ${heldAt}`]} />
              </PoppedOut>
            </>
          ) : (
            <>
              <LiveGlass scale={scale} running={running} notes={notes} />
              <ActionIcon
                className={styles.popper}
                size={18}
                aria-label="Glass in a separate window"
                title="Glass in a separate window"
                onClick={() => setPopped(openWindow(`${project.name} · glass`, width + 44, height + 44))}
              >
                <PictureInPicture2 size={12} />
              </ActionIcon>
            </>
          )}
        </div>
        <div className={styles.under}>
          <HostCard project={project} onScript={() => setScripting(!scripting)} />
          <SendCard project={project} />
          <ClockCard />
        </div>
      </div>
      <div className={styles.side} data-side>
        {scripting ? (
          <SimulatedHostCard project={project} onClose={() => setScripting(false)} />
        ) : (
          <ConversationCard project={project} />
        )}
      </div>
    </div>
  )
}

/** The panel itself, under fingers. */
function LiveGlass({ scale, running, notes }: { scale: number; running: boolean; notes: readonly string[] }) {
  return (
    <Glass page={null} scale={scale} live held={!running} label="Glass of the running panel" note={notes.join(' · ')}>
      <TouchLayer scale={scale} />
    </Glass>
  )
}
