import { Button, Group, Stack } from '@mantine/core'
import type { PictureId } from '@moth-lamp/core/base'
import { cutFaces, cutOf, facesOf, type Page, type Project } from '@moth-lamp/core/project'
import { Choice } from '../../controls/choice.tsx'
import { YesNo } from '../../controls/fields.tsx'
import { freshId } from '../../session/chance.ts'
import { useSession } from '../../session/context.tsx'
import { useDraft } from './drafts.ts'
import form from '../../parts/fields.module.css'

interface Props {
  project: Project
  page: Page
  picked: string[]
  onDone(): void
}

/** Cuts the faces of what is picked out of drawings of the whole page, each where it lies. */
export function CutForm({ project, page, picked, onDone }: Props) {
  const session = useSession()
  const faces = facesOf(project, picked)
  const drawings = project.pictureOrder.map((id) => project.pictures[id]!).filter((picture) => !cutOf(picture))
  const first = page.background.picture || largest(drawings)
  const draft = `slice ${picked.join(' ')}`
  const [from, setFrom] = useDraft<Record<string, string>>(session, `${draft} from`, () => ({ face: first }))
  const [bare, setBare] = useDraft(session, `${draft} bare`, () => true)
  const chosen = faces.flatMap(({ key, label }) => (from[key] ? [{ key, label, picture: from[key] as PictureId }] : []))
  const cuts = cutFaces(project, picked, chosen, bare, () => freshId('picture'))
  const count = Object.keys(cuts.widgets).length
  const make = () => {
    session.edit('add pictures', { pictures: cuts.pictures, after: '', widgets: cuts.widgets })
    onDone()
  }
  if (!drawings.length) return <p className="small">Add a page image in Artwork first.</p>
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault()
        if (count) make()
      }}
    >
      <Stack gap={4}>
        {faces.map(({ key, label }) => (
          <div key={key} className={form.setting}>
            <label>{label}</label>
            <Choice
              label={`${label} from`}
              value={from[key] ?? ''}
              options={[
                { value: '', label: 'keep' },
                ...drawings.map(({ id, name, width, height }) => ({ value: id, label: name, detail: `${width} × ${height}` })),
              ]}
              onChange={(picture) => setFrom({ ...from, [key]: picture })}
            />
          </div>
        ))}
        <div className={form.setting}>
          <label>Text</label>
          <YesNo
            label="Text is part of the image"
            words="is part of the image (hide text and state bar)"
            value={bare}
            onChange={setBare}
          />
        </div>
        {cuts.outside.length > 0 && (
          <p className="small">
            <strong className="bad">Skipped</strong> {cuts.outside.map(({ name }) => name).join(', ')}: outside the image.
          </p>
        )}
        <Group gap={6}>
          <Button type="submit" variant="filled" disabled={!count} data-first>
            {cuts.pictures.length ? `Slice ${cuts.pictures.length}` : 'Slice'}
          </Button>
          <Button onClick={onDone}>Cancel</Button>
        </Group>
      </Stack>
    </form>
  )
}

const largest = (drawings: readonly { id: string; width: number; height: number }[]): string =>
  [...drawings].sort((a, b) => b.width * b.height - a.width * a.height)[0]?.id ?? ''
