import { colourOf, type CellTable, type Project } from '../project/index.ts'
import type { CompileContext } from '../settings/index.ts'

/** Compile context of a project where no characters are wanted: in a simulated host, in an exchange. */
export const contextOf = (project: Project, cells: CellTable): CompileContext => ({
  cell: (id) => cells.of(project, id),
  pageNumber: (id) => project.pages[id as keyof typeof project.pages]?.number ?? null,
  widgetNumber: (id) => project.widgets[id as keyof typeof project.widgets]?.number ?? null,
  commandNumber: (id) => project.commands[id as keyof typeof project.commands]?.number ?? null,
  sheet: () => null,
  colour: (colour) => colourOf(project, colour),
  picture: () => null,
  face: (id) => project.faces[id as keyof typeof project.faces]?.face ?? null,
})
