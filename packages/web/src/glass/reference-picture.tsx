import type { PictureId } from '@moth-lamp/core/base'
import { pictureRect } from '@moth-lamp/core/faces'
import { shownSize, type Page, type Project } from '@moth-lamp/core/project'
import { Pixels, requestOf } from '../parts/pixels.tsx'
import { placed } from './placed.ts'
import styles from './glass.module.css'

/** Tracing image of a page over the glass; nothing of it is on the panel. */
export function ReferencePicture({ project, page, scale }: { project: Project; page: Page; scale: number }) {
  const picture = project.pictures[page.reference as PictureId]
  if (!picture || !page.referenceSeen) return null
  const glass = { x: 0, y: 0, width: project.panel.width, height: project.panel.height }
  const place = pictureRect(glass, { ...shownSize(picture), at: 'middle' })
  return (
    <div className={styles.reference} style={{ ...placed(place, scale), opacity: page.referenceSeen / 100 }}>
      <Pixels request={requestOf(project, picture)} label={`Tracing image: ${picture.name}`} scale={scale} />
    </div>
  )
}
