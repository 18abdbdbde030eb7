import { writingTrouble, type Embedding, type WritingTrouble } from '../artwork/index.ts'
import { cutOf, faceOf, planOf, shownSize, usersOf, type PictureRecord } from '../project/index.ts'
import { widgetsOf, type Check, type Finding } from './finding.ts'

const at = (
  picture: PictureRecord,
  code: string,
  severity: Finding['severity'],
  facts: Finding['facts'],
  fix: Finding['fix'] = null,
): Finding => ({ code, severity, station: 'Artwork', at: picture.id, facts: { name: picture.name, ...facts }, fix })

const setting = (picture: PictureRecord, label: string, values: Partial<PictureRecord>): Finding['fix'] => ({
  label,
  edit: 'set picture',
  args: { id: picture.id, values },
})

/** Pictures, letters and pages need more room than the module has. */
export const artworkFull: Check = ({ plan }) => {
  if (!plan || plan.used <= plan.room) return []
  const kib = (bytes: number) => Math.ceil(bytes / 1024)
  const facts = { used: kib(plan.used), room: kib(plan.room), over: kib(plan.used - plan.room) }
  return [{ code: 'artwork-full', severity: 'error', station: 'Artwork', at: '', facts, fix: null }]
}

/** Use of a typeface that its licence does not allow. */
const embeddingWords: Partial<Record<Embedding, string>> = {
  restricted: 'not allowed',
  preview: 'preview only',
  whole: 'no subsetting',
}

/** Typefaces that nobody writes in, or whose licence speaks against a panel. */
export const typefaceFindings: Check = ({ project }) =>
  project.typefaceOrder.flatMap((id) => {
    const { name, embedding } = project.typefaces[id]!
    const wants = embeddingWords[embedding]
    return wants
      ? [{ code: 'typeface-licence', severity: 'warning', station: 'Artwork', at: id, facts: { name, wants }, fix: null }]
      : []
  })

const troubles: Record<WritingTrouble, string> = {
  'right to left': 'needs right-to-left layout',
  joined: 'needs complex text layout',
  marks: 'is a combining mark',
}

const writing = (at: string, name: string, station: Finding['station'], text: string): Finding[] => {
  const trouble = writingTrouble(text)
  if (!trouble) return []
  const facts = { name, letter: trouble.letter, does: troubles[trouble.why] }
  return [{ code: 'writing', severity: 'error', station, at, facts, fix: null }]
}

/** Texts that a panel, which sets letter after letter from left to right, would draw wrong. */
export const cannotBeWritten: Check = ({ project }) => [
  ...widgetsOf(project).flatMap((w) => writing(w.id, w.name, 'Pages', wordsIn(w.settings))),
  ...Object.values(project.variables).flatMap(({ id, name, holds, initial }) =>
    holds.type === 'text'
      ? writing(id, name, 'Variables', `${String(initial)}${holds.letters ?? ''}`)
      : holds.type === 'choice'
        ? writing(id, name, 'Variables', holds.choices.map(({ word }) => word).join(''))
        : [],
  ),
  ...Object.values(project.styles).flatMap(({ id, name, more }) => writing(id, name, 'Artwork', more)),
]

/** Every text among settings, however deep. */
function wordsIn(value: unknown): string {
  if (typeof value === 'string') return value
  return typeof value === 'object' && value !== null ? Object.values(value).map(wordsIn).join('\n') : ''
}

/** A background that is not as large as the glass. */
export const pictureOffGlass: Check = ({ project }) => {
  const { width, height } = project.panel
  const found = new Set<PictureRecord>()
  for (const { background, kind } of Object.values(project.pages)) {
    const picture =
      kind === 'page' ? project.pictures[faceOf(project, background).picture as keyof typeof project.pictures] : undefined
    const size = picture && !cutOf(picture) && shownSize(picture)
    // A sign in the middle of a page is meant as it is.
    const isMeantToFill =
      size && (size.width > width || size.height > height || (2 * size.width > width && 2 * size.height > height))
    if (isMeantToFill && (size.width !== width || size.height !== height)) found.add(picture)
  }
  return [...found].map((picture) =>
    at(
      picture,
      'picture-glass',
      'advice',
      { size: `${picture.width} × ${picture.height}`, glass: `${width} × ${height}` },
      setting(picture, `Refit to ${width} × ${height}`, {
        width,
        height,
        ...(picture.way === 'exact' ? { way: 'crop' } : {}),
      }),
    ),
  )
}

/** Pictures that nothing shows, that are made larger than they are, or that are drawn out of shape. */
export const pictureFindings: Check = ({ project }) =>
  project.pictureOrder.flatMap((id) => {
    const picture = project.pictures[id]!
    const found: Finding[] = []
    const plan = planOf(picture)
    const off = Math.round(plan.distortion * 1000) / 10
    if (!usersOf(project, id).length)
      found.push(at(picture, 'picture-unused', 'advice', {}, { label: 'Delete', edit: 'delete picture', args: { id } }))
    if (!picture.trims && Math.min(plan.across, plan.down) < 0.995)
      found.push(at(picture, 'picture-enlarged', 'advice', { times: Math.round(10 / Math.min(plan.across, plan.down)) / 10 }))
    if (picture.way === 'stretch' && !picture.trims && Math.abs(off) > 1)
      found.push(
        at(
          picture,
          'picture-stretched',
          'advice',
          { off: Math.abs(off), way: off > 0 ? 'wide' : 'narrow' },
          setting(picture, 'Crop it', { way: 'crop' }),
        ),
      )
    if (picture.kept === 'runs' && !project.panel.readsRuns)
      found.push(at(picture, 'picture-runs', 'warning', {}, setting(picture, 'Store uncompressed', { kept: 'plain' })))
    if (picture.keepsAlpha && !project.panel.blends)
      found.push(at(picture, 'picture-blends', 'error', {}, setting(picture, 'Flatten onto background', { keepsAlpha: false })))
    return found
  })
