import { mostPictureBytes, pictureSentences, type PictureInfo } from '@moth-lamp/core/artwork'
import { bad, good, readArchive, sentence, sha256Hex, unpackEntry, type PictureId, type Result } from '@moth-lamp/core/base'
import { cutOf, pictureSettings, type NewPicture, type Project } from '@moth-lamp/core/project'
import type { LookedPicture } from '../worker/messages.ts'
import { freshId } from './chance.ts'
import type { Session } from './session.ts'

/** How far files are that are being taken in. */
export interface Intake {
  done: number
  of: number
  name: string
}

/** A picture file that was not taken, and why. */
export interface Refusal {
  name: string
  why: string
}

interface Taken {
  bytes: Uint8Array
  info: LookedPicture
  sha: string
}

/** Files that may be chosen as pictures, and as archives of pictures. */
export const pictureFiles = 'image/png,image/jpeg,image/webp,image/gif,image/bmp,image/svg+xml'
export const manyPictureFiles = `${pictureFiles},.zip`

/** An archive of pictures is at most so large, bytes. */
const mostArchiveBytes = 200 * 1024 * 1024

/** A picture, by itself or in an archive. */
interface Source {
  /** The file that was given: itself, or the archive. */
  file: File
  name: string
  bytes(): Promise<Result<Uint8Array>>
}

const large = (bytes: number, most: number) => bad('picture.large', { bytes, most })

const isArchive = async (file: File): Promise<boolean> => {
  const head = new Uint8Array(await file.slice(0, 4).arrayBuffer())
  return head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4
}

/** The pictures that files come to: each itself, and what is in archives, in the order of their names. */
async function sourcesOf(files: readonly File[], refuse: (name: string, why: string) => void): Promise<Source[]> {
  const sources: Source[] = []
  for (const file of files) {
    if (!(await isArchive(file))) {
      const bytes = async () =>
        file.size > mostPictureBytes ? large(file.size, mostPictureBytes) : good(new Uint8Array(await file.arrayBuffer()))
      sources.push({ file, name: file.name, bytes })
      continue
    }
    if (file.size > mostArchiveBytes) {
      refuse(file.name, `${Math.round(file.size / 1e6)} MB (maximum ${Math.round(mostArchiveBytes / 1e6)})`)
      continue
    }
    const packed = new Uint8Array(await file.arrayBuffer())
    const archive = readArchive(packed)
    if (!archive.ok) {
      refuse(file.name, `unreadable archive: ${String(archive.problem.facts['message'] ?? archive.problem.code)}`)
      continue
    }
    const inside = [...archive.value].filter(([name]) => !name.endsWith('/') && !/(^|\/)(\.|__MACOSX\/)/.test(name))
    for (const [path, entry] of inside.sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }))) {
      const bytes = async (): Promise<Result<Uint8Array>> => {
        if (entry.size > mostPictureBytes) return large(entry.size, mostPictureBytes)
        const made = unpackEntry(packed, entry, mostPictureBytes)
        return made.ok ? made : bad('picture.damaged', { what: 'decompression failed' })
      }
      sources.push({ file, name: path.slice(path.lastIndexOf('/') + 1), bytes })
    }
    if (!inside.length) refuse(file.name, 'empty archive')
  }
  return sources
}

async function read(session: Session, source: Source): Promise<Result<Taken>> {
  const content = await source.bytes()
  if (!content.ok) return content
  const bytes = content.value
  const info = await session.studio.look(bytes)
  return info.ok ? good({ bytes, info: info.value, sha: sha256Hex(bytes) }) : info
}

const nameOf = (file: string): string =>
  file
    .replace(/\.[a-z0-9]+$/i, '')
    .trim()
    .slice(0, 60) || 'picture'

type Size = { width: number; height: number }

/** As large as its place, where it has one; else its own size where the glass has room for it, or as large as the glass. */
function sizeFor({ panel }: Project, { width, height }: PictureInfo, place: Size | null): Size & Pick<NewPicture, 'way'> {
  const to = place ?? (width <= panel.width && height <= panel.height ? { width, height } : panel)
  return { width: to.width, height: to.height, way: to.width === width && to.height === height ? 'exact' : 'crop' }
}

/** Facts of an original that a record keeps. */
const originalOf = (name: string, { info, sha }: Taken) => ({
  file: name.slice(0, 200),
  format: info.format,
  asset: sha,
  fromWidth: info.width,
  fromHeight: info.height,
})

/** Where pictures are shown as soon as they are in: how large, and what the edit that adds them says besides. */
export interface Shown {
  /** As large as that; null: as it is itself. */
  size(file: File): Size | null
  /** All of them in the order of their files, those that were there already among them. */
  where(
    all: readonly NewPicture[],
    fileOf: (picture: NewPicture) => File | undefined,
  ): { pages?: unknown; afterPage?: string | null; widgets?: unknown; background?: unknown; variables?: unknown; add?: unknown }
}

/**
 * Picture files become pictures of the project, in one edit. Those that are damaged, too large or no pictures are left out with
 * the reason; the others go on. Stopped half-way, those that are in stay.
 */
export async function takeIn(
  session: Session,
  files: readonly File[],
  say: (at: Intake) => void,
  stopped: () => boolean,
  shown: Shown | null = null,
): Promise<{ ids: PictureId[]; refused: Refusal[]; known: string[] }> {
  const pictures: NewPicture[] = []
  const all: NewPicture[] = []
  const cameFrom = new Map<NewPicture, File>()
  const refused: Refusal[] = []
  const known: string[] = []
  const sources = await sourcesOf(files, (name, why) => refused.push({ name, why }))
  for (const [i, source] of sources.entries()) {
    const { file, name } = source
    if (stopped()) break
    say({ done: i, of: sources.length, name })
    const taken = await read(session, source)
    if (!taken.ok) {
      const { code, facts } = taken.problem
      refused.push({ name, why: sentence(pictureSentences[code] ?? String(facts['what'] ?? code), facts) })
      continue
    }
    const place = shown?.size(file) ?? null
    const fits = (p: NewPicture) => !cutOf(p) && (!place || (p.width === place.width && p.height === place.height))
    const same = [...Object.values(session.project.pictures), ...pictures].find((p) => p.asset === taken.value.sha && fits(p))
    if (same) {
      all.push(same)
      cameFrom.set(same, file)
      // Its record may be here while its file has never come: then it has now.
      await session.bring(taken.value.bytes)
      known.push(`“${name}” is already imported as “${same.name}”.`)
      continue
    }
    const why = await session.offerAsset(taken.value.bytes)
    if (why) {
      refused.push({ name, why: why.replace(/\.$/, '') })
      continue
    }
    const picture: NewPicture = {
      ...pictureSettings.defaults,
      ...sizeFor(session.project, taken.value.info, place),
      keepsAlpha: session.project.panel.blends && taken.value.info.seesThrough,
      dither: taken.value.info.format === 'jpeg' ? 'spread' : 'none',
      id: freshId('picture'),
      name: nameOf(name),
      ...originalOf(name, taken.value),
    }
    pictures.push(picture)
    all.push(picture)
    cameFrom.set(picture, file)
  }
  if (pictures.length || (shown && all.length))
    session.edit('add pictures', { pictures, after: '', ...shown?.where(all, (picture) => cameFrom.get(picture)) })
  return { ids: pictures.map((p) => p.id), refused, known }
}

/** Another original for a picture; null: it is. */
export async function replaceOriginal(session: Session, picture: NewPicture, file: File): Promise<string | null> {
  const taken = await read(session, { file, name: file.name, bytes: async () => good(new Uint8Array(await file.arrayBuffer())) })
  if (!taken.ok) return sentence(pictureSentences[taken.problem.code] ?? taken.problem.code, taken.problem.facts)
  const why = await session.offerAsset(taken.value.bytes)
  if (why) return why.replace(/\.$/, '')
  session.edit('replace picture', { id: picture.id, ...originalOf(file.name, taken.value) })
  return null
}

/** Files by the numbers in their names: `moon 2` before `moon 10`. */
const inOrder = (files: readonly File[]): File[] =>
  [...files].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))

/** Picture files dropped where they are to be shown; what was not taken is said. */
export async function dropIn(session: Session, files: readonly File[], shown: Shown): Promise<void> {
  if (!files.length) return
  try {
    const { refused } = await takeIn(session, inOrder(files), () => undefined, () => false, shown) // prettier-ignore
    for (const { name, why } of refused) session.say(`“${name}” rejected: ${why}.`, 'bad')
  } catch (error) {
    session.say(error instanceof Error ? error.message : 'The files could not be read.', 'bad')
  }
}
