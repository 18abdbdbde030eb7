import { useState } from 'react'
import type { PictureId } from '@moth-lamp/core/base'
import { FindingBar } from '../../parts/finding-bar.tsx'
import { useProject } from '../../shell/context.tsx'
import { PictureList } from './picture-list.tsx'
import { Recipe } from './recipe.tsx'
import { StorageCard } from './storage-card.tsx'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

/** What is drawn elsewhere, how it is brought to the glass, and the room it takes there. */
export function ArtworkStation() {
  const project = useProject()
  const [chosen, setChosen] = useState<PictureId | null>(null)
  const picked = chosen && project.pictures[chosen] ? chosen : (project.pictureOrder[0] ?? null)
  const picture = picked && project.pictures[picked]
  return (
    <div className={`${station.folding} ${styles.three}`} data-sided>
      <PictureList picked={picked} onPick={setChosen} />
      <div className={styles.middle}>
        {picture ? (
          <Recipe key={picture.id} picture={picture} />
        ) : (
          <section className={station.card} aria-label="Recipe">
            <p className={station.empty}>A picture is brought to the size of the glass here, and to its colours.</p>
          </section>
        )}
        <FindingBar station="Artwork" />
      </div>
      <StorageCard onPick={setChosen} picked={picked} />
    </div>
  )
}
