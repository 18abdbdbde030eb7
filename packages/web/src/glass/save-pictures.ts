import { zipSync } from 'fflate'
import type { PageId } from '@moth-lamp/core/base'
import type { Project } from '@moth-lamp/core/project'
import { fileName, saveFile } from '../session/save-file.ts'
import type { Session } from '../session/session.ts'
import { putPainted } from './glass.tsx'

const pngOf = (canvas: HTMLCanvasElement): Promise<Blob> =>
  new Promise((resolve, reject) => {
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The browser could not make a PNG.'))), 'image/png')
  })

/** A page as the panel draws it, with what is stored at the start, pixel for pixel. */
async function pageCanvas(session: Session, page: PageId): Promise<HTMLCanvasElement> {
  const painted = await session.thumbnail(page, session.project.panel.width)
  if (!painted) throw new Error('The page could not be drawn.')
  const canvas = document.createElement('canvas')
  canvas.width = painted.rect.width
  canvas.height = painted.rect.height
  putPainted(canvas, painted)
  return canvas
}

const nameOfPage = ({ pages }: Project, id: PageId): string => `${pages[id]!.number}-${fileName(pages[id]!.name, 'page')}.png`

/** Picture of the glass at this moment, with its values and states. */
export async function saveGlass(session: Session, page: PageId): Promise<void> {
  const canvas = document.querySelector<HTMLCanvasElement>('[data-bezel] canvas')
  if (canvas) saveFile(nameOfPage(session.project, page), await pngOf(canvas))
}

/** Every page as it starts, in a ZIP. */
export async function savePages(session: Session): Promise<void> {
  const { project } = session
  const files: Record<string, [Uint8Array, { level: 0 }]> = {}
  for (const id of project.pageOrder)
    files[nameOfPage(project, id)] = [
      new Uint8Array(await (await pngOf(await pageCanvas(session, id))).arrayBuffer()),
      { level: 0 },
    ]
  saveFile(`${fileName(project.name, 'page')}-pages.zip`, new Blob([zipSync(files) as BlobPart], { type: 'application/zip' }))
}

/** Pixels around the pages of a sheet, and above each for its name. */
const sheet = { gap: 28, head: 84, name: 26, most: 4096 }

/** Every page on one picture, each with its name: as large as they are, or smaller where there are many. */
export async function sheetOfPages(session: Session): Promise<HTMLCanvasElement> {
  const { project } = session
  const { width, height } = project.panel
  const across = Math.ceil(Math.sqrt((project.pageOrder.length * height) / width))
  const down = Math.ceil(project.pageOrder.length / across)
  const whole = { width: across * (width + sheet.gap) + sheet.gap, height: sheet.head + down * (height + sheet.name + sheet.gap) }
  const scale = Math.min(1, sheet.most / Math.max(whole.width, whole.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.ceil(whole.width * scale)
  canvas.height = Math.ceil(whole.height * scale)
  const draw = canvas.getContext('2d')!
  const style = getComputedStyle(document.documentElement)
  const of = (name: string) => style.getPropertyValue(name).trim()
  draw.scale(scale, scale)
  draw.fillStyle = of('--desk')
  draw.fillRect(0, 0, whole.width, whole.height)
  draw.fillStyle = of('--ink')
  draw.font = `700 30px ${of('--words')}`
  draw.fillText(project.name, sheet.gap, 44)
  draw.font = `17px ${of('--words')}`
  draw.fillStyle = of('--muted')
  const facts = `${width} × ${height} px, ${project.panel.diagonalInches}″ · ${project.pageOrder.length} pages · ${Object.keys(project.widgets).length} widgets · ${project.variableOrder.length} variables`
  draw.fillText(facts, sheet.gap, 70)
  for (const [k, id] of project.pageOrder.entries()) {
    const x = sheet.gap + (k % across) * (width + sheet.gap)
    const y = sheet.head + Math.floor(k / across) * (height + sheet.name + sheet.gap)
    draw.fillStyle = of('--ink')
    draw.font = `600 17px ${of('--words')}`
    draw.fillText(`${project.pages[id]!.number} · ${project.pages[id]!.name}`, x, y + 17)
    draw.drawImage(await pageCanvas(session, id), x, y + sheet.name)
  }
  return canvas
}

export async function saveSheet(session: Session): Promise<void> {
  saveFile(`${fileName(session.project.name, 'page')}-sheet.png`, await pngOf(await sheetOfPages(session)))
}
