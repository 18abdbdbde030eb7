import type { WidgetId } from '@moth-lamp/core/base'
import type { FormField } from '@moth-lamp/core/describe'
import { linkSettings } from '@moth-lamp/core/frames'
import { conductSettings, pageSettings, panelSettings, type Page, type Project } from '@moth-lamp/core/project'
import { systemVariables } from '@moth-lamp/core/variables'
import { widgetKind } from '@moth-lamp/core/widgets'
import { addOffered, offeredCompounds, offeredKinds } from '../commands/add-commands.ts'
import { openCalculator } from '../controls/calculator.ts'
import { setFold } from '../controls/disclosure.tsx'
import { freshId } from '../session/chance.ts'
import type { Session } from '../session/session.ts'
import type { ViewState } from '../session/state.ts'
import { stations, type StationPath } from '../shell/station-list.ts'
import { showField } from './show-field.ts'

/** Something that the finder leads to, or does. */
export interface Findable {
  id: string
  group: string
  label: string
  /** Description after its name; it is found by these words too. */
  detail: string
  /** The station that it leads to; '' for a command that works everywhere. */
  station: StationPath | ''
  keys?: string
  address?: number
  run(): void
}

/** All that can be found in a project now, in the order of its groups. */
export function findable(
  session: Session,
  project: Project,
  go: (station: StationPath | '') => void,
  onKeys: () => void,
): Findable[] {
  const view = session.view
  const page = (): Page => project.pages[view.value.page as keyof typeof project.pages] ?? project.pages[project.pageOrder[0]!]!
  return [
    ...commands(session, page, go, onKeys),
    ...stations.map((s, k) => entry('Stations', `to ${s.path}`, s.name, 'station', s.path, () => go(s.path), String(k + 1))),
    ...settings(session, project, page(), go),
    ...project.pageOrder.map((id) => {
      const { name, kind, number } = project.pages[id]!
      return entry('Pages', id, name, `${kind} ${number}`, 'pages', () => {
        view.set({ page: id, widgets: [], column: 'path' })
        go('pages')
      })
    }),
    ...project.variableOrder.map((id) => {
      const { name, address, meaning } = project.variables[id]!
      return withAddress(
        address,
        entry('Variables', id, name, meaning || 'variable', 'variables', () => toVariable(id)),
      )
    }),
    ...systemVariables().map(({ id, name, meaning, offset }) =>
      withAddress(
        project.panel.ownFrom + offset,
        entry('System variables', id, name, meaning, 'variables', () => toVariable(id)),
      ),
    ),
    ...project.exchangeOrder.map((id) =>
      entry('Exchanges', id, project.exchanges[id]!.name, 'exchange', 'exchanges', () => go('exchanges')),
    ),
    ...project.commandOrder.map((id) => {
      const { name, meaning } = project.commands[id]!
      return entry('Project commands', id, name, meaning || 'command', 'frames', () => {
        view.set({ command: id })
        go('frames')
      })
    }),
    ...Object.values(project.widgets).map((w) =>
      entry('Widgets', w.id, w.name, `${kindLabel(w.kind)} on ${project.pages[w.page]!.name}`, 'pages', () => {
        view.set({ page: w.page, widgets: [w.id], column: 'path' })
        go('pages')
      }),
    ),
  ]
  function toVariable(id: string): void {
    view.set({ variable: id })
    go('variables')
  }
}

const entry = (
  group: string,
  id: string,
  label: string,
  detail: string,
  station: StationPath | '',
  run: () => void,
  keys = '',
): Findable => ({ id: `${group} ${id}`, group, label, detail, station, run, ...(keys ? { keys } : {}) })
const withAddress = (address: number, one: Findable): Findable => ({ ...one, address })
const kindLabel = (kind: string): string => widgetKind(kind)?.label.toLowerCase() ?? kind

function commands(session: Session, page: () => Page, go: (station: StationPath | '') => void, onKeys: () => void): Findable[] {
  const { view } = session
  const command = (label: string, detail: string, run: () => void, keys = '', station: StationPath | '' = '') =>
    entry('Commands', label, label, detail, station, run, keys)
  /** Changes the desk where it is seen: while editing. */
  const onDesk = (change: Partial<ViewState>) => {
    go('pages')
    view.set({ lamp: 'edit', ...change })
  }
  return [
    command('Undo', '', session.undo, 'Ctrl Z'),
    command('Redo', '', session.redo, 'Ctrl Y'),
    command('Edit or Run', 'switches the mode', () => view.set({ lamp: view.value.lamp === 'edit' ? 'touch' : 'edit' }), 'L'),
    command('Add a widget', 'list of widgets', () => onDesk({ table: false, column: 'add', columns: true }), 'A', 'pages'),
    command('Table view', 'widgets of the page as a table', () => onDesk({ table: true }), 'T', 'pages'),
    command('Touch areas', 'show or hide', () => onDesk({ table: false, areas: !view.value.areas }), 'S', 'pages'),
    command(
      'Theme',
      'colours and fonts',
      () => (go('pages'), view.set({ widgets: [], column: 'path', tab: 'theme' })),
      '',
      'pages',
    ),
    command('Hide or show side panels', '', () => view.set({ columns: !view.value.columns }), 'C'),
    command('Power cycle', 'restarts panel and host', () => session.worker.send({ type: 'restart' })),
    command(
      'New variable',
      'with a free address',
      () => {
        const id = freshId('variable')
        if (session.edit('add variable', { id, after: '' })) view.set({ variable: id })
        go('variables')
      },
      '',
      'variables',
    ),
    command(
      'New page',
      'after the current page',
      () => {
        const id = freshId('page')
        if (session.edit('add page', { id, after: page().id, kind: 'page' })) view.set({ page: id, widgets: [], tab: 'page' })
        go('pages')
      },
      '',
      'pages',
    ),
    command(
      'Reserve all addresses',
      'never reassigned automatically',
      () => session.edit('spend addresses', {}),
      '',
      'variables',
    ),
    command('Calculator', 'hex, BCD, float, checksums of what is selected', openCalculator, 'Ctrl .'),
    command('Keyboard shortcuts', '', onKeys, '?'),
    command('All projects', 'closes this one', () => go('')),
    ...[...offeredKinds(), ...offeredCompounds()].map(({ name, label, meaning }) =>
      command(
        `Add: ${label.toLowerCase()}`,
        meaning,
        () => {
          go('pages')
          addOffered(session, page(), name)
        },
        '',
        'pages',
      ),
    ),
  ]
}

/** The settings that can be reached from here: of the selection, else of the page; of panel, line and behaviour. */
function settings(session: Session, project: Project, page: Page, go: (station: StationPath) => void): Findable[] {
  const { view } = session
  const setting = (of: string, field: FormField, station: StationPath, run: () => void) =>
    entry('Settings', `${of} ${field.key}`, field.label, `${of} · ${field.group}`, station, () => (run(), go(station)))
  const fieldsOf = (list: readonly unknown[]) => list as readonly FormField[]
  const first = project.widgets[view.value.widgets[0] as WidgetId]
  const selected = first ? (widgetKind(first.kind)?.settings.list ?? []) : []
  const onPanel = (of: string, list: readonly unknown[], fold = '') =>
    fieldsOf(list).map((field) =>
      setting(of, field, 'panel', () => {
        if (fold) setFold(fold, true)
        showField(field.label)
      }),
    )
  return [
    ...fieldsOf(selected).map((field) =>
      setting(first!.name, field, 'pages', () => view.set({ column: 'settings', sought: field.label, columns: true })),
    ),
    ...fieldsOf(pageSettings.list).map((field) =>
      setting(`page ${page.name}`, field, 'pages', () => {
        view.set({ widgets: [], column: 'path', tab: 'page', columns: true })
        setFold(field.group, true)
        showField(field.label)
      }),
    ),
    ...onPanel('panel', panelSettings.list, 'All settings of the panel'),
    ...onPanel('line', linkSettings.list),
    ...onPanel('behaviour', conductSettings.list),
  ]
}

/** So many of a group are listed while nothing is typed, and so many of those that match. */
const [fewest, most] = [4, 12]

/** Matches of a query by group: names that begin with it first, then words that do, then what contains it in name or detail. */
export function found(all: readonly Findable[], query: string): [string, Findable[]][] {
  const words = query.trim().toLowerCase().split(/\s+/).filter(Boolean)
  const rankOf = ({ label, detail, address }: Findable): number => {
    const name = label.toLowerCase()
    const hay = `${name} ${detail.toLowerCase()} ${address === undefined ? '' : `0x${address.toString(16).padStart(4, '0')}`}`
    if (!words.every((word) => hay.includes(word))) return -1
    const text = words.join(' ')
    if (name.startsWith(text)) return 0
    if (name.split(/[\s_]+/).some((word) => word.startsWith(text))) return 1
    return name.includes(text) ? 2 : 3
  }
  const groups = new Map<string, { one: Findable; rank: number }[]>()
  for (const one of all) {
    const rank = rankOf(one)
    if (rank < 0) continue
    const list = groups.get(one.group) ?? []
    list.push({ one, rank })
    groups.set(one.group, list)
  }
  const best = (list: { rank: number }[]) => Math.min(...list.map(({ rank }) => rank))
  return [...groups]
    .map(([title, list]) => ({ title, list, rank: words.length ? best(list) : 0 }))
    .sort((a, b) => a.rank - b.rank)
    .map(({ title, list }): [string, Findable[]] => [
      title,
      list
        // Where names match, what matches by its description alone would only hide them.
        .filter(({ rank }) => !words.length || rank < 3 || best(list) === 3)
        .sort((a, b) => a.rank - b.rank)
        .slice(0, words.length ? most : title === 'Commands' ? most : fewest)
        .map(({ one }) => one),
    ])
}
