import condensedUrl from '@fontsource/barlow-condensed/files/barlow-condensed-latin-500-normal.woff?url'
import cyrillicUrl from '@fontsource/ibm-plex-sans/files/ibm-plex-sans-cyrillic-400-normal.woff?url'
import gaugeUrl from '@fontsource/b612/files/b612-latin-400-normal.woff?url'
import greekUrl from '@fontsource/ibm-plex-sans/files/ibm-plex-sans-greek-400-normal.woff?url'
import monoUrl from '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff?url'
import plainUrl from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url'
import segmentsUrl from '@fontsource/dseg7-classic/files/dseg7-classic-latin-700-normal.woff?url'
import { fontSentences, isWoff2, mostFontBytes, woff2Damage } from '@moth-lamp/core/artwork'
import { sentence, sha256Hex, type TypefaceId } from '@moth-lamp/core/base'
import { api } from './api.ts'
import { freshId } from './chance.ts'
import type { Session } from './session.ts'

/** A typeface that comes with the program. */
export interface Bundled {
  name: string
  /** Its purpose. */
  use: string
  url: string
}

/** Open typefaces that differ in use. */
export const bundled: readonly Bundled[] = [
  { name: 'Atkinson Hyperlegible Next', use: 'plain', url: plainUrl },
  { name: 'Atkinson Hyperlegible Mono', use: 'tabular digits', url: monoUrl },
  { name: 'Barlow Condensed', use: 'narrow, for small displays', url: condensedUrl },
  { name: 'B612', use: 'gauges and digits at a glance', url: gaugeUrl },
  { name: 'DSEG7 Classic', use: 'seven-segment digits', url: segmentsUrl },
  { name: 'IBM Plex Sans Greek', use: 'Greek fallback', url: greekUrl },
  { name: 'IBM Plex Sans Cyrillic', use: 'Cyrillic fallback', url: cyrillicUrl },
]

export const fontFiles = '.ttf,.otf,.woff,.woff2'

/** A packed font as it was before; or why not. */
async function unpack(file: Uint8Array): Promise<Uint8Array | string> {
  const damage = woff2Damage(file)
  if (damage) return sentence(fontSentences[damage.code]!, damage.facts)
  try {
    const made = await api.unpackFont(file)
    return 'why' in made ? made.why : made
  } catch (error) {
    return error instanceof Error ? error.message : 'decompression failed'
  }
}

/**
 * A font file becomes a typeface of the project, unpacked where it was packed; the one there is where it is there already. What
 * cannot be used is said, with the reason; null then.
 */
export async function takeTypeface(session: Session, name: string, file: Uint8Array): Promise<TypefaceId | null> {
  const refuse = (why: string) => (session.say(`“${name}” rejected: ${why}.`, 'bad'), null)
  if (file.length > mostFontBytes)
    return refuse(sentence(fontSentences['font.large']!, { bytes: file.length, most: mostFontBytes }))
  const unpacked = isWoff2(file) ? await unpack(file) : file
  if (typeof unpacked === 'string') return refuse(unpacked.replace(/\.$/, ''))
  const bytes = unpacked
  const looked = await session.studio.lookAtFont(bytes)
  if (!looked.ok) {
    const { code, facts } = looked.problem
    return refuse(sentence(fontSentences[code] ?? String(facts['reason'] ?? code), facts))
  }
  const sha = sha256Hex(bytes)
  const known = Object.values(session.project.typefaces).find(({ asset }) => asset === sha)
  if (known) return (await session.bring(bytes), known.id)
  const why = await session.offerAsset(bytes)
  if (why) return refuse(why.replace(/\.$/, ''))
  const { embedding, weightFrom, weightTo } = looked.value
  const id = freshId('typeface')
  return session.edit('add typeface', { id, name: name.slice(0, 60), asset: sha, embedding, weightFrom, weightTo }) ? id : null
}

/** A font file that someone chose. */
export const takeFontFile = async (session: Session, file: File): Promise<TypefaceId | null> =>
  takeTypeface(session, file.name.replace(/\.[a-z0-9]+$/i, '').trim() || 'typeface', new Uint8Array(await file.arrayBuffer()))

/** A typeface that comes with the program. */
export async function takeBundled(session: Session, { name, url }: Bundled): Promise<TypefaceId | null> {
  try {
    return await takeTypeface(session, name, new Uint8Array(await (await fetch(url)).arrayBuffer()))
  } catch {
    session.say(`“${name}” not loaded: cannot reach the server.`, 'bad')
    return null
  }
}
