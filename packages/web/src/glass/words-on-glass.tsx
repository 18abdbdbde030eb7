import { Textarea } from '@mantine/core'
import { useRef, useState } from 'react'
import type { Widget } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { goHome } from '../controls/home.ts'
import type { Session } from '../session/session.ts'
import { useSession } from '../shell/context.tsx'
import styles from './glass.module.css'

interface Props {
  widget: Widget
  box: React.CSSProperties
  onDone(): void
}

/** The place of a widget that is nothing but its words, where they want more room than it has. */
function widened(
  session: Session,
  { place: { x, width } }: Widget,
  needed: number | null,
): Pick<Widget['place'], 'width'> | null {
  const most = session.project.panel.width - x
  return needed !== null && needed > width && width < most ? { width: Math.min(needed, most) } : null
}

/** The words of a widget edited where they stand: Enter takes, Escape puts back. */
export function WordsOnGlass({ widget, box, onDone }: Props) {
  const session = useSession()
  const [text, setText] = useState(String(widget.settings['text']))
  /** How wide the words are: asked as they are typed, so that nothing is waited for when they are taken. */
  const wanted = useRef<{ text: string; width: number | null }>({ text: '', width: null })
  const type = (next: string) => {
    setText(next)
    if (!widgetKind(widget.kind)?.grows) return
    void session.worker.widthFor(widget.id, next).then((width) => (wanted.current = { text: next, width }))
  }
  /** Taken or given up by a key: losing the focus then says nothing more. */
  const done = useRef(false)
  const take = () => {
    if (done.current) return
    done.current = true
    const place = wanted.current.text === text ? widened(session, widget, wanted.current.width) : null
    if (text !== widget.settings['text'])
      session.edit('set each widget', { each: { [widget.id]: { values: { text }, ...(place ? { place } : {}) } } })
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
      onChange={(e) => type(e.currentTarget.value)}
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
