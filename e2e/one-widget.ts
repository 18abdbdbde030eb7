import type { Page } from 'puppeteer-core'
import { Hand, type Chromium, type ServerProcess } from './browser.ts'

/** Projects with one widget on their page, and windows of them. */
export function oneWidget({ server, chromium }: { server: ServerProcess; chromium: Chromium }) {
  let count = 0

  /** A project with one widget on its page; each test has its own. */
  async function project(): Promise<{ id: string; page: string; widget: string }> {
    const { id } = await server.post<{ id: string }>('/projects', {
      name: `Kept ${++count}`,
      width: 480,
      height: 320,
      diagonalInches: 4,
    })
    const { project: made } = await saved(id)
    const page = made.startPage
    const widget = 'widget:only'
    await server.post(`/projects/${id}/changes`, {
      form: made.format,
      base: 0,
      changes: [
        {
          changeId: 'change:first',
          edit: 'add widgets',
          args: {
            page,
            after: '',
            widgets: [{ id: widget, kind: 'shape', name: 'only', place: { x: 40, y: 40, width: 60, height: 60 } }],
          },
        },
      ],
    })
    return { id, page, widget }
  }
  const saved = (id: string) => server.opened(id)
  const place = async (id: string) =>
    (await saved(id)).project.widgets['widget:only' as never] as { place: { x: number; y: number } }

  async function opened(id: string, station = 'pages'): Promise<Page> {
    const page = await chromium.page()
    await page.goto(`${server.url}/project/${id}/${station}`)
    await new Hand(page).sees('Saved · revision')
    return page
  }
  const select = async (page: Page) => {
    await page.bringToFront()
    await new Hand(page).press(70, 70)
    await new Hand(page).sees('only')
  }
  /** The name of the project that was made last. */
  const lastName = () => `Kept ${count}`
  return { project, saved, place, opened, select, lastName }
}
