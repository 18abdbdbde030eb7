import { useInSentence } from './sentence.tsx'
import { ActionIcon, Group } from '@mantine/core'
import type { Project } from '@moth-lamp/core/project'
import { systemVariablesOf } from '@moth-lamp/core/project'
import { formatAddress, formatValue, freshHolds, type Holds, type HoldsType, type Value } from '@moth-lamp/core/variables'
import { Plus } from 'lucide-react'
import { freshId } from '../session/chance.ts'
import type { Session } from '../session/session.ts'
import { useStore } from '../session/store.ts'
import { Choice, type Option } from './choice.tsx'

interface VariableProps {
  session: Session
  project: Project
  value: string
  onChange(id: string): void
  label: string
  accepts?: readonly HoldsType[] | undefined
  /** Offers to make a variable by this name, which is bound at once. */
  makes?: string | undefined
  /** The type and the start value of a variable that is made; without it the first type that fits. */
  fresh?: { holds: Holds; initial?: Value } | undefined
}

const none: Option = { value: '', label: 'none' }

/** A name a variable may have, of whatever someone called a thing. */
const nameFor = (words: string): string =>
  words
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '_')
    .replace(/^[^a-z]+|_+$/g, '')
    .slice(0, 24) || 'value'

/** Any variable of the project that fits, with its address and value now; the panel's own words; and beside it, a new one. */
export function VariablePicker({ session, project, value, onChange, label, accepts, makes, fresh }: VariableProps) {
  const values = useStore(session.live, (l) => l.values)
  const inSentence = useInSentence()
  const fits = (type: HoldsType) => !accepts?.length || accepts.includes(type)
  const make = () => {
    const id = freshId('variable')
    const start = fresh ?? { holds: freshHolds(accepts?.[0] ?? 'u16') }
    if (session.edit('add variable', { id, name: nameFor(makes ?? 'value'), values: { ...start, travels: 'both' } })) onChange(id)
  }
  const variables = project.variableOrder
    .map((id) => project.variables[id]!)
    // The one that is there is shown, also where its type does not fit any more.
    .filter((v) => fits(v.holds.type) || v.id === value)
    .map((v) => {
      const now = values[v.id]
      const odd = fits(v.holds.type) ? '' : 'does not fit: '
      const detail = `${odd}${v.holds.type} ${formatAddress(v.address)}${now ? ` ${formatValue(v.holds, now.value)}` : ''}`
      return { value: v.id, label: v.name, detail, group: 'Variables' }
    })
  const own = systemVariablesOf(project.panel)
    .filter((w) => fits(w.holds.type))
    .map((w) => ({ value: w.id, label: w.name, detail: w.meaning, group: 'System variables' }))
  const list = <Choice label={label} value={value} options={[none, ...variables, ...own]} searchable onChange={onChange} />
  if (makes === undefined) return list
  return (
    <Group gap={inSentence ? 1 : 4} wrap="nowrap">
      <div className="grow">{list}</div>
      <ActionIcon
        {...(inSentence ? { size: 17, variant: 'subtle' } : { size: 25 })}
        aria-label={`${label}: a new variable`}
        title="New variable"
        onClick={make}
      >
        <Plus size={14} />
      </ActionIcon>
    </Group>
  )
}

interface ListProps {
  project: Project
  value: string
  onChange(id: string): void
  label: string
}

/** A page of one of some kinds: pages, layers, pop-ups, keypads. What stands there already is offered, whatever it is. */
export function PagePicker({ project, accepts, ...list }: ListProps & { accepts?: readonly string[] | undefined }) {
  const fits = (id: keyof typeof project.pages) => !accepts || accepts.includes(project.pages[id]!.kind) || id === list.value
  const pages = project.pageOrder.filter(fits).map((id) => {
    const { name, kind, number } = project.pages[id]!
    return { value: id, label: name, detail: kind === 'page' ? `page ${number}` : kind }
  })
  return <Choice {...list} options={[none, ...pages]} />
}

const senderTexts = { host: 'host → panel', panel: 'panel → host', both: 'both ways' } as const

/** A command, with the way it goes. */
export function CommandPicker({ project, ...list }: ListProps) {
  const commands = project.commandOrder.map((id) => {
    const { name, sender } = project.commands[id]!
    return { value: id, label: name, detail: senderTexts[sender] }
  })
  return <Choice {...list} options={[none, ...commands]} searchable />
}

/** A widget by its page and name. */
export function WidgetPicker({ project, ...list }: ListProps) {
  const widgets = project.pageOrder.flatMap((page) =>
    project.pages[page]!.widgets.map((id) => {
      const { name, kind } = project.widgets[id]!
      return { value: id, label: name, detail: kind, group: project.pages[page]!.name }
    }),
  )
  return <Choice {...list} options={[none, ...widgets]} searchable />
}
