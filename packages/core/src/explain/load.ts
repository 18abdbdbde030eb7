import { bytesUs } from '../frames/index.ts'
import { bookOf, type Project } from '../project/index.ts'
import { protocolFor } from '../protocols/index.ts'
import { framesOfVariable } from './catalogue.ts'

/** Bytes a second that go over the line by themselves: what the simulated host sends again and again, and the panel's answers to it. */
export interface Load {
  toPanel: number
  toHost: number
}

export function loadOf(project: Project): Load {
  const protocol = protocolFor(project.layout, bookOf(project))
  const load = { toPanel: 0, toHost: 0 }
  if (!protocol.ok) return load
  const done = protocol.value.encode('to host', { operation: 'done', sequence: 1, address: project.panel.memoryFrom })
  for (const id of project.host.quantityOrder) {
    const { variable: of, everyMs } = project.host.quantities[id]!.settings
    const variable = project.variables[of as keyof typeof project.variables]
    const write = variable && framesOfVariable(project, variable).find((f) => f.operation === 'write')
    if (!write || everyMs <= 0) continue
    load.toPanel += (write.bytes.length * 1000) / everyMs
    if (done.ok && project.link.answers === 'always') load.toHost += (done.value.length * 1000) / everyMs
  }
  return load
}

/** The share of the line's time that is in use in its busier direction at a speed, 0 and up: above 1 it cannot all be said. */
export const shareAt = (load: Load, project: Project, baud: number): number =>
  bytesUs({ ...project.link, baud }, Math.max(load.toPanel, load.toHost)) / 1_000_000
