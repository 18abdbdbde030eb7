import { SegmentedControl, UnstyledButton } from '@mantine/core'
import { ditherTexts, fitTexts } from '@moth-lamp/core/artwork'
import { pictureBytes, pictureSettings, shownSize, type PictureRecord } from '@moth-lamp/core/project'
import { Pixels, requestOf } from '../../parts/pixels.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { PictureField } from './picture-field.tsx'
import { bytesWords } from './words.ts'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

type Key = keyof typeof pictureSettings.fields

/** Several pictures brought to the glass alike: a setting stands for all of them, one that differs is said to be mixed. */
export function ManyRecipe({ pictures, onOne }: { pictures: readonly PictureRecord[]; onOne(id: string): void }) {
  const session = useSession()
  const project = useProject()
  const plan = useStore(session.live, (l) => l.plan)
  const first = pictures[0]!
  const isMixed = (key: Key) => pictures.some((picture) => picture[key] !== first[key])
  const set = (key: Key, value: unknown) =>
    session.edit('set pictures', { ids: pictures.map(({ id }) => id), values: { [key]: value } })
  const field = (key: Key) => <PictureField key={key} pictures={pictures} setting={key} onChange={(value) => set(key, value)} />
  const choices = (key: 'way' | 'dither', label: string, texts: Readonly<Record<string, string>>) => (
    <div className={styles.choice}>
      <label>{label}</label>
      <SegmentedControl
        size="xs"
        aria-label={label}
        value={isMixed(key) ? '' : first[key]}
        data={Object.entries(texts).map(([value, label]) => ({ value, label }))}
        onChange={(value) => set(key, value)}
      />
      {isMixed(key) && <span className="small muted"> mixed</span>}
    </div>
  )
  const bytes = pictures.reduce(
    (sum, one) => sum + (plan?.pictures.find(({ id }) => id === one.id)?.bytes ?? pictureBytes(one)),
    0,
  )
  return (
    <section className={station.card} aria-label={`Recipe of ${pictures.length} pictures`}>
      <header>
        <h2>{pictures.length} pictures</h2>
        <span className="small muted">{bytesWords(bytes)} together</span>
      </header>
      <div className={styles.recipe}>
        <div className={styles.many}>
          {pictures.map((picture) => {
            const { width, height } = shownSize(picture)
            return (
              <UnstyledButton
                key={picture.id}
                className={styles.piece}
                title="select only this"
                onClick={() => onOne(picture.id)}
              >
                <Pixels
                  request={requestOf(project, picture)}
                  label={`“${picture.name}” on the glass`}
                  scale={Math.min(1, 108 / width, 80 / height)}
                />
                <strong className="cut">{picture.name}</strong>
                <span className="mono small muted">
                  {width} × {height}
                </span>
              </UnstyledButton>
            )
          })}
        </div>
        <p className="small muted">Changes apply to all selected pictures.</p>
        {choices('way', 'Scaling', fitTexts)}
        <div className={styles.fields}>
          {(['width', 'height', 'turn', 'trims', 'ground', 'keepsAlpha'] as const).map(field)}
          {project.panel.readsRuns && field('kept')}
        </div>
        {choices('dither', 'Dithering', ditherTexts)}
      </div>
    </section>
  )
}
