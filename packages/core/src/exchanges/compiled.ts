import { contextOf } from '../compile/index.ts'
import { CellTable, type Project } from '../project/index.ts'
import { stepKind, type CompiledStep, type Exchange } from '../scripts/index.ts'

export interface CompiledExchange {
  seed: number
  allowsOthers: boolean
  steps: CompiledStep[]
}

/** Resolves widgets to numbers, pages to numbers, variables to cells. What is missing becomes null: its step fails. */
export function compileExchange(project: Project, exchange: Exchange, cells = new CellTable()): CompiledExchange {
  const context = contextOf(project, cells)
  const steps = exchange.stepOrder.map((id) => {
    const { kind, settings } = exchange.steps[id]!
    return { id, kind, settings: stepKind(kind).settings.compile(settings, context) } as CompiledStep
  })
  return { seed: exchange.seed, allowsOthers: exchange.allowsOthers, steps }
}
