import { Spotlight, type SpotlightActionGroupData } from '@mantine/spotlight'
import { Search } from 'lucide-react'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { formatAddress } from '@moth-lamp/core/variables'
import { takesFocus } from '../controls/focus.ts'
import { freshId } from '../session/chance.ts'
import { addOffered, offeredCompounds, offeredKinds } from '../commands/add-commands.ts'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import { stations } from '../shell/station-list.ts'
import styles from './finder.module.css'

/** Finds any page, widget, variable, exchange or station by a part of its name, and anything that can be done from anywhere. */
export function Finder({ onKeys }: { onKeys(): void }) {
  const [open, setOpen] = useState(false)
  const groups = useFindable(open, onKeys)
  return (
    <Spotlight
      actions={groups}
      onSpotlightOpen={() => setOpen(true)}
      onSpotlightClose={() => setOpen(false)}
      shortcut={['mod + K']}
      tagsToIgnore={[]}
      limit={60}
      scrollable
      maxHeight={430}
      highlightQuery
      nothingFound="No match"
      transitionProps={{ duration: 0 }}
      attributes={{ content: { 'aria-label': 'Search and commands' } }}
      classNames={{ actionDescription: styles.description! }}
      searchProps={{
        ref: takesFocus,
        leftSection: <Search size={16} />,
        placeholder: 'Search pages, widgets, variables, exchanges and commands …',
        'aria-label': 'Search pages, widgets, variables, exchanges and commands',
      }}
    />
  )
}

/** What there is to be found, while somebody looks for it. */
function useFindable(open: boolean, onKeys: () => void): SpotlightActionGroupData[] {
  const session = useSession()
  const project = useStore(session.document, (d) => (open ? d.project : null))
  const navigate = useNavigate()
  return useMemo(() => {
    if (!project) return []
    const to = (station: string) => void navigate(`/project/${session.id}/${station}`)
    const page = () =>
      project.pages[session.view.value.page as keyof typeof project.pages] ?? project.pages[project.pageOrder[0]!]!
    const item = (id: string, label: string, description: string, onClick: () => void) => ({ id, label, description, onClick })
    return [
      {
        group: 'Commands',
        actions: [
          item('do undo', 'Undo', 'Ctrl Z', session.undo),
          item('do redo', 'Redo', 'Ctrl Y', session.redo),
          item('do lamp', 'Edit or Run', 'switches the mode, L', () =>
            session.view.set({ lamp: session.view.value.lamp === 'edit' ? 'touch' : 'edit' }),
          ),
          item('do columns', 'Hide or show side panels', 'C', () => session.view.set({ columns: !session.view.value.columns })),
          item('do power', 'Power cycle', 'restarts panel and host', () => session.worker.send({ type: 'restart' })),
          item('do variable', 'New variable', 'with a free address', () => {
            const id = freshId('variable')
            if (session.edit('add variable', { id, after: '' })) session.view.set({ variable: id })
            to('variables')
          }),
          item('do page', 'New page', 'after the current page', () => {
            const id = freshId('page')
            if (session.edit('add page', { id, after: page().id, kind: 'page' })) session.view.set({ page: id, widgets: [] })
            to('pages')
          }),
          item('do freeze', 'Reserve all addresses', 'never reassigned automatically', () => session.edit('spend addresses', {})),
          item('do keys', 'Keyboard shortcuts', '?', onKeys),
          item('do shelf', 'All projects', 'closes this one', () => void navigate('/')),
          ...[...offeredKinds(), ...offeredCompounds()].map(({ name, label, meaning }) =>
            item(`add ${name}`, `Add: ${label.toLowerCase()}`, meaning, () => {
              to('pages')
              addOffered(session, page(), name)
            }),
          ),
        ],
      },
      { group: 'Stations', actions: stations.map((s) => item(`to ${s.path}`, s.name, 'station', () => to(s.path))) },
      {
        group: 'Pages',
        actions: project.pageOrder.map((id) =>
          item(id, project.pages[id]!.name, `${project.pages[id]!.kind} ${project.pages[id]!.number}`, () => {
            session.view.set({ page: id, widgets: [] })
            to('pages')
          }),
        ),
      },
      {
        group: 'Variables',
        actions: project.variableOrder.map((id) => {
          const { name, address } = project.variables[id]!
          return item(id, name, `variable at ${formatAddress(address)}`, () => {
            session.view.set({ variable: id })
            to('variables')
          })
        }),
      },
      {
        group: 'Exchanges',
        actions: project.exchangeOrder.map((id) => item(id, project.exchanges[id]!.name, 'exchange', () => to('exchanges'))),
      },
      {
        group: 'Widgets',
        actions: Object.values(project.widgets).map((w) =>
          item(w.id, w.name, `${w.kind} on ${project.pages[w.page]!.name}`, () => {
            session.view.set({ page: w.page, widgets: [w.id] })
            to('pages')
          }),
        ),
      },
    ]
  }, [project, session, navigate, onKeys])
}
