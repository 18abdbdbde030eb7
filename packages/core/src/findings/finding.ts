import type { Problem } from '../base/index.ts'
import { readTypeface, type Typeface } from '../artwork/index.ts'
import { withSettings, type Assets, type Project, type Widget } from '../project/index.ts'
import type { Action } from '../rules/index.ts'
import { rawOf } from '../widgets/index.ts'

export type Severity = 'error' | 'warning' | 'advice'
export type FindingStation = 'Panel' | 'Artwork' | 'Pages' | 'Variables' | 'Frames' | 'Exchanges'

/** Something noticed, where it is, and where possible an edit that mends it. */
export interface Finding {
  code: string
  severity: Severity
  station: FindingStation
  /** Id of the widget, variable or page; '' for the layout or panel. */
  at: string
  facts: Problem['facts']
  fix: { label: string; edit: string; args: Record<string, unknown> } | null
}

/** What checks look at. Typefaces are read once. */
export interface View {
  project: Project
  typeface(id: string): Typeface | null
  /** Chunks that could not be made, by the asset they need. */
  chunkProblems: readonly { asset: string; problem: Problem }[]
}

export type Check = (view: View) => Finding[]

/** Reads font files once and gives views of successive states of a project. */
export class Viewer {
  private typefaces = new Map<string, Typeface | null>()

  constructor(private assets: Assets) {}

  view(project: Project, chunkProblems: View['chunkProblems'] = []): View {
    return {
      project: withSettings(project),
      chunkProblems,
      typeface: (id) => {
        const asset = project.typefaces[id as keyof typeof project.typefaces]?.asset ?? ''
        let found = this.typefaces.get(asset)
        if (found === undefined) {
          const bytes = this.assets.get(asset)
          const read = bytes ? readTypeface(bytes) : null
          found = read?.ok ? read.value : null
          // A file that is not there yet may come.
          if (bytes) this.typefaces.set(asset, found)
        }
        return found
      },
    }
  }
}

export const actionsOf = (widget: Widget): readonly Action[] => rawOf(widget).actions ?? []

/** All widgets, page by page, bottom to top. */
export const widgetsOf = (project: Project): Widget[] =>
  project.pageOrder.flatMap((id) => project.pages[id]!.widgets.map((w) => project.widgets[w]!))

export const glassOf = ({ panel }: Project) => ({ x: 0, y: 0, width: panel.width, height: panel.height })

/** The tail of an id, for an id of something that a fix makes for it: the same fix always makes the same id. */
export const tailOf = (id: string): string => id.slice(id.indexOf(':') + 1)
