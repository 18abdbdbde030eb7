import { Progress, UnstyledButton } from '@mantine/core'
import type { PictureId } from '@moth-lamp/core/base'
import { pictureBytes } from '@moth-lamp/core/project'
import { NumberField } from '../../controls/fields.tsx'
import { useProject, useSession } from '../../shell/context.tsx'
import { bytesWords } from './words.ts'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

/** What the pictures take of the room that the module has, the largest first. */
export function StorageCard({ picked, onPick }: { picked: PictureId | null; onPick(id: PictureId): void }) {
  const session = useSession()
  const project = useProject()
  const room = project.panel.artworkKiB * 1024
  const list = Object.values(project.pictures).sort((a, b) => pictureBytes(b) - pictureBytes(a) || (a.name < b.name ? -1 : 1))
  const used = list.reduce((sum, picture) => sum + pictureBytes(picture), 0)
  return (
    <section className={`${station.card} ${styles.storage}`} aria-label="Storage" data-side>
      <header>
        <h2>Storage</h2>
        <span className={`end mono ${used > room ? 'bad' : ''}`}>
          {used > room ? `${bytesWords(used - room)} too much` : `${bytesWords(room - used)} left`}
        </span>
      </header>
      <div className={station.scroll}>
        <div className={styles.room}>
          <Progress
            aria-label="Room taken"
            value={Math.min(100, (100 * used) / Math.max(1, room))}
            color={used > room ? 'red' : 'dark'}
            size="lg"
          />
          <div className={styles.roomLine}>
            <span className="small">{bytesWords(used)} of pictures</span>
            <NumberField
              label="Room for artwork"
              value={project.panel.artworkKiB}
              min={0}
              max={1_048_576}
              whole
              unit="KiB"
              onCommit={(artworkKiB) => session.edit('set panel', { values: { artworkKiB } })}
            />
          </div>
          <p className="small muted">
            Two bytes a pixel, and one more where a picture keeps its transparency. What is drawn by a face takes none.
          </p>
        </div>
        {list.map((picture) => (
          <UnstyledButton
            key={picture.id}
            className={styles.share}
            aria-current={picked === picture.id || undefined}
            onClick={() => onPick(picture.id)}
          >
            <span className="cut">{picture.name}</span>
            <span className="mono small">{bytesWords(pictureBytes(picture))}</span>
            <i style={{ width: `${(100 * pictureBytes(picture)) / Math.max(1, used)}%` }} />
          </UnstyledButton>
        ))}
      </div>
    </section>
  )
}
