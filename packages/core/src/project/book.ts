import type { CommandId } from '../base/index.ts'
import { commandSettings, type Book, type BuildCommand } from '../protocols/index.ts'
import { CellTable } from './cells.ts'
import type { Project } from './types.ts'
import { refsOfWidget, settingsOfCommand } from './record-refs.ts'

type Named = Pick<Project, 'variables' | 'widgets' | 'pages' | 'panel' | 'commands'>
const parts = ['variables', 'widgets', 'pages', 'panel', 'commands'] as const
const made = new WeakMap<Project['variables'], { of: Named; book: Book }>()
const shared = new CellTable()

/** The names of a project, and the order of bytes in memory; the same book while none of what it names has changed. */
export function bookOf(project: Project, cells: CellTable = shared): Book {
  const before = made.get(project.variables)
  if (before && parts.every((part) => before.of[part] === project[part])) return before.book
  const book = freshBook(project, cells)
  made.set(project.variables, { of: project, book })
  return book
}

/** Lists are made when someone reads them. */
function freshBook(project: Project, cells: CellTable): Book {
  const lists: Partial<Pick<Book, 'variables' | 'widgets' | 'pages' | 'commands'>> = {}
  let pages: Map<string, string> | null = null
  return {
    get variables() {
      return (lists.variables ??= project.variableOrder.flatMap((id) => {
        const cell = cells.of(project, id)
        const { name, wireName } = project.variables[id]!
        return cell
          ? [
              {
                name,
                ...(wireName ? { wire: wireName } : {}),
                cell,
                get page() {
                  return (pages ??= pagesOfVariables(project)).get(id) ?? ''
                },
              },
            ]
          : []
      }))
    },
    get widgets() {
      return (lists.widgets ??= Object.values(project.widgets).map(({ name, number, page }) => ({
        name,
        number,
        page: project.pages[page]!.name,
      })))
    },
    get pages() {
      return (lists.pages ??= Object.values(project.pages).map(({ name, number }) => ({ name, number })))
    },
    get commands() {
      return (lists.commands ??= commandsOf(project, cells))
    },
    memory: project.panel.order,
    ownFrom: project.panel.ownFrom,
  }
}

/** The commands of a project as its builds have them, in their order. */
function commandsOf(project: Project, cells: CellTable): BuildCommand[] {
  const none = () => null
  const context = {
    cell: (id: string) => cells.of(project, id),
    commandNumber: (id: string) => project.commands[id as CommandId]?.number ?? null,
    pageNumber: none,
    widgetNumber: none,
    sheet: none,
    face: none,
    picture: none,
    colour: (colour: string) => colour,
  }
  return project.commandOrder.map((id) => {
    const command = project.commands[id]!
    const settings = commandSettings.compile(settingsOfCommand(command), context)
    return { ...settings, number: command.number, name: command.name } as BuildCommand
  })
}

/** The first page whose widgets use each variable. */
function pagesOfVariables(project: Project): Map<string, string> {
  const found = new Map<string, string>()
  for (const page of project.pageOrder.map((id) => project.pages[id]!))
    for (const id of page.widgets)
      for (const { to } of refsOfWidget(project.widgets[id]!)) if (!found.has(to)) found.set(to, page.name)
  return found
}
