import type { Values } from '../describe/index.ts'
import type { WidgetId } from '../base/index.ts'
import type { Project, Widget } from './types.ts'

// A linked copy stores the id of its original and the settings that are its own; what it does not say is as the original
// has it. An original is never a copy itself. Only what stands here reads the two together.

type Widgets = Readonly<Record<WidgetId, Widget>>

/** All settings of a widget: of a linked copy those of its original under its own. New at each call for a copy. */
export const settingsOf = (widgets: Widgets, widget: Widget): Values =>
  widget.like === '' ? widget.settings : { ...widgets[widget.like]?.settings, ...widget.settings }

/** The copies that are linked to a widget, in the order of the record map. */
export const copiesOf = (widgets: Widgets, id: WidgetId): Widget[] => Object.values(widgets).filter((w) => w.like === id)

const made = new WeakMap<Widget, { like: Widget; whole: Widget }>()

/** A copy with all its settings; the same object for as long as it and its original are the same. */
function wholeOf(copy: Widget, original: Widget): Widget {
  const known = made.get(copy)
  if (known?.like === original) return known.whole
  const whole = { ...copy, settings: { ...original.settings, ...copy.settings } }
  made.set(copy, { like: original, whole })
  return whole
}

const projects = new WeakMap<Project, Project>()
const maps = new WeakMap<Project['widgets'], Project['widgets']>()

function wholeWidgets(widgets: Project['widgets']): Project['widgets'] {
  let out = maps.get(widgets)
  if (out) return out
  const copies: Widget[] = []
  for (const widget of Object.values(widgets)) if (widget.like !== '' && Object.hasOwn(widgets, widget.like)) copies.push(widget)
  out = copies.length
    ? { ...widgets, ...Object.fromEntries(copies.map((w) => [w.id, wholeOf(w, widgets[w.like as WidgetId]!)])) }
    : widgets
  maps.set(widgets, out)
  return out
}

/**
 * The document in which every widget has all its settings: what is compiled, checked and shown. The same object where nothing
 * is linked; never to be stored, or a copy would keep what is its original's.
 */
export function withSettings(project: Project): Project {
  const known = projects.get(project)
  if (known) return known
  const widgets = wholeWidgets(project.widgets)
  const out = widgets === project.widgets ? project : { ...project, widgets }
  projects.set(project, out)
  if (out !== project) projects.set(out, out)
  return out
}
