import { letteringOf, type Lettering } from '../artwork/index.ts'
import { canonicalJson, type Problem } from '../base/index.ts'
import { letterSpecOf, withSettings, type Assets, type Project, type Widget } from '../project/index.ts'
import type { ArtworkPlan, Build } from '../compile/index.ts'
import type { Rule } from '../rules/index.ts'
import type { FontSetting } from '../settings/index.ts'
import { systemVariable, type Holds } from '../variables/index.ts'
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

/** Input of the checks. Typefaces are read once. */
export interface View {
  project: Project
  /** The letters of a font; null where its file is not there or cannot be read. */
  lettering(font: FontSetting): Lettering | null
  /** Chunks that could not be made, by the asset they need. */
  chunkProblems: readonly { asset: string; problem: Problem }[]
  /** Its flash layout, once known. */
  plan: ArtworkPlan | null
}

export type Check = (view: View) => Finding[]

/** Reads font files once and gives views of successive states of a project. */
export class Viewer {
  private letterings = new Map<string, Lettering | null>()

  constructor(private assets: Assets) {}

  view(project: Project, build: Pick<Build, 'problems' | 'plan'> | null = null): View {
    return {
      project: withSettings(project),
      chunkProblems: build?.problems ?? [],
      plan: build?.plan ?? null,
      lettering: (font) => {
        const spec = letterSpecOf(project, font)
        if (!spec) return null
        const key = canonicalJson({ ...spec, px: 0, bits: 8 })
        let found = this.letterings.get(key)
        if (found === undefined) {
          const files = [spec.asset, ...spec.fallbacks]
          const read = letteringOf(spec, (sha) => this.assets.get(sha) ?? null)
          found = read.ok ? read.value : null
          // A file that is not there yet may come.
          if (files.every((sha) => this.assets.get(sha))) this.letterings.set(key, found)
        }
        return found
      },
    }
  }
}

export const rulesOf = (widget: Widget): readonly Rule[] => rawOf(widget).rules ?? []

/** The type of a variable of a project or of an own word of its panel, by its id; null where there is none such. */
export const holdsIn =
  (project: Project) =>
  (id: string): Holds | null =>
    project.variables[id as keyof typeof project.variables]?.holds ?? systemVariable(id)?.holds ?? null

/** An actor: a widget that is touched, a page, the panel by itself; `at`: where it is found. */
export interface DoerOf {
  at: string
  name: string
  rules: readonly Rule[]
}

/** All that do something, widgets first. */
export const doersOf = (project: Project): DoerOf[] => [
  ...widgetsOf(project).map((w) => ({ at: w.id as string, name: w.name, rules: rulesOf(w) })),
  ...Object.values(project.pages).map(({ id, name, rules }) => ({ at: id as string, name, rules })),
  { at: '', name: 'The panel', rules: project.conduct.rules },
]

/** All widgets, page by page, bottom to top. */
export const widgetsOf = (project: Project): Widget[] =>
  project.pageOrder.flatMap((id) => project.pages[id]!.widgets.map((w) => project.widgets[w]!))

export const glassOf = ({ panel }: Project) => ({ x: 0, y: 0, width: panel.width, height: panel.height })

/** The tail of an id, for an id of something that a fix makes for it: the same fix always makes the same id. */
export const tailOf = (id: string): string => id.slice(id.indexOf(':') + 1)
