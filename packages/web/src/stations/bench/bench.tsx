import { useEffect, useState } from 'react'
import { Glass } from '../../glass/glass.tsx'
import { TouchLayer } from '../../glass/touch-layer.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../shell/context.tsx'
import { ClockCard } from './clock-card.tsx'
import { ConversationCard } from './conversation.tsx'
import { HostCard } from './host-card.tsx'
import { SendCard } from './send-card.tsx'
import { StandInCard } from './stand-in.tsx'
import { seconds } from './words.ts'

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

/** The panel live with its host: glass, values, sending, and either the conversation or the stand-in beside them. */
export function BenchStation() {
  const session = useSession()
  const project = useProject()
  const [scripting, setScripting] = useState(false)
  const [left, setLeft] = useState<HTMLDivElement | null>(null)
  const room = useRoom(left)
  const running = useStore(session.live, (l) => l.running)
  const heldAt = useStore(session.live, (l) => (l.running ? '' : seconds(l.nowUs)))
  const { width, height } = project.panel
  // The glass takes the width there is and leaves some height for what is below; small glasses are doubled.
  const fit = Math.min((room.width - 43) / width, Math.max(200, room.height - 226) / height)
  const scale = fit >= 2 ? Math.min(3, Math.floor(fit)) : fit >= 1 ? 1 : Math.max(0.2, fit)
  const notes = [scale < 1 ? `preview ${Math.round(scale * 100)} %` : '', running ? '' : `held at ${heldAt}`].filter(Boolean)
  return (
    <div className="bench">
      <div className="left" ref={setLeft}>
        <div className="bench-glass">
          <Glass page={null} scale={scale} live held={!running} label="Glass of the live panel" note={notes.join(' · ')}>
            <TouchLayer scale={scale} />
          </Glass>
        </div>
        <div className="under">
          <HostCard project={project} onScript={() => setScripting(!scripting)} />
          <SendCard project={project} />
          <ClockCard />
        </div>
      </div>
      {scripting ? <StandInCard project={project} onClose={() => setScripting(false)} /> : <ConversationCard project={project} />}
    </div>
  )
}
