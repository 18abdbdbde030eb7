import type { Rect, WidgetId } from '@moth-lamp/core/base'
import type { Project } from '@moth-lamp/core/project'
import styles from './glass.module.css'

/** In the rim of the glass: where what is selected lies across and down, its name and its size, so that no tag covers a neighbour. */
export function Rim({ rect, scale, project, ids }: { rect: Rect; scale: number; project: Project; ids: readonly string[] }) {
  const name = ids.length === 1 ? project.widgets[ids[0] as WidgetId]!.name : `${ids.length} selected`
  const [width, height] = [rect.width * scale, rect.height * scale]
  return (
    <>
      <span className={styles.across} style={{ left: rect.x * scale, width: Math.max(24, width) }}>
        <span className={styles.named}>{name}</span>
        {width > 130 && <span className="mono">{Math.round(rect.width)}</span>}
      </span>
      <span className={styles.down} style={{ top: rect.y * scale, height: Math.max(18, height) }}>
        {height > 30 && <span className="mono">{Math.round(rect.height)}</span>}
      </span>
    </>
  )
}
