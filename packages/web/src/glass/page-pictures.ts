import { useEffect, useState } from 'react'
import type { PageId } from '@moth-lamp/core/base'
import type { Page, Project, Widget } from '@moth-lamp/core/project'
import type { Session } from '../session/session.ts'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import { putPainted } from './glass.tsx'

const stamps = new WeakMap<Page, { widgets: Widget[]; stamp: number }>()
let lastStamp = 0

/** Another number when the page or one of its widgets is another record: only then its picture is made again. */
export function stampOf(project: Project, page: Page): number {
  const widgets = page.widgets.map((id) => project.widgets[id]!)
  const before = stamps.get(page)
  if (before?.widgets.every((w, i) => w === widgets[i])) return before.stamp
  stamps.set(page, { widgets, stamp: ++lastStamp })
  return lastStamp
}

interface Picture {
  stamp: string
  canvas: Promise<HTMLCanvasElement | null>
}

/** So many pages are kept at their full size. */
const most = 12
const kept = new WeakMap<Session, Map<string, Picture>>()

/** A page as the panel would draw it, at its full size, for whoever shows a piece of it; made again only when it looks different. */
function pictureOf(session: Session, page: string, stamp: string): Promise<HTMLCanvasElement | null> {
  const pictures = kept.get(session) ?? new Map<string, Picture>()
  kept.set(session, pictures)
  const found = pictures.get(page)
  if (found?.stamp === stamp) return found.canvas
  const canvas = session.thumbnail(page, session.project.panel.width).then((painted) => {
    if (!painted) return null
    const made = document.createElement('canvas')
    made.width = painted.rect.width
    made.height = painted.rect.height
    putPainted(made, painted)
    return made
  })
  pictures.delete(page)
  pictures.set(page, { stamp, canvas })
  const [oldest] = pictures.keys()
  if (pictures.size > most && oldest !== undefined) pictures.delete(oldest)
  return canvas
}

/** The picture of a page, once it is there. */
export function usePagePicture(project: Project, page: PageId | ''): HTMLCanvasElement | null {
  const session = useSession()
  const letters = useStore(session.live, (l) => l.letters)
  const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null)
  const drawn = page ? project.pages[page] : undefined
  const stamp = drawn ? `${stampOf(project, drawn)} ${letters} ${project.panel.width} ${project.panel.height}` : ''
  useEffect(() => {
    let gone = false
    if (!stamp) return
    void pictureOf(session, page, stamp).then((made) => !gone && setCanvas(made))
    return () => void (gone = true)
  }, [session, page, stamp])
  return canvas
}
