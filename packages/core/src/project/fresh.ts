import { newId, seededRandom, type PageId, type Random } from '../base/index.ts'
import type { Embedding } from '../artwork/index.ts'
import { noFace, type Face } from '../faces/index.ts'
import { lampBinary, plainLink } from '../frames/index.ts'
import { startingColours, startingStyles } from '../palette/index.ts'
import { emptyHostScript } from '../scripts/index.ts'
import { collections } from './collections.ts'
import { pixelsPerMm, type PanelProfile } from './profile.ts'
import { conductSettings, currentForm, pageSettings, type Project } from './types.ts'

/** The typefaces a new project begins with: name and the SHA-256 of the font file. */
export interface BundledTypeface {
  id: `typeface:${string}`
  name: string
  asset: string
  embedding?: Embedding
}

/** Defaults for unknown facts of a font file and its fallback. */
export const typefaceDefaults = { fallback: '', embedding: 'unsaid', weightFrom: 0, weightTo: 0 } as const

/** Background of a new page. */
export const pageGround: Face = { ...noFace, fill: 'colour:ground' }

/** Which of the typefaces a project begins with is the bold one and the one for figures; the first, where there is none such. */
function facesOf(typefaces: readonly BundledTypeface[]): { plain: string; bold: string; mono: string } {
  const [first] = typefaces
  const named = (part: string) => (typefaces.find((t) => t.name.toLowerCase().includes(part)) ?? first)?.id ?? ''
  return { plain: first?.id ?? '', bold: named('bold'), mono: named('mono') }
}

/** An empty project with one page. */
export function freshProject(
  name: string,
  panel: PanelProfile,
  typefaces: readonly BundledTypeface[],
  random: Random = seededRandom(1),
): Project {
  const page = newId('page', random)
  const styles = startingStyles(pixelsPerMm(panel), facesOf(typefaces))
  return withAllCollections({
    format: currentForm,
    name,
    note: '',
    panel,
    link: plainLink,
    layout: lampBinary,
    pages: {
      [page]: {
        id: page,
        kind: 'page',
        number: 1,
        name: 'Page 1',
        note: '',
        ...pageSettings.defaults,
        background: pageGround,
        widgets: [],
      },
    } as Record<PageId, Project['pages'][PageId]>,
    pageOrder: [page],
    startPage: page,
    widgets: {},
    variables: {},
    variableOrder: [],
    typefaces: Object.fromEntries(typefaces.map((t) => [t.id, { ...typefaceDefaults, ...t }])),
    typefaceOrder: typefaces.map((t) => t.id),
    faces: {},
    faceOrder: [],
    pictures: {},
    pictureOrder: [],
    colours: Object.fromEntries(startingColours.map((c) => [c.id, { ...c }])),
    colourOrder: startingColours.map((c) => c.id),
    styles: Object.fromEntries(styles.map((style) => [style.id, style])),
    styleOrder: styles.map((style) => style.id),
    looks: 'night',
    conduct: conductSettings.defaults,
    host: emptyHostScript,
    exchanges: {},
    exchangeOrder: [],
    commands: {},
    commandOrder: [],
    spent: { lastNumbers: { pages: 1, styles: styles.length }, numbers: {}, addresses: {} },
  })
}

/** A project with what a collection begins with that it has not. */
function withAllCollections(project: Project): Project {
  const whole: Record<string, unknown> = { ...project }
  for (const { path, order, before = [] } of collections()) {
    if (path.length !== 1 || path[0] in whole) continue
    whole[path[0]] = Object.fromEntries(before.map((record) => [record.id, record]))
    if (order !== null) whole[order] = before.map(({ id }) => id)
  }
  return whole as unknown as Project
}
