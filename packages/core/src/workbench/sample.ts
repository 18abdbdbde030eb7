import { mustHold, type PageId } from '../base/index.ts'
import { freshProject, passGate, pixelsPerMm, type Assets, type Project } from '../project/index.ts'
import { extremeOf, isNumber, type Holds, type Value } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'
import type { Chunks } from '../artwork/index.ts'
import { Workbench } from './workbench.ts'

export const samplePage: PageId = 'page:sample'

/** So that a picture of a kind is of its middle: what stands at its start looks like nothing. */
const share = 0.62

const valueOf = (holds: Holds): Value =>
  isNumber(holds) ? Math.round(holds.min + (Math.min(holds.max, 999) - holds.min) * share) : extremeOf(holds, 'most')

/** A project with one widget of a kind, untouched, on a glass of its size, in the colours and type of another project. */
export function sampleProject(project: Project, kind: string): Project | null {
  const found = widgetKind(kind)
  if (!found) return null
  const { width, height } = { width: Math.max(16, found.size.width), height: Math.max(16, found.size.height) }
  const typefaces = project.typefaceOrder.map((id) => project.typefaces[id]!)
  const diagonalInches = Math.max(0.5, Math.sqrt(width * width + height * height) / pixelsPerMm(project.panel) / 25.4)
  const { colours, colourOrder, styles, styleOrder, looks } = project
  let at: Project = {
    ...freshProject('sample', { ...project.panel, width, height, diagonalInches }, typefaces),
    colours,
    colourOrder,
    styles,
    styleOrder,
    looks,
  }
  let n = 0
  const edit = (name: string, args: unknown) =>
    (at = mustHold(passGate(at, { changeId: `change:sample${++n}`, edit: name, args })).project)
  const id = 'variable:sample'
  const { settings = {}, variable } = found.fresh?.() ?? {}
  const given = found.picture?.(id)
  const holds = given?.holds ?? variable
  const initial = given?.value ?? (holds && valueOf(holds))
  edit('add page', { id: samplePage, after: '', name: 'sample' })
  edit('add widgets', {
    page: samplePage,
    after: '',
    ...(holds ? { variables: [{ id, name: 'sample', values: { holds, initial, travels: 'both' } }] } : {}),
    widgets: [
      {
        id: 'widget:sample',
        kind,
        place: { x: 0, y: 0, width, height },
        settings: { ...settings, ...(holds && !given ? { variable: id } : {}), ...given?.settings },
      },
    ],
  })
  return at
}

/** A kind on a panel of its own, as its picture shows it; null where there is no such kind. */
export function sampleBench(project: Project, kind: string, assets: Assets, chunks?: Chunks): Workbench | null {
  const sample = sampleProject(project, kind)
  if (!sample) return null
  const bench = new Workbench(sample, assets, 7, chunks)
  const { memory } = bench.rig.panel
  memory.setOwn('look', project.looks === 'day' ? 1 : 0)
  memory.setOwn('clock', 75_840)
  memory.setOwn('date', 9418)
  const cell = bench.build.header.cells[0]?.cell
  if (cell && widgetKind(kind)?.samplesEveryMs)
    // Something must have happened for it to be seen.
    for (let k = 0; k < 40; k++) {
      memory.write(cell, 4 + ((k * 7) % 12))
      bench.advance(100_000)
    }
  return bench
}
