import { useState } from 'react'
import type { FaceId, PictureId } from '@moth-lamp/core/base'
import { useFolding } from '../../parts/folding.ts'
import { FindingBar } from '../../parts/finding-bar.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { FaceRecipe } from './faces.tsx'
import { fontsOf } from './fonts.ts'
import { FontRecipe } from './font-recipe.tsx'
import { ManyRecipe } from './many-recipe.tsx'
import { PictureList } from './picture-list.tsx'
import { Recipe } from './recipe.tsx'
import { StorageCard } from './storage-card.tsx'
import { TypeCard } from './type-card.tsx'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

/** Pictures with their conversion, fonts, and the flash that they take. */
export function ArtworkStation() {
  const session = useSession()
  const folding = useFolding()
  const project = useProject()
  const plan = useStore(session.live, (l) => l.plan)
  const chosen = useStore(session.view, (v) => v.artwork)
  // Pictures that are set together, the chosen one among them; none where one alone is.
  const [together, setTogether] = useState<readonly PictureId[]>([])
  const setChosen = (artwork: string) => {
    setTogether([])
    session.view.set({ artwork })
  }
  const face = project.faces[chosen as FaceId]
  const font =
    chosen && !face && !chosen.startsWith('picture:') ? fontsOf(project, plan).find(({ id }) => id === chosen) : undefined
  const picked = font || face ? '' : Object.hasOwn(project.pictures, chosen) ? chosen : (project.pictureOrder[0] ?? '')
  const picture = project.pictures[picked as PictureId]
  const many = project.pictureOrder.filter((id) => together.includes(id)).map((id) => project.pictures[id]!)
  const isMany = picture !== undefined && many.length > 1
  return (
    <div className={`${folding} ${styles.three}`} data-sided>
      <PictureList
        picked={isMany ? many.map(({ id }) => id) : [face?.id ?? picked]}
        onPick={setChosen}
        onPickMany={(ids) => {
          session.view.set({ artwork: ids.at(-1) ?? picked })
          setTogether(ids)
        }}
      />
      <div className={styles.middle}>
        {face ? (
          <FaceRecipe key={face.id} record={face} />
        ) : font ? (
          <FontRecipe key={font.style?.id ?? 'own'} font={font} />
        ) : isMany ? (
          <ManyRecipe key={many.map(({ id }) => id).join(' ')} pictures={many} onOne={setChosen} />
        ) : picture ? (
          <Recipe key={picture.id} picture={picture} />
        ) : (
          <section className={station.card} aria-label="Recipe">
            <p className={station.empty}>Select or add a picture to convert it for the panel.</p>
          </section>
        )}
        <FindingBar station="Artwork" />
      </div>
      <div className={styles.side} data-side>
        <TypeCard picked={font?.id ?? ''} onPick={setChosen} />
        <StorageCard picked={font?.id ?? picked} onPick={setChosen} />
      </div>
    </div>
  )
}
