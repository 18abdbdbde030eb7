import type { ReactNode } from 'react'
import type { Project } from '@moth-lamp/core/project'
import { ownWordsOf } from '@moth-lamp/core/project'
import { freshHolds, type HoldsType } from '@moth-lamp/core/variables'
import { freshId, type Session } from '../session/session.ts'

interface VariableProps {
  session: Session
  project: Project
  value: string
  onChange(id: string): void
  label: string
  accepts?: readonly HoldsType[] | undefined
  /** Offers to make a variable by this name, which is bound at once. */
  makes?: string | undefined
}

/** Any variable of the project, the panel's own words, or a new one. */
export function VariablePicker({ session, project, value, onChange, label, accepts, makes }: VariableProps) {
  const fits = (type: HoldsType) => !accepts?.length || accepts.includes(type)
  const make = () => {
    const id = freshId('variable')
    const name =
      (makes ?? 'value')
        .toLowerCase()
        .replaceAll(/[^a-z0-9]+/g, '_')
        .replace(/^[^a-z]+|_+$/g, '')
        .slice(0, 24) || 'value'
    if (session.edit('add variable', { id, name, values: { holds: freshHolds(accepts?.[0] ?? 'u16'), travels: 'both' } }))
      onChange(id)
  }
  return (
    <select
      className="field"
      aria-label={label}
      value={value}
      onChange={(e) => (e.target.value === '+' ? make() : onChange(e.target.value))}
    >
      <option value="">none</option>
      {makes !== undefined && <option value="+">+ a new variable</option>}
      <optgroup label="Variables">
        {project.variableOrder
          .map((id) => project.variables[id]!)
          .filter((v) => fits(v.holds.type))
          .map((v) => (
            <option key={v.id} value={v.id}>
              {v.name}
            </option>
          ))}
      </optgroup>
      <optgroup label="The panel’s own words">
        {ownWordsOf(project.panel)
          .filter((w) => fits(w.holds.type))
          .map((w) => (
            <option key={w.id} value={w.id}>
              {w.name}
            </option>
          ))}
      </optgroup>
    </select>
  )
}

interface ListProps {
  project: Project
  value: string
  onChange(id: string): void
  label: string
}

/** A list that may also say none. */
function OptionalList({ value, onChange, label, children }: Omit<ListProps, 'project'> & { children: ReactNode }) {
  return (
    <select className="field" aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      <option value="">none</option>
      {children}
    </select>
  )
}

/** A page of one of some kinds: pages, layers, keypads. What stands there already is offered, whatever it is. */
export function PagePicker({ project, accepts, ...list }: ListProps & { accepts?: readonly string[] | undefined }) {
  const fits = (id: keyof typeof project.pages) => !accepts || accepts.includes(project.pages[id]!.kind) || id === list.value
  return (
    <OptionalList {...list}>
      {project.pageOrder.filter(fits).map((id) => (
        <option key={id} value={id}>
          {project.pages[id]!.name}
        </option>
      ))}
    </OptionalList>
  )
}

/** A widget by its page and name. */
export function WidgetPicker({ project, ...list }: ListProps) {
  return (
    <OptionalList {...list}>
      {project.pageOrder.map((page) => (
        <optgroup key={page} label={project.pages[page]!.name}>
          {project.pages[page]!.widgets.map((id) => (
            <option key={id} value={id}>
              {project.widgets[id]!.name}
            </option>
          ))}
        </optgroup>
      ))}
    </OptionalList>
  )
}
