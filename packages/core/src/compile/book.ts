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

/** Names of everything that a protocol may name, and the order of bytes in memory. */
export const bookOf = (project: Project, cells: CellTable = new CellTable()): Book => ({
  variables: project.variableOrder.flatMap((id) => {
    const cell = cells.of(project, id)
    return cell ? [{ name: project.variables[id]!.name, cell }] : []
  }),
  widgets: Object.values(project.widgets).map(({ name, number }) => ({ name, number })),
  pages: Object.values(project.pages).map(({ name, number }) => ({ name, number })),
  memory: project.panel.order,
  ownFrom: project.panel.ownFrom,
})
