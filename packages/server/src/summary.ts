import { linkInWords } from '@moth-lamp/core/frames'
import { projectText, type Project } from '@moth-lamp/core/project'

/** A document as it is put into the database. */
export interface Written {
  text: string
  name: string
  /** Summary for the shelf, as JSON text. */
  summary: string
}

export const summaryOf = (project: Project): string =>
  JSON.stringify({
    width: project.panel.width,
    height: project.panel.height,
    link: `${project.layout.name} ${linkInWords(project.link)}`,
    exchanges: project.exchangeOrder.length,
  })

export const written = (project: Project): Written => ({
  text: projectText(project),
  name: project.name,
  summary: summaryOf(project),
})
