import type { VariableId } from '@moth-lamp/core/base'
import type { Project } from '@moth-lamp/core/project'
import { ownWordById, type Holds } from '@moth-lamp/core/variables'

/** What a variable or an own word holds, by its id; null where there is none. */
export const holdsOf = (project: Project, id: unknown): Holds | null =>
  project.variables[id as VariableId]?.holds ?? ownWordById.get(String(id))?.holds ?? null
