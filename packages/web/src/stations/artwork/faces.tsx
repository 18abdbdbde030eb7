import { Button, UnstyledButton } from '@mantine/core'
import { useEffect, useMemo, useRef } from 'react'
import type { FaceId } from '@moth-lamp/core/base'
import { compileFace, noFace, paintFace, type Face } from '@moth-lamp/core/faces'
import { colourOf, usersOf, type FaceRecord, type Project } from '@moth-lamp/core/project'
import { colourToRgb565, Surface } from '@moth-lamp/core/raster'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { TextField } from '../../controls/fields.tsx'
import { FaceParts } from '../../inspector/face-field.tsx'
import { freshId } from '../../session/chance.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { imageOf } from '../../parts/pixels.tsx'
import form from '../../parts/fields.module.css'
import { DeleteUsed } from '../../parts/delete-used.tsx'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

function painted(project: Project, face: Face, width: number, height: number): ImageData {
  const surface = new Surface(width, height)
  surface.fill({ x: 0, y: 0, width, height }, colourToRgb565(colourOf(project, 'colour:ground')))
  const context = { colour: (stored: string) => colourOf(project, stored), picture: () => null, face: () => null }
  paintFace(surface, { x: 4, y: 4, width: width - 8, height: height - 8 }, compileFace(face, context))
  return imageOf(surface.pixels, surface)
}

/** A face as the panel draws it, pixel by pixel, on the ground of the project. */
function FacePixels({ face, label, width, height }: { face: Face; label: string; width: number; height: number }) {
  const project = useProject()
  const canvas = useRef<HTMLCanvasElement>(null)
  const image = useMemo(() => painted(project, face, width, height), [project, face, width, height])
  useEffect(() => canvas.current!.getContext('2d')!.putImageData(image, 0, 0), [image])
  return <canvas ref={canvas} width={width} height={height} role="img" aria-label={label} className={styles.written} />
}

const usersOfFace = (project: Project, id: FaceId): string[] => [...new Set(usersOf(project, id).map(({ from }) => from))]

/** The faces that have a name: they take no room on the panel. */
export function FaceList({ picked, onPick }: { picked: string; onPick(id: string): void }) {
  const session = useSession()
  const project = useProject()
  const add = () => {
    const id = freshId('face')
    const face = { ...noFace, fill: 'colour:surface', fillTo: 'colour:ground', border: 'colour:line', borderWidth: 1, radius: 8 }
    if (session.edit('add face', { id, name: 'Face 1', face })) onPick(id)
  }
  return (
    <div className={styles.faces} role="group" aria-label="Vector faces">
      <div className={styles.facesHead}>
        <strong>Vector faces</strong>
        <span className="small muted grow">no flash used</span>
        <Button size="compact-xs" onClick={add}>
          + Face
        </Button>
      </div>
      {project.faceOrder.map((id) => {
        const { name, face } = project.faces[id]!
        const users = usersOfFace(project, id).length
        return (
          <UnstyledButton key={id} className={styles.piece} aria-current={picked === id || undefined} onClick={() => onPick(id)}>
            <FacePixels face={face} label={`“${name}” as it is on the glass`} width={118} height={46} />
            <strong className="cut">{name}</strong>
            <span className="small muted">{users ? `${users} ${users === 1 ? 'place' : 'places'}` : 'unused'}</span>
          </UnstyledButton>
        )
      })}
    </div>
  )
}

/** One face with a name: what it is made of, and who has it. */
export function FaceRecipe({ record }: { record: FaceRecord }) {
  const session = useSession()
  const project = useProject()
  const { id, name, face } = record
  const users = usersOfFace(project, id)
  return (
    <section className={station.card} aria-label={`Face ${name}`}>
      <header>
        <div className="grow">
          <TextField
            label="Name of the face"
            value={name}
            isName
            check={(text) => (text.trim() ? null : 'Enter a name.')}
            onCommit={(next) => session.edit('set face', { id, values: { name: next } })}
          />
        </div>
        <DeleteUsed
          key={id}
          name={name}
          users={users.map((from) => nameOfId(project, from))}
          then="Widgets keep their look."
          onDelete={() => session.edit('delete face', { id })}
        />
      </header>
      <div className={styles.recipe}>
        <p className="small muted">
          {users.length
            ? `used by ${users.map((from) => nameOfId(project, from)).join(', ')}`
            : 'unused; select it by name where a widget has a face'}
        </p>
        <div className={styles.row}>
          {[
            [120, 56],
            [220, 120],
            [80, 80],
          ].map(([width, height]) => (
            <FacePixels
              key={width}
              face={face}
              label={`${name}, ${width! - 8} × ${height! - 8}`}
              width={width!}
              height={height!}
            />
          ))}
        </div>
        <div className={`${form.settings ?? ''} ${styles.parts}`}>
          <FaceParts
            label={name}
            value={face}
            set={(change) => session.edit('set face', { id, values: { face: { ...face, ...change } } })}
          />
        </div>
      </div>
    </section>
  )
}
