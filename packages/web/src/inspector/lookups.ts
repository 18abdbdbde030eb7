import type { VariableId } from '@moth-lamp/core/base'
import type { FormField } from '@moth-lamp/core/describe'
import type { Project, Widget } from '@moth-lamp/core/project'
import { ownWordById, type Holds } from '@moth-lamp/core/variables'
import { widgetKind } from '@moth-lamp/core/widgets'

/** What a variable or an own word holds, by its id; null where there is none. */
export const holdsOf = (project: Project, id: unknown): Holds | null =>
  project.variables[id as VariableId]?.holds ?? ownWordById.get(String(id))?.holds ?? null

/** The setting of a widget under a key, as its kind describes it; null where it has none. */
export const fieldOf = (widget: Widget | undefined, key: string): FormField | null =>
  (widget && widgetKind(widget.kind)?.settings.list.find((f) => f.key === key)) ?? null
