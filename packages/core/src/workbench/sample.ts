import { mustHold, type PageId, type Rect } from '../base/index.ts'
import { compounds } from '../compounds/index.ts'
import type { Values } from '../describe/index.ts'
import { freshProject, passGate, pixelsPerMm, plainPanel, type Assets, type Project } from '../project/index.ts'
import { extremeOf, isNumber, type Holds, type Value } from '../variables/index.ts'
import { boundKey, widgetKind } from '../widgets/index.ts'
import type { Chunks } from '../artwork/index.ts'
import { Workbench } from './workbench.ts'

export const samplePage: PageId = 'page:sample'

/** So that a picture of a kind is of its middle: what stands at its start looks like nothing. */
const share = 0.62

const valueOf = (holds: Holds): Value =>
  isNumber(holds) ? Math.round(holds.min + (Math.min(holds.max, 999) - holds.min) * share) : extremeOf(holds, 'most')

const sampleVariable = 'variable:sample'

/** Parts of a sample: widgets in a box of its size, and what their variable holds. */
interface Sample {
  width: number
  height: number
  holds: Holds | undefined
  initial: Value | undefined
  widgets: { kind: string; place: Rect; settings: Values }[]
}

/** A kind, or a compound, of that name, untouched; null where there is none. */
function sampleOf(name: string): Sample | null {
  const compound = compounds.find((c) => c.compound === name)
  if (compound) {
    const { holds } = compound
    const { width, height } = compound.size(holds)
    const made = { place: { x: 0, y: 0, width, height }, variable: sampleVariable, holds, words: 'Pump', keypad: '' }
    const initial = holds.type === 'flags' ? 5 : valueOf(holds)
    return { width, height, holds, initial, widgets: compound.parts(made) }
  }
  const kind = widgetKind(name)
  if (!kind) return null
  const [width, height] = [Math.max(16, kind.size.width), Math.max(16, kind.size.height)]
  const { settings = {}, variable } = kind.fresh?.() ?? {}
  const given = kind.picture?.(sampleVariable)
  const holds = given?.holds ?? variable
  const key = boundKey(name)
  const bound = holds && !given && key ? { [key]: sampleVariable } : {}
  return {
    width,
    height,
    holds,
    initial: given?.value ?? (holds && valueOf(holds)),
    widgets: [{ kind: name, place: { x: 0, y: 0, width, height }, settings: { ...settings, ...bound, ...given?.settings } }],
  }
}

/** A project with a kind or a compound, untouched, on a glass of its size, in the colours and type of another project. */
export function sampleProject(project: Project, name: string): Project | null {
  const sample = sampleOf(name)
  if (!sample) return null
  const { width, height, holds, initial, widgets } = sample
  const typefaces = project.typefaceOrder.map((id) => project.typefaces[id]!)
  const diagonalInches = Math.max(0.5, Math.sqrt(width * width + height * height) / pixelsPerMm(project.panel) / 25.4)
  const { colours, colourOrder, styles, styleOrder, looks } = project
  // Its variable has room, however little the module has.
  const { memoryFrom, memoryTo, ownFrom } = plainPanel
  const panel = { ...project.panel, memoryFrom, memoryTo, ownFrom, width, height, diagonalInches }
  let at: Project = {
    ...freshProject('sample', panel, typefaces),
    colours,
    colourOrder,
    styles,
    styleOrder,
    looks,
  }
  let n = 0
  const edit = (edit: string, args: unknown) =>
    (at = mustHold(passGate(at, { changeId: `change:sample${++n}`, edit, args })).project)
  edit('add page', { id: samplePage, after: '', name: 'sample' })
  edit('add widgets', {
    page: samplePage,
    after: '',
    ...(holds ? { variables: [{ id: sampleVariable, name: 'sample', values: { holds, initial, travels: 'both' } }] } : {}),
    widgets: widgets.map((widget, k) => ({ id: `widget:sample-${k}`, ...widget })),
  })
  return at
}

/** A kind or a compound on a panel of its own, as its picture shows it; null where there is none of that name. */
export function sampleBench(project: Project, name: string, assets: Assets, chunks?: Chunks): Workbench | null {
  const sample = sampleProject(project, name)
  if (!sample) return null
  const bench = new Workbench(sample, assets, 7, chunks)
  const { memory } = bench.rig.panel
  memory.setOwn('look', project.looks === 'day' ? 1 : 0)
  memory.setOwn('clock', 75_840)
  memory.setOwn('date', 9418)
  const cell = bench.build.header.cells[0]?.cell
  if (cell && widgetKind(name)?.samplesEveryMs)
    // Something must have happened for it to be seen.
    for (let k = 0; k < 40; k++) {
      memory.write(cell, 4 + ((k * 7) % 12))
      bench.advance(100_000)
    }
  return bench
}
