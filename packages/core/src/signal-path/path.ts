import type { VariableId } from '../base/index.ts'
import { framesOfVariable, framesOfWidget, type FrameExample } from '../explain/index.ts'
import { collectionOfId, pixelsPerMm, recordsOf, usersOf, type Project, type Variable, type Widget } from '../project/index.ts'
import { refsOfRule, ruleSentence } from '../rules/index.ts'
import { systemIndex, systemVariable, wordsOf, type PlacedVariable, type Value } from '../variables/index.ts'
import { rawOf, widgetKind } from '../widgets/index.ts'

export type Selection = { kind: 'widget'; id: string } | { kind: 'variable'; id: string }

/** A stop of the path that a variable is. */
export interface VariableStop {
  id: string
  name: string
  address: number
  words: number
  variable: Variable | null
  own: PlacedVariable | null
  /** Names of what else uses it. */
  alsoOn: string[]
}

/** From the glass to the host by one variable (or, without one, by events alone). */
export interface SignalPath {
  widget: Widget | null
  /** Millimetres of the widget on the glass. */
  sizeMm: { width: number; height: number } | null
  /** The setting by which the widget is bound; null for a path that begins at a variable. */
  by: string | null
  touches: string[]
  variable: VariableStop | null
  frames: FrameExample[]
  calls: string[]
}

/** The name of whatever an id names. */
export function nameOfId(project: Project, id: string): string {
  const collection = collectionOfId(id)
  const records = collection && recordsOf(project, collection)
  const record = records && Object.hasOwn(records, id) ? records[id] : undefined
  if (record) return collection?.name?.(record) ?? (record as { name?: string }).name ?? id
  return systemVariable(id)?.name ?? id
}

/** The paths of a selection; a widget without any binding has one path that ends at the glass. */
export function signalPaths(project: Project, selection: Selection, now?: (id: string) => Value | undefined): SignalPath[] {
  if (selection.kind === 'variable') {
    const stop = variableStop(project, selection.id, null)
    return stop
      ? [
          {
            widget: null,
            sizeMm: null,
            by: null,
            touches: touchesOn(project, selection.id),
            variable: stop,
            ...wire(project, stop, null, now),
          },
        ]
      : []
  }
  const widget = project.widgets[selection.id as keyof typeof project.widgets]
  if (!widget) return []
  const px = pixelsPerMm(project.panel)
  const sizeMm = { width: widget.place.width / px, height: widget.place.height / px }
  const rules = rawOf(widget).rules ?? []
  const touches = rules.map((a) => ruleSentence(a, (id) => nameOfId(project, id)))
  const bindings = bindingsOf(widget)
  if (!bindings.length) return [{ widget, sizeMm, by: null, touches, variable: null, ...wire(project, null, widget, now) }]
  return bindings.map(({ id, label }) => {
    const stop = variableStop(project, id, widget.id)
    return { widget, sizeMm, by: label, touches, variable: stop, ...wire(project, stop, widget, now) }
  })
}

/** The variables a widget is bound to, each once, with the name of the setting that does it. */
function bindingsOf(widget: Widget): { id: string; label: string }[] {
  const seen = new Map<string, string>()
  for (const { ref, field } of widgetKind(widget.kind)?.settings.refs(widget.settings) ?? [])
    if (ref.to.startsWith('variable:') && !seen.has(ref.to)) seen.set(ref.to, field.label)
  return [...seen].map(([id, label]) => ({ id, label }))
}

function variableStop(project: Project, id: string, except: string | null): VariableStop | null {
  const variable = project.variables[id as VariableId] ?? null
  const own = systemVariable(id) ?? null
  if (!variable && !own) return null
  const alsoOn = [
    ...new Set(
      usersOf(project, id)
        .filter((u) => u.from !== except)
        .map((u) => nameOfId(project, u.from)),
    ),
  ]
  return variable
    ? { id, name: variable.name, address: variable.address, words: wordsOf(variable.holds), variable, own: null, alsoOn }
    : {
        id,
        name: own!.name,
        address: project.panel.ownFrom + own!.offset,
        words: wordsOf(own!.holds),
        variable: null,
        own,
        alsoOn,
      }
}

/** Sentences of the touches that have to do with a variable, with the name of the widget. */
const touchesOn = (project: Project, id: string): string[] =>
  [...new Set(usersOf(project, id).map(({ from }) => from))].flatMap((from) => {
    const widget = project.widgets[from as keyof typeof project.widgets]
    const rules = (widget && rawOf(widget).rules) ?? []
    return rules
      .filter((rule) => refsOfRule(rule).some(({ to }) => to === id))
      .map((rule) => `${widget!.name}, ${ruleSentence(rule, (other) => nameOfId(project, other))}`)
  })

function wire(
  project: Project,
  stop: VariableStop | null,
  widget: Widget | null,
  now?: (id: string) => Value | undefined,
): { frames: FrameExample[]; calls: string[] } {
  const own = stop?.own
  const variable: Variable | null =
    stop?.variable ??
    (own
      ? {
          id: own.id,
          number: systemIndex(own),
          name: own.name,
          meaning: own.meaning,
          holds: own.holds,
          address: stop!.address,
          travels: own.writable ? 'both' : 'panel to host',
          initial: 0,
          stale: null,
          order: 'as panel',
        }
      : null)
  const value = variable ? (now?.(variable.id) ?? variable.initial) : 0
  const frames = [
    ...(variable
      ? framesOfVariable(project, variable, value).filter((f) => f.operation === 'write' || f.operation === 'report')
      : []),
    ...(widget ? framesOfWidget(project, widget) : []),
  ]
  return { frames, calls: [...new Set(frames.map((f) => f.call))] }
}
