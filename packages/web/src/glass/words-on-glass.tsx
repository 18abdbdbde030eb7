import { Textarea } from '@mantine/core'
import { useRef, useState } from 'react'
import type { Widget } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { useTaken } from '../controls/fields.tsx'
import { goHome } from '../controls/focus.ts'
import { sayLost } from '../session/drafts.ts'
import type { Session } from '../session/session.ts'
import { useSession } from '../session/context.tsx'
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
  /** How wide the words are: asked as they are typed, so that it is known, as a rule, when they are taken. */
  const wanted = useRef<{ width: number | null; asked: Promise<number | null> } | null>(null)
  const type = (next: string) => {
    setText(next)
    if (!widgetKind(widget.kind)?.grows) return
    const room = (wanted.current = { width: null as number | null, asked: session.worker.widthFor(widget.id, next) })
    void room.asked.then((width) => (room.width = width))
  }
  /** Words that were taken before it was known how wide they are: their room follows, if nobody has changed it meanwhile. */
  const widenLater = async (asked: Promise<number | null>) => {
    const width = await asked
    const now = session.project.widgets[widget.id]
    const place = now?.place.width === widget.place.width && now.settings['text'] === text ? widened(session, now, width) : null
    if (place) session.edit('set each widget', { each: { [widget.id]: { place } } })
  }
  const field = useRef<HTMLTextAreaElement>(null)
  const { take, giveUp } = useTaken(field, () => {
    const room = wanted.current
    const place = widened(session, widget, room?.width ?? null)
    if (text !== widget.settings['text'] && !(widget.id in session.project.widgets))
      sayLost(`the text of ${widget.name}`, text, 'the widget was deleted')
    else if (text !== widget.settings['text']) {
      session.edit('set each widget', { each: { [widget.id]: { values: { text }, ...(place ? { place } : {}) } } })
      if (room && room.width === null) void widenLater(room.asked)
    }
    onDone()
  })
  return (
    <Textarea
      ref={field}
      autoFocus
      aria-label={`Text of ${widget.name}`}
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
          giveUp()
          onDone()
        } else take()
        goHome(e.currentTarget)
      }}
    />
  )
}
