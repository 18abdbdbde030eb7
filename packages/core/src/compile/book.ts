import type { Project } from '../project/index.ts'
import type { Book } from '../protocols/index.ts'
import { CellTable } from './cells.ts'

/** Makes the book of a project; the same one while none of what it names has changed. */
export class BookMaker {
  private last: { project: Project; book: Book } | null = null

  of(project: Project, cells: CellTable): Book {
    const before = this.last
    const same =
      before && (['variables', 'widgets', 'pages', 'panel'] as const).every((part) => before.project[part] === project[part])
    const book = same ? before.book : bookOf(project, cells)
    this.last = { project, book }
    return book
  }
}

/** Names of everything that a protocol may name, and the order of bytes in memory; lists are made when someone reads them. */
export function bookOf(project: Project, cells: CellTable = new CellTable()): Book {
  const lists: Partial<Pick<Book, 'variables' | 'widgets' | 'pages'>> = {}
  const entries = (records: Record<string, { name: string; number: number }>) =>
    Object.values(records).map(({ name, number }) => ({ name, number }))
  return {
    get variables() {
      return (lists.variables ??= project.variableOrder.flatMap((id) => {
        const cell = cells.of(project, id)
        return cell ? [{ name: project.variables[id]!.name, cell }] : []
      }))
    },
    get widgets() {
      return (lists.widgets ??= entries(project.widgets))
    },
    get pages() {
      return (lists.pages ??= entries(project.pages))
    },
    memory: project.panel.order,
    ownFrom: project.panel.ownFrom,
  }
}
