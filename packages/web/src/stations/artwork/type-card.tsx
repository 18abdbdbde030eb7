import { Button, UnstyledButton } from '@mantine/core'
import type { FontPart } from '@moth-lamp/core/compile'
import { fontOf } from '@moth-lamp/core/project'
import { freshId } from '../../session/chance.ts'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { fontsOf, lettersOf, sampleOf } from './fonts.ts'
import { bytesWords } from './words.ts'
import { Written } from './written.tsx'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

/** Bytes of a font; of one that has its outlines with another, what it adds to it. */
const roomWords = (part: FontPart | undefined): string =>
  !part ? '–' : !part.shares ? bytesWords(part.bytes) : part.bytes ? `+ ${bytesWords(part.bytes)}` : 'shared'

/** Every font at its true pixels, with words that are really written in it. */
export function TypeCard({ picked, onPick }: { picked: string; onPick(id: string): void }) {
  const session = useSession()
  const project = useProject()
  const plan = useStore(session.live, (l) => l.plan)
  const fonts = fontsOf(project, plan)
  const add = () => {
    const id = freshId('style')
    if (session.edit('add style', { id, name: 'Font 1', ...fontOf(project, 'style:caption') })) onPick(id)
  }
  return (
    <section className={`${station.card} ${styles.type}`} aria-label="Fonts">
      <header>
        <h2>Fonts</h2>
        <span className="small muted">{fonts.length === 1 ? '1 font' : `${fonts.length} fonts`}</span>
        <Button className="end" onClick={add}>
          + Font
        </Button>
      </header>
      <div className={station.scroll}>
        {fonts.map((font) => (
          <UnstyledButton
            key={font.id}
            className={styles.font}
            aria-current={picked === font.id || undefined}
            onClick={() => onPick(font.id)}
          >
            <Written
              spec={font.spec}
              letters={lettersOf(font)}
              text={sampleOf(font)}
              label={`Sample in ${font.name}, as on the glass`}
              width={262}
            />
            <span>
              <strong>{font.name}</strong>{' '}
              <span className="small muted">
                {font.style ? `${font.font.size} px · ` : ''}
                {font.users.length ? `${font.users.length} ${font.users.length === 1 ? 'widget' : 'widgets'}` : 'unused'}
              </span>
            </span>
            <span className="mono small">{roomWords(font.part)}</span>
          </UnstyledButton>
        ))}
      </div>
    </section>
  )
}
