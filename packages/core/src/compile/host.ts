import type { Layout, LinkSettings } from '../frames/index.ts'
import { bookOf, CellTable, type Project } from '../project/index.ts'
import {
  outputSettings,
  quantityKinds,
  reactionSettings,
  type CompiledOutput,
  type CompiledQuantity,
  sendingSettings,
  type CompiledReaction,
  type CompiledSending,
} from '../scripts/index.ts'
import type { Book } from '../protocols/index.ts'
import { systemVariableNamed, type Cell } from '../variables/index.ts'
import { contextOf } from './context.ts'
import { builtLayout } from './layout.ts'

/** The program of a simulated host. Like a panel's build it holds no ids; `names` are for tools. */
export interface HostBuild {
  link: LinkSettings
  layout: Layout
  book: Book
  synchronises: boolean
  /** Everything that travels, with the value the host begins with. */
  cells: { cell: Cell; name: string; initial: number | string }[]
  version: Cell
  quantities: (CompiledQuantity & { cell: Cell })[]
  reactions: CompiledReaction[]
  outputs: CompiledOutput[]
  sendings: CompiledSending[]
}

/** The simulated host of a project, ready to run. Quantities without a variable are left out. */
export function compileHost(project: Project, cells: CellTable = new CellTable()): HostBuild {
  const context = contextOf(project, cells)
  const { host } = project
  const quantities = host.quantityOrder.flatMap((id) => {
    const { kind, settings } = host.quantities[id]!
    const compiled = { kind, settings: quantityKinds[kind].settings.compile(settings, context) } as CompiledQuantity
    const cell = compiled.settings.variable
    return cell ? [{ ...compiled, cell }] : []
  })
  return {
    link: project.link,
    layout: builtLayout(project.layout),
    book: bookOf(project, cells),
    synchronises: host.synchronises,
    cells: project.variableOrder.map((id) => ({
      cell: context.cell(id)!,
      name: project.variables[id]!.name,
      initial: project.variables[id]!.initial,
    })),
    version: context.cell(systemVariableNamed('version').id)!,
    quantities,
    reactions: host.reactionOrder.map((id) => reactionSettings.compile(host.reactions[id]!.settings, context)),
    outputs: host.outputOrder.map((id) => outputSettings.compile(host.outputs[id]!.settings, context)),
    sendings: host.sendingOrder.map((id) => sendingSettings.compile(host.sendings[id]!.settings, context)),
  }
}
