// Keeps a world as this very version leaves it, for later versions to open (kept/README.md):
//   npx tsx scripts/keep-world.ts kept/4
// Three projects in a database (the demo; one of 137 revisions with undo, deletes and retired addresses; a deleted one),
// their project files, what two windows left unsaved in the browser when they died, and hashes of what all of it does.
import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { newId, seededRandom } from '@moth-lamp/core/base'
import { assetsOf, passGate, undoOf, type Change, type Project, type Request } from '@moth-lamp/core/project'
import { EditMaker } from '../packages/core/src/testing/edits.ts'
import { hashesOf } from '../packages/core/src/testing/hashes.ts'
import { Chromium, Hand, ServerProcess } from '../e2e/browser.ts'
// @ts-expect-error plain JavaScript without types
import { build, startPostgres } from './setup.mjs'

const folder = process.argv[2] ?? ''
if (!folder) throw new Error('say where to: kept/N')
mkdirSync(folder, { recursive: true })
const form = Number(basename(folder))
build()
const home = mkdtempSync(join(tmpdir(), 'moth-lamp-keep-'))
const postgres = startPostgres(home) as { url: string; destroy(): void }
const server = new ServerProcess(() => Promise.resolve(postgres.url))
await server.start()
const random = seededRandom(137)

const call = async <T>(path: string, body?: unknown): Promise<T> => {
  const response = await fetch(`${server.url}/api${path}`, {
    ...(body === undefined
      ? {}
      : { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  })
  if (!response.ok) throw new Error(`${path}: ${await response.text()}`)
  return response.json() as Promise<T>
}

/** Edits a project by its id, each edit a revision of its own. */
class Editing {
  done: Change[] = []
  constructor(
    readonly id: string,
    public project: Project,
    public revision: number,
  ) {}

  async send(request: Request): Promise<boolean> {
    const passed = passGate(this.project, request)
    if (!passed.ok || !passed.value.change.patches.length) return false
    await call(`/projects/${this.id}/changes`, { ...(form > 2 ? { form } : {}), base: this.revision, changes: [request] })
    this.project = passed.value.project
    this.done.push(passed.value.change)
    this.revision++
    return true
  }

  edit = (edit: string, args: unknown) => this.send({ changeId: newId('change', random), edit, args })
  undo = () => this.send(undoOf(this.done.at(-1)!, newId('change', random))!)
}

const opened = (id: string) => call<{ project: Project; revision: number }>(`/projects/${id}`)

/** The long one: every action, state and step of the demo, then whatever the maker of edits thinks of, undone now and then. */
async function longHistory(from: string): Promise<Editing> {
  const { id } = await call<{ id: string }>(`/projects/${from}/duplicate`, {})
  const { project, revision } = await opened(id)
  const long = new Editing(id, project, revision)
  await long.edit('set project', { values: { name: 'Long history' } })
  const maker = new EditMaker(random)
  while (long.revision < 132) {
    const request = maker.request(long.project)
    if (!request || ['set layout', 'delete page', 'set start page', 'set panel', 'undo'].includes(request.edit)) continue
    if (request.edit.startsWith('delete') && random.below(3)) continue
    if (!(await long.send(request))) continue
    if (random.below(8) === 0 && long.revision < 131) await long.undo()
  }
  await long.edit('set link', { values: { baud: 19200, tries: 3 } })
  const button = Object.values(long.project.widgets).find((w) => w.kind === 'button')!
  await long.edit('add widgets', {
    page: long.project.startPage,
    after: '',
    widgets: [{ id: newId('widget', random), kind: 'number', place: { x: 600, y: 400, width: 150, height: 52 } }],
  })
  await long.edit('delete widgets', { ids: [button.id] })
  while (long.revision < 136) await long.edit('set project', { values: { note: `kept at ${long.revision}` } })
  return long
}

async function deletedOne(): Promise<Editing> {
  const { id } = await call<{ id: string }>('/projects', { name: 'Thrown away', width: 320, height: 240, diagonalInches: 2.8 })
  const { project, revision } = await opened(id)
  const gone = new Editing(id, project, revision)
  await gone.edit('add variable', { id: newId('variable', random), name: 'left_over' })
  await gone.edit('set page', { id: project.startPage, values: { name: 'Only page' } })
  const answer = await fetch(`${server.url}/api/projects/${id}`, { method: 'DELETE' })
  if (!answer.ok) throw new Error('not deleted')
  return gone
}

/** Two windows with the long project die while the server is away: one has undone a saved edit, one has moved a widget. */
async function unsavedRows(long: Editing): Promise<unknown[]> {
  const chromium = new Chromium()
  await chromium.start()
  const shelf = await chromium.page()
  await shelf.goto(server.url)
  const [undoing, moving] = [await chromium.page(), await chromium.page()]
  // One that nothing lies over, that stands alone and lets itself be taken.
  const shown = Object.values(long.project.pages).find((page) => page.name === 'Dome')!
  const widget = shown.widgets.map((id) => long.project.widgets[id]!).findLast((w) => !w.parent && !w.locked && !w.like)!
  const select = async (page: typeof undoing) => {
    await page.bringToFront()
    await page.goto(`${server.url}/project/${long.id}/pages`)
    await new Hand(page).sees('Saved · revision')
    await new Hand(page).press(widget.place.x + 5, widget.place.y + 5)
    await page.waitForFunction((name) => document.body.innerText.includes(name), {}, widget.name)
  }
  await select(undoing)
  await undoing.keyboard.press('ArrowRight')
  await new Hand(undoing).sees('Saved · revision 137')
  await select(moving)
  chromium.serverAway = true
  await server.stop()
  await undoing.bringToFront()
  await undoing.keyboard.down('Control')
  await undoing.keyboard.press('z')
  await undoing.keyboard.up('Control')
  await new Hand(undoing).sees('Offline: changes are stored in this browser')
  await moving.bringToFront()
  await moving.keyboard.press('ArrowDown')
  await moving.keyboard.press('ArrowDown')
  await new Hand(moving).sees('Offline: changes are stored in this browser')
  await undoing.close()
  await moving.close()
  // Before the server is there again: whichever page is open would save them.
  await shelf.bringToFront()
  const rows = await shelf.evaluate(async () => {
    const request = indexedDB.open('moth-lamp-edits')
    const db = await new Promise<IDBDatabase>((resolve) => (request.onsuccess = () => resolve(request.result)))
    const out: unknown[] = []
    for (const name of db.objectStoreNames) {
      const store = db.transaction(name).objectStore(name)
      await new Promise<void>((resolve) => {
        const cursor = store.openCursor()
        cursor.onsuccess = () => {
          if (!cursor.result) return resolve()
          out.push({ store: name, key: cursor.result.key, value: cursor.result.value as unknown })
          cursor.result.continue()
        }
      })
    }
    return { database: db.name, version: db.version, rows: out }
  })
  await chromium.stop()
  await server.start()
  return rows as never
}

const [demo] = await call<{ id: string }[]>('/projects')
const long = await longHistory(demo!.id)
const gone = await deletedOne()
const rows = await unsavedRows(long)
writeFileSync(join(folder, 'unsaved.json'), JSON.stringify(rows, undefined, 1) + '\n')

const hashes: Record<string, unknown> = {}
for (const [id, file] of [
  [demo!.id, 'heron-hill-dome'],
  [long.id, 'long-history'],
] as const) {
  const { project, revision } = await opened(id)
  const assets = new Map<string, Uint8Array>()
  for (const sha of assetsOf(project))
    assets.set(sha, new Uint8Array(await (await fetch(`${server.url}/api/assets/${sha}`)).arrayBuffer()))
  hashes[file] = { id, revision, ...hashesOf(project, assets) }
  writeFileSync(
    join(folder, `${file}.mothlamp`),
    Buffer.from(await (await fetch(`${server.url}/api/projects/${id}/file`)).arrayBuffer()),
  )
}
hashes['thrown-away'] = { id: gone.id, revision: gone.revision }
writeFileSync(join(folder, 'hashes.json'), JSON.stringify(hashes, undefined, 1) + '\n')
const dump = execFileSync('/usr/lib/postgresql/15/bin/pg_dump', ['--inserts', '--no-owner', '--no-privileges', postgres.url], {
  encoding: 'utf8',
  maxBuffer: 1 << 28,
})
writeFileSync(join(folder, 'database.sql.gz'), gzipSync(dump.replaceAll(/^\\.*$/gm, ''), { level: 9 }))
await server.stop()
postgres.destroy()
rmSync(home, { recursive: true, force: true })
