import { Textarea } from '@mantine/core'
import { useRef, useState } from 'react'
import type { Widget } from '@moth-lamp/core/project'
import { goHome } from '../controls/home.ts'
import { useSession } from '../shell/context.tsx'
import styles from './glass.module.css'

interface Props {
  widget: Widget
  box: React.CSSProperties
  onDone(): void
}

/** The words of a widget edited where they stand: Enter takes, Escape puts back. */
export function WordsOnGlass({ widget, box, onDone }: Props) {
  const session = useSession()
  const [text, setText] = useState(String(widget.settings['text']))
  /** Taken or given up by a key: losing the focus then says nothing more. */
  const done = useRef(false)
  const take = () => {
    if (done.current) return
    done.current = true
    if (text !== widget.settings['text']) session.edit('set widgets', { ids: [widget.id], values: { text } })
    onDone()
  }
  return (
    <Textarea
      autoFocus
      aria-label={`Words of ${widget.name}`}
      className={styles.wording}
      style={box}
      value={text}
      rows={1}
      onChange={(e) => setText(e.currentTarget.value)}
      onPointerDown={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
      onFocus={(e) => e.currentTarget.select()}
      onBlur={take}
      onKeyDown={(e) => {
        e.stopPropagation()
        const gaveUp = e.key === 'Escape'
        if (!gaveUp && (e.key !== 'Enter' || e.shiftKey)) return
        e.preventDefault()
        if (gaveUp) {
          done.current = true
          onDone()
        } else take()
        goHome(e.currentTarget)
      }}
    />
  )
}
