import type { Book } from '../protocols/index.ts'
import { CellTable } from './cells.ts'
import type { Project } from './types.ts'
import { refsOfWidget } from './record-refs.ts'

type Named = Pick<Project, 'variables' | 'widgets' | 'pages' | 'panel'>
const parts = ['variables', 'widgets', 'pages', 'panel'] as const
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
  const lists: Partial<Pick<Book, 'variables' | 'widgets' | 'pages'>> = {}
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
    memory: project.panel.order,
    ownFrom: project.panel.ownFrom,
  }
}

/** The first page whose widgets use each variable. */
function pagesOfVariables(project: Project): Map<string, string> {
  const found = new Map<string, string>()
  for (const page of project.pageOrder.map((id) => project.pages[id]!))
    for (const id of page.widgets)
      for (const { to } of refsOfWidget(project.widgets[id]!)) if (!found.has(to)) found.set(to, page.name)
  return found
}
