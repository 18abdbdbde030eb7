import { newId, seededRandom, type PageId, type Random } from '../base/index.ts'
import { noFace } from '../faces/index.ts'
import { lampBinary, plainLink } from '../frames/index.ts'
import { emptyHostScript } from '../scripts/index.ts'
import type { PanelProfile } from './profile.ts'
import { currentForm, type Project } from './types.ts'

/** The typefaces a new project begins with: name and the SHA-256 of the font file. */
export interface BundledTypeface {
  id: `typeface:${string}`
  name: string
  asset: string
}

/** An empty project with one page. */
export function freshProject(
  name: string,
  panel: PanelProfile,
  typefaces: readonly BundledTypeface[],
  random: Random = seededRandom(1),
): Project {
  const page = newId('page', random)
  return {
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
        name: 'page 1',
        note: '',
        background: { ...noFace, fill: '#131c33' },
        widgets: [],
      },
    } as Record<PageId, Project['pages'][PageId]>,
    pageOrder: [page],
    startPage: page,
    widgets: {},
    variables: {},
    variableOrder: [],
    typefaces: Object.fromEntries(typefaces.map((t) => [t.id, { ...t }])),
    typefaceOrder: typefaces.map((t) => t.id),
    host: emptyHostScript,
    exchanges: {},
    exchangeOrder: [],
    spent: { pageNumber: 1, widgetNumber: 0, addresses: {} },
  }
}
