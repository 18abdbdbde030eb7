import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { sha256Hex } from '@moth-lamp/core/base'
import { freshProject, passGate, pictureSettings, plainPanel } from '@moth-lamp/core/project'
import { testAssets, testTypefaces } from '../../../core/src/testing/fonts.ts'
import { ModelServer } from '../../../core/src/testing/histories.ts'
import { nearParts, NearWorker, withChunks, type Near } from '../testing/parts.ts'
import { Session } from './session.ts'

// A session on a model of its server, with its worker in this process and the clock in hand.

let near: Near
const sessions: Session[] = []
beforeEach(() => {
  vi.useFakeTimers()
  withChunks()
  NearWorker.all = []
  near = nearParts(new ModelServer(freshProject('Near', plainPanel, testTypefaces)), new Map(testAssets))
})
afterEach(() => {
  for (const session of sessions.splice(0)) session.close()
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

async function opened(): Promise<Session> {
  const session = await Session.open('project:near', near)
  sessions.push(session)
  await passes(50)
  return session
}
const passes = (ms: number) => vi.advanceTimersByTimeAsync(ms)
const note = (text: string) => ['set project', { values: { note: text } }] as const
const saved = (session: Session) => session.document.value.save.kind

const drawing = (n: number): Uint8Array => new TextEncoder().encode(`drawing ${n}`)
const pictures = (...all: Uint8Array[]) => ({
  after: '',
  pictures: all.map((bytes, n) => ({
    ...pictureSettings.defaults,
    id: `picture:p${n}`,
    name: `p${n}`,
    file: `p${n}.png`,
    format: 'png',
    asset: sha256Hex(bytes),
    fromWidth: 8,
    fromHeight: 8,
  })),
})

test('an edit is kept at once, shown at once, saved a little later, and then let go', async () => {
  const session = await opened()
  expect(session.edit(...note('a'))).toBe(true)
  expect([session.project.note, saved(session), near.kept.size]).toEqual(['a', 'waiting', 1])
  await passes(3000)
  expect([near.server.project.note, saved(session), near.kept.size]).toEqual(['a', 'saved', 0])
  expect(session.edit('no such edit', {})).toBe(false)
  expect(session.document.value.notice?.tone).toBe('bad')
})

test('“Saved” says that the files are there as well: six pictures, and the change that names them after them', async () => {
  const session = await opened()
  near.filesWait = true
  const files = [1, 2, 3, 4, 5, 6].map(drawing)
  for (const bytes of files) await session.addAsset(bytes)
  expect(session.edit('add pictures', pictures(...files))).toBe(true)
  await passes(10_000)
  expect([saved(session), near.server.revision, near.calls.includes('save')]).toEqual(['saving', 0, false])
  near.letFilesIn()
  await passes(3000)
  expect([saved(session), near.server.revision]).toEqual(['saved', 1])
  for (const bytes of files) expect(near.files.has(sha256Hex(bytes))).toBe(true)
  expect([near.keptFiles.size, near.kept.size]).toEqual([0, 0])
})

test('a window that is closed while files are on their way has saved nothing that names them; the next one brings all', async () => {
  const session = await opened()
  near.filesWait = true
  await session.addAsset(drawing(1))
  session.edit('add pictures', pictures(drawing(1)))
  near.leave()
  await passes(100)
  expect([near.server.revision, near.kept.size, near.keptFiles.size]).toEqual([0, 1, 1])
  session.close()
  near.filesWait = false
  const next = await opened()
  await passes(5000)
  expect([saved(next), Object.keys(near.server.project.pictures)]).toEqual(['saved', ['picture:p0']])
  expect(near.files.has(sha256Hex(drawing(1)))).toBe(true)
})

test('with the server away files and edits wait; when it is back both come there', async () => {
  const session = await opened()
  near.away = true
  await session.addAsset(drawing(1))
  session.edit('add pictures', pictures(drawing(1)))
  await passes(20_000)
  expect([saved(session), near.kept.size, near.keptFiles.size]).toEqual(['away', 1, 1])
  near.away = false
  await passes(30_000)
  expect([saved(session), near.server.revision, near.files.has(sha256Hex(drawing(1)))]).toEqual(['saved', 1, true])
})

test('a file that nobody else can have is named, and is there again once it is brought', async () => {
  const lost = passGate(near.server.project, { changeId: 'change:lost', edit: 'add pictures', args: pictures(drawing(7)) })
  if (!lost.ok) throw new Error('it must apply')
  near.server.project = lost.value.project
  const session = await opened()
  const sha = sha256Hex(drawing(7))
  expect(session.document.value.missing).toEqual([{ sha, why: null }])
  expect(await session.bring(drawing(8))).toBe(false)
  expect(await session.bring(drawing(7))).toBe(true)
  await passes(100)
  expect([session.document.value.missing, near.files.has(sha)]).toEqual([[], true])
})

test('a file that the server refuses is kept here, and named with the reason; the rest is saved', async () => {
  const session = await opened()
  near.refusesFiles = 'It cannot be read.'
  await session.addAsset(drawing(1))
  session.edit('add pictures', pictures(drawing(1)))
  await passes(3000)
  expect(session.document.value.missing).toEqual([{ sha: sha256Hex(drawing(1)), why: 'It cannot be read.' }])
  expect([saved(session), near.keptFiles.size]).toEqual(['saved', 1])
})

test('what another window saved comes in; undo takes back what is one’s own; a server of another form loads the page again', async () => {
  const session = await opened()
  session.edit(...note('mine'))
  await passes(3000)
  const { form, base } = { form: near.server.project.format, base: near.server.revision }
  near.server.save({
    form,
    base,
    changes: [{ changeId: 'change:other', edit: 'set project', args: { values: { name: 'Theirs' } } }],
  })
  near.told()
  await passes(1000)
  expect([session.project.name, session.project.note]).toEqual(['Theirs', 'mine'])
  session.undo()
  expect([session.project.name, session.project.note]).toEqual(['Theirs', ''])
  await passes(3000)
  expect(near.server.project.note).toBe('')
  const save = near.api.save
  near.api.save = async (id, request, last) => save(id, { ...request, form: 1 }, last)
  session.edit(...note('later'))
  await passes(3000)
  expect([near.loadedAgain.length, near.kept.size]).toEqual([1, 1])
})

test('the glass follows each edit, and a preview leaves no trace in the document', async () => {
  const session = await opened()
  const page = session.project.startPage
  const place = { x: 0, y: 0, width: 40, height: 40 }
  session.edit('add widgets', { page, after: '', widgets: [{ id: 'widget:a', kind: 'shape', place }] })
  const painted: number[] = []
  session.onPaint((frame) => painted.push(frame.painted.length))
  session.lookAt(page)
  await passes(200)
  expect([session.live.value.making, painted.some((count) => count > 0)]).toEqual([false, true])
  const before = session.project
  session.preview('place widgets', { places: { 'widget:a': { x: 50 } } })
  await passes(100)
  session.cancelPreview()
  await passes(100)
  expect(session.project).toBe(before)
})

test('a file that the server refuses is refused before anything names it, and nothing of it stays', async () => {
  const session = await opened()
  near.refusesFiles = 'It took too long.'
  const refused = session.offerAsset(drawing(1))
  await passes(100)
  expect([await refused, near.keptFiles.size, session.document.value.missing]).toEqual(['It took too long.', 0, []])
  near.refusesFiles = null
  near.away = true
  const taken = session.offerAsset(drawing(2))
  await passes(100)
  expect([await taken, near.keptFiles.size]).toEqual([null, 1])
})
