import { Button, FileButton, Group, Progress, UnstyledButton } from '@mantine/core'
import { useRef, useState } from 'react'
import type { PictureId } from '@moth-lamp/core/base'
import { cutOf, pictureBytes, shownSize, usersOf } from '@moth-lamp/core/project'
import { useFilesGiven } from '../../controls/files.ts'
import { FindField } from '../../controls/find-field.tsx'
import { useKeys } from '../../controls/keys.ts'
import { manyPictureFiles, takeIn, type Intake, type Refusal } from '../../session/intake.ts'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { FaceList } from './faces.tsx'
import { Pixels, requestOf } from '../../parts/pixels.tsx'
import { bytesWords } from './words.ts'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

interface Props {
  picked: readonly string[]
  onPick(id: string): void
  onPickMany(ids: readonly PictureId[]): void
}

/** List of rejected files. */
interface Told {
  refused: readonly Refusal[]
  known: readonly string[]
}

/** Every picture of the project at its true pixels where there is room, and where new ones are dropped. */
export function PictureList({ picked, onPick, onPickMany }: Props) {
  const session = useSession()
  const project = useProject()
  const [find, setFind] = useState('')
  const [intake, setIntake] = useState<(Intake & { stop(): void }) | null>(null)
  const [told, setTold] = useState<Told>({ refused: [], known: [] })
  // Files given during an import come after it.
  const waiting = useRef<File[]>([])
  const taking = useRef(false)
  const take = async (files: readonly File[]) => {
    waiting.current.push(...files)
    if (taking.current || !files.length) return
    taking.current = true
    setTold({ refused: [], known: [] })
    let stopped = false
    const stop = () => {
      stopped = true
      waiting.current = []
    }
    while (waiting.current.length && !stopped) {
      const { ids, refused, known } = await takeIn(
        session,
        waiting.current.splice(0),
        (at) => setIntake({ ...at, stop }),
        () => stopped,
      ).catch((error: unknown) => ({
        ids: [],
        refused: [{ name: 'The files', why: error instanceof Error ? error.message : 'could not be read' }],
        known: [],
      }))
      setTold((before) => ({ refused: [...before.refused, ...refused], known: [...before.known, ...known] }))
      if (ids[0]) onPick(ids[0])
    }
    taking.current = false
    setIntake(null)
  }
  useFilesGiven((files) => void take(files))
  useKeys([['a', () => document.getElementById('add-pictures')?.click()]])
  const plan = useStore(session.live, (l) => l.plan)
  const partOf = (id: PictureId) => plan?.pictures.find((part) => part.id === id)
  /** With Shift all from the first that is picked to this one, with Ctrl this one as well or no longer. */
  const pick = (id: PictureId, { shiftKey, ctrlKey, metaKey }: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    const now = project.pictureOrder.filter((other) => picked.includes(other))
    const order = shown.map((picture) => picture.id)
    const from = order.findIndex((other) => picked.includes(other))
    if (shiftKey && from >= 0) {
      const to = order.indexOf(id)
      onPickMany(order.slice(Math.min(from, to), Math.max(from, to) + 1))
    } else if ((ctrlKey || metaKey) && now.length) {
      const next = now.includes(id) ? now.filter((other) => other !== id) : [...now, id]
      if (next.length > 1) onPickMany(next)
      else onPick(next[0] ?? id)
    } else onPick(id)
  }
  const words = find.toLowerCase()
  const shown = project.pictureOrder.map((id) => project.pictures[id]!).filter((p) => p.name.toLowerCase().includes(words))
  return (
    <section className={`${station.card} ${styles.list}`} aria-label="Pictures">
      <header>
        <h2>Artwork</h2>
        <span className="small muted">
          {project.pictureOrder.length === 1 ? '1 picture' : `${project.pictureOrder.length} pictures`}
        </span>
        <FileButton multiple accept={manyPictureFiles} onChange={(files) => void take(files)}>
          {(props) => (
            <Button {...props} id="add-pictures" className="end">
              + Add <span className="key">A</span>
            </Button>
          )}
        </FileButton>
      </header>
      {intake && (
        <div className={styles.told} role="status">
          <Progress aria-label="Import progress" value={(100 * intake.done) / intake.of} />
          <Group gap={6}>
            <span className="small cut grow">
              {intake.done + 1} of {intake.of}: {intake.name}
            </span>
            <Button size="compact-xs" onClick={intake.stop}>
              Stop
            </Button>
          </Group>
        </div>
      )}
      {told.refused.length + told.known.length > 0 && (
        <div className={styles.told} role="alert">
          {told.refused.map(({ name, why }) => (
            <p key={name} className="small">
              <strong className="bad">Rejected</strong> “{name}”: {why}.
            </p>
          ))}
          {told.known.map((line) => (
            <p key={line} className="small">
              {line}
            </p>
          ))}
          <Button size="compact-xs" onClick={() => setTold({ refused: [], known: [] })}>
            Dismiss
          </Button>
        </div>
      )}
      {project.pictureOrder.length > 8 && (
        <div className={styles.find}>
          <FindField label="Find a picture" value={find} onChange={setFind} width={200} />
        </div>
      )}
      {project.pictureOrder.length ? (
        <div className={`${station.scroll} ${styles.wall}`}>
          {shown.map((picture) => {
            const { width, height } = shownSize(picture)
            const scale = Math.min(1, 124 / width, 92 / height)
            const users = usersOf(project, picture.id).length
            return (
              <UnstyledButton
                key={picture.id}
                className={styles.piece}
                aria-current={picked.includes(picture.id) || undefined}
                onClick={(e) => pick(picture.id, e)}
                onKeyDown={(e) => {
                  // The browser makes no click of these.
                  if (e.key !== 'Enter' || !(e.ctrlKey || e.metaKey || e.shiftKey)) return
                  e.preventDefault()
                  e.stopPropagation()
                  pick(picture.id, e)
                }}
              >
                <Pixels request={requestOf(project, picture)} label={`“${picture.name}” as it is on the glass`} scale={scale} />
                <strong className="cut">{picture.name}</strong>
                <span className="mono small muted">
                  {width} × {height}
                  {cutOf(picture) && ', a part'}
                </span>
                <span className="mono small muted">{bytesWords(partOf(picture.id)?.bytes ?? pictureBytes(picture))}</span>
                {users === 0 && <span className="small muted">unused</span>}
              </UnstyledButton>
            )
          })}
        </div>
      ) : (
        <div className={station.empty}>
          <p>
            Drop pictures here, paste one, or press <span className="key">A</span>.
          </p>
          <p className="small">
            PNG, JPEG, WebP, GIF, BMP, SVG; many at once, or a ZIP of them; up to 16 megapixels and 20 MB each.
          </p>
        </div>
      )}
      {project.pictureOrder.length > 1 && (
        <p className={`small muted ${styles.hint}`}>
          <span className="key">Shift</span> or <span className="key">Ctrl</span> click: select several.
        </p>
      )}
      <FaceList picked={picked.length === 1 ? picked[0]! : ''} onPick={onPick} />
    </section>
  )
}
