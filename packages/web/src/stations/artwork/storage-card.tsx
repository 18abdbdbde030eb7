import { Button, UnstyledButton } from '@mantine/core'
import { hierarchy, treemap, type HierarchyRectangularNode } from 'd3-hierarchy'
import type { PictureId } from '@moth-lamp/core/base'
import type { ArtworkPlan } from '@moth-lamp/core/compile'
import { shrinkings } from '@moth-lamp/core/findings'
import type { Project } from '@moth-lamp/core/project'
import { NumberField } from '../../controls/fields.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { fontsOf } from './fonts.ts'
import { bytesWords } from './words.ts'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

interface Share {
  name: string
  kind: 'picture' | 'font' | 'pages' | 'small' | 'left'
  /** Its target. */
  id: string
  bytes: number
}

/** Flash that pictures, fonts and pages take, in proportion; and ways to save it. */
export function StorageCard({ picked, onPick }: { picked: string; onPick(id: string): void }) {
  const session = useSession()
  const project = useProject()
  const plan = useStore(session.live, (l) => l.plan)
  const over = plan ? plan.used - plan.room : 0
  const ways = plan ? shrinkings(project, plan).slice(0, 12) : []
  return (
    <section className={`${station.card} ${styles.storage}`} aria-label="Storage">
      <header>
        <h2>Storage</h2>
        <span className={`end mono ${over > 0 ? 'bad' : ''}`}>
          {plan && (over > 0 ? `${bytesWords(over)} over` : `${bytesWords(-over)} free`)}
        </span>
      </header>
      <div className={station.scroll}>
        <div className={styles.room}>
          {plan && <Treemap shares={sharesOf(project, plan)} picked={picked} onPick={onPick} />}
          <div className={styles.roomLine}>
            <span className="small">{plan ? `Used ${bytesWords(plan.used)} of` : 'calculating …'}</span>
            <NumberField
              label="Flash for images and fonts"
              value={project.panel.artworkKiB}
              min={0}
              max={1_048_576}
              whole
              unit="KiB"
              onCommit={(artworkKiB) => session.edit('set panel', { values: { artworkKiB } })}
            />
          </div>
        </div>
        <h3 className={styles.shrinkHead}>Ways to save space</h3>
        {ways.map(({ says, saves, same, edit, args }) => (
          <div key={edit + JSON.stringify(args)} className={styles.shrink}>
            <span className="small">
              {says}
              {same && <span className="muted">, lossless</span>}
            </span>
            <span className="mono small">− {bytesWords(saves)}</span>
            <Button size="compact-xs" aria-label={`Apply: ${says}`} onClick={() => session.edit(edit, args)}>
              Apply
            </Button>
          </div>
        ))}
        {!ways.length && <p className={`small muted ${styles.shrinkNone}`}>No savings found.</p>}
      </div>
    </section>
  )
}

/** Parts below this share of the room stand together. */
const smallShare = 0.012

function sharesOf(project: Project, plan: ArtworkPlan): Share[] {
  const whole = Math.max(plan.room, plan.used, 1)
  const fonts = fontsOf(project, plan)
  const parts: Share[] = [
    ...project.pictureOrder.map((id) => ({
      name: project.pictures[id]!.name,
      kind: 'picture' as const,
      id: id as string,
      bytes: plan.pictures.filter((part) => part.id === id).reduce((sum, { bytes }) => sum + bytes, 0),
    })),
    ...plan.fonts.map(({ key, bytes }) => {
      const font = fonts.find(({ part }) => part?.key === key)
      return { name: font?.name ?? 'letters', kind: 'font' as const, id: font?.id ?? '', bytes }
    }),
    { name: 'pages', kind: 'pages', id: '', bytes: plan.pages.reduce((sum, { bytes }) => sum + bytes, 0) },
  ]
  const small = parts.filter(({ bytes }) => bytes > 0 && bytes < whole * smallShare)
  const together = small.reduce((sum, { bytes }) => sum + bytes, 0)
  return [
    ...parts.filter(({ bytes }) => bytes >= whole * smallShare),
    ...(together ? [{ name: `${small.length} small`, kind: 'small' as const, id: '', bytes: together }] : []),
    ...(plan.room > plan.used ? [{ name: 'free', kind: 'left' as const, id: '', bytes: plan.room - plan.used }] : []),
  ]
}

const size = { width: 272, height: 132 }

/** Everything in proportion: what is large is large. */
function Treemap({ shares, picked, onPick }: { shares: Share[]; picked: string; onPick(id: string): void }) {
  const root = hierarchy<{ children?: Share[] } | Share>({ children: shares })
    .sum((one) => ('bytes' in one ? one.bytes : 0))
    .sort((a, b) => (b.value ?? 0) - (a.value ?? 0))
  const laid = treemap<{ children?: Share[] } | Share>().size([size.width, size.height]).paddingInner(2).round(true)(root)
  return (
    <div className={styles.map} style={size} role="group" aria-label="Flash by font, picture and page">
      {laid.leaves().map((leaf, k) => (
        <Tile key={k} leaf={leaf as HierarchyRectangularNode<Share>} picked={picked} onPick={onPick} />
      ))}
    </div>
  )
}

function Tile({ leaf, picked, onPick }: { leaf: HierarchyRectangularNode<Share>; picked: string; onPick(id: string): void }) {
  const { name, kind, id, bytes } = leaf.data
  const [width, height] = [leaf.x1 - leaf.x0, leaf.y1 - leaf.y0]
  const place = { left: leaf.x0, top: leaf.y0, width, height }
  const words = `${name}, ${bytesWords(bytes)}`
  // Words are there where there is room for them; all of them are in the title.
  const fits = (text: string) => width > 7 * text.length + 14 && height > 15
  const inside = [words, name, bytesWords(bytes)].find(fits)
  return id ? (
    <UnstyledButton
      className={styles.tile}
      data-kind={kind}
      style={place}
      title={words}
      aria-label={words}
      aria-current={picked === id || undefined}
      onClick={() => onPick(id as PictureId)}
    >
      {inside}
    </UnstyledButton>
  ) : (
    <div className={styles.tile} data-kind={kind} style={place} title={words}>
      {inside}
    </div>
  )
}
