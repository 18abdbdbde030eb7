import { mkdtempSync, readdirSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { unzipSync } from 'fflate'
import { PNG } from 'pngjs'
import { beforeAll, describe, expect, test } from 'vitest'
import { hashOfWords, type PictureId } from '@moth-lamp/core/base'
import type { Project } from '@moth-lamp/core/project'
import { Workbench } from '@moth-lamp/core/workbench'
import { Hand } from './browser.ts'
import { dropDrawings, type Drawn } from './drawn.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
let hand: Hand

beforeAll(async () => void (hand = new Hand(await chromium.page())))

interface Job {
  hand: Hand
  id: string
  saved(): Promise<Project>
  at(station: 'Pages' | 'Artwork' | 'Panel' | 'Bench'): Promise<void>
  drop(selector: string, at: [number, number] | null, drawings: readonly Drawn[]): Promise<void>
}

async function begin(name: string, width = 320, height = 240): Promise<Job> {
  const { id } = await server.post<{ id: string }>('/projects', { name, width, height, diagonalInches: 3.5 })
  await hand.opens(`${server.url}/project/${id}/pages`)
  await hand.sees('Press A to add a widget, or drag a rectangle')
  return {
    hand,
    id,
    saved: async () => {
      await hand.isSaved()
      return (await server.opened(id)).project
    },
    at: (station) => hand.station(station),
    drop: (selector, at, drawings) => dropDrawings(hand, selector, at, drawings),
  }
}

const glass = '[data-glass="edit"]'
const add = async ({ hand }: Job, kind: string, place: [x: string, y: string, width: string, height: string], name: string) => {
  await hand.page.waitForSelector(glass)
  await hand.page.$eval(glass, (e) => (e as HTMLElement).focus())
  await hand.keys('a')
  await hand.clickOn('[role="option"]', kind)
  await hand.keys('Enter')
  await hand.fill('Name of the widget', name)
  for (const [k, label] of ['Left', 'Top', 'Width of the widget', 'Height of the widget'].entries())
    await hand.fill(label, place[k]!)
}
const pictures = (project: Project) => project.pictureOrder.map((id) => project.pictures[id]!)

describe('Drawings', () => {
  test('a keypad cut into twelve keys out of two drawings, at rest and pressed: the glass is the drawing, to the pixel', async () => {
    const job = await begin('Keypad')
    const { hand, saved } = job
    await job.at('Artwork')
    await job.drop('section[aria-label="Pictures"]', null, [
      { name: 'keys rest.png', width: 320, height: 240 },
      { name: 'keys pressed.png', width: 320, height: 240, shade: 90 },
    ])
    await expect.poll(async () => pictures(await saved()).length).toBe(2)
    await job.at('Pages')
    await add(job, 'Button', ['10', '12', '90', '48'], 'key 1')
    await hand.click('Repeat R', 'button')
    await hand.click('Columns')
    await hand.keys('Control+a', '=3', 'Tab', 'Control+a', '=4', 'Tab', 'Control+a', '=100', 'Tab', 'Control+a', '=56', 'Enter')
    await expect.poll(async () => Object.keys((await saved()).widgets).length).toBe(12)
    await hand.page.$eval(glass, (e) => (e as HTMLElement).focus())
    await hand.keys('Control+a', 'x')
    await hand.choose('Face from', 'keys rest')
    await hand.choose('Pressed face from', 'keys pressed')
    await hand.clickOn('button[type="submit"]', 'Slice 24')
    const project = await saved()
    expect(pictures(project).length).toBe(26)
    const cuts = pictures(project).slice(2)
    expect(new Set(cuts.map(({ cutX, cutY }) => `${cutX},${cutY}`)).size).toBe(12)
    // Each key shows its own piece: with the whole drawing behind them nothing of it changes.
    const [rest] = pictures(project)
    const shot = async () => hashOfWords(Uint16Array.from(await hand.glass()))
    const behind = async (picture: PictureId | '') => {
      await hand.keys('Escape')
      await hand.clickOn('button[aria-label^="Background:"]')
      await hand.choose('Background: picture', picture ? project.pictures[picture]!.name : 'none')
      await hand.keys('Escape')
    }
    const bare = await shot()
    await behind(rest!.id)
    await expect.poll(shot).not.toBe(bare)
    const withKeys = await shot()
    await hand.page.$eval(glass, (e) => (e as HTMLElement).focus())
    await hand.keys('Control+a', 'Delete')
    await expect.poll(async () => Object.keys((await saved()).widgets).length).toBe(0)
    expect(await shot()).toBe(withKeys)
    await hand.click('Undo', 'button')
    await hand.click('Undo', 'button')
    await hand.click('Undo', 'button')
    expect(pictures(await saved()).length).toBe(2)
  })

  test('a splash of eight pictures that ends on a page', async () => {
    const job = await begin('Splash')
    const { hand, saved } = job
    const looks = Array.from({ length: 8 }, (_, k) => ({ name: `look ${k + 1}.png`, width: 320, height: 240, shade: 20 * k }))
    await job.drop('nav[aria-label="Pages"]', null, looks)
    await hand.sees('9 · look 8')
    await hand.clickOn('nav[aria-label="Pages"] button', 'look 1')
    await hand.click('Set as start page', 'button')
    await hand.clickOn('button', 'Start-up sequence')
    await hand.fill('Pages of the sequence', '8')
    await hand.fill('Time per page', '100')
    await hand.click('Create sequence', 'button')
    const project = await saved()
    const [last, ...all] = [project.pageOrder[0]!, ...project.pageOrder.slice(1)]
    expect(project.startPage).toBe(all[0])
    expect(all.map((id) => [project.pages[id]!.showsForMs, project.pages[id]!.thenPage])).toEqual(
      all.map((_, k) => [100, all[k + 1] ?? last]),
    )
    // Eight times 100 ms, and then the page it ends on; until then it is not there.
    const bench = new Workbench(project, new Map())
    const shown = [50_000, 700_000, 100_000, 500_000].map((us) => (bench.advance(us), bench.rig.panel.pageNumber))
    const numbers = [...all, last].map((id) => project.pages[id]!.number)
    expect(shown).toEqual([numbers[0], numbers[7], numbers[8], numbers[8]])
  })

  test('pictures of a project are fitted anew for another glass by their recipes', async () => {
    const job = await begin('Other glass', 800, 480)
    const { hand, saved } = job
    const [wide, high] = [
      { width: 1600, height: 1067 },
      { width: 800, height: 480 },
    ]
    await job.drop('nav[aria-label="Pages"]', null, [
      { name: 'dusk.png', ...wide },
      { name: 'night.png', ...high, shade: 60 },
    ])
    await hand.sees('3 · night')
    const before = pictures(await saved())
    expect(before.map(({ width, height, way }) => [width, height, way])).toEqual([
      [800, 480, 'crop'],
      [800, 480, 'exact'],
    ])
    await job.at('Panel')
    await hand.fill('Width', '480')
    await hand.fill('Height', '272')
    await job.at('Artwork')
    for (const name of ['dusk', 'night']) {
      await hand.sees(`Background “${name}” is 800 × 480; the glass is 480 × 272.`)
      await hand.clickOn('button', 'Refit to 480 × 272')
      await hand.page.waitForFunction((gone) => !document.body.innerText.includes(gone), {}, `Background “${name}” is`)
    }
    const after = pictures(await saved())
    expect(after.map(({ asset, width, height, way }) => [asset, width, height, way])).toEqual(
      before.map(({ asset }) => [asset, 480, 272, 'crop']),
    )
    await hand.page.waitForSelector('canvas[data-made][aria-label="“dusk” as it is on the glass"]')
  })

  test('sixteen drawings dropped at once onto a level and two buttons: each finds its own by name, in order', async () => {
    const job = await begin('Sixteen')
    const { hand, saved } = job
    await add(job, 'Picture by value', ['10', '10', '60', '60'], 'moon')
    await add(job, 'Button', ['100', '10', '80', '40'], 'open')
    await add(job, 'Button', ['200', '10', '80', '40'], 'close')
    await hand.page.$eval(glass, (e) => (e as HTMLElement).focus())
    await hand.keys('Control+a')
    const drawings = [
      ...Array.from({ length: 12 }, (_, k) => ({ name: `moon ${12 - k}.png`, width: 60, height: 60, shade: 9 * k })),
      { name: 'open pressed.png', width: 80, height: 40, shade: 3 },
      { name: 'open rest.png', width: 80, height: 40, shade: 50 },
      { name: 'close pressed.png', width: 80, height: 40, shade: 100 },
      { name: 'close rest.png', width: 80, height: 40, shade: 150 },
    ]
    await job.drop(glass, await hand.at(40, 40), drawings)
    await expect.poll(async () => pictures(await saved()).length).toBe(16)
    const project = await saved()
    const widget = (name: string) =>
      Object.values(project.widgets).find((w) => w.name === name)!.settings as Record<string, never>
    const nameOf = ({ picture }: { picture: string }) => project.pictures[picture as PictureId]!.name
    expect((widget('moon')['levels'] as { face: { picture: string } }[]).map(({ face }) => nameOf(face))).toEqual(
      Array.from({ length: 12 }, (_, k) => `moon ${k + 1}`),
    )
    for (const name of ['open', 'close'])
      expect([nameOf(widget(name)['face']), nameOf(widget(name)['pressedFace'])]).toEqual([`${name} rest`, `${name} pressed`])
    await hand.click('Undo', 'button')
    expect(pictures(await saved()).length).toBe(0)
  })

  test('a reference lies over the page while one builds, and never on the panel; pages go out as PNG, pixel for pixel', async () => {
    const job = await begin('Reference')
    const { hand, saved } = job
    await job.at('Artwork')
    await job.drop('section[aria-label="Pictures"]', null, [{ name: 'sketch.png', width: 320, height: 240 }])
    await expect.poll(async () => pictures(await saved()).length).toBe(1)
    await job.at('Pages')
    await hand.page.waitForSelector(glass)
    await hand.sees('Press A to add a widget')
    const bare = hashOfWords(Uint16Array.from(await hand.glass()))
    await hand.clickOn('button', 'Tracing image')
    await hand.choose('Tracing image', 'sketch')
    await hand.page.waitForSelector('canvas[data-made][aria-label="Tracing image: sketch"]')
    const [page] = Object.values((await saved()).pages)
    expect(page!.reference).toBe(pictures(await saved())[0]!.id)
    expect(hashOfWords(Uint16Array.from(await hand.glass()))).toBe(bare)
    await hand.fill('Tracing image opacity', '0')
    await hand.page.waitForFunction(() => !document.querySelector('canvas[aria-label="Tracing image: sketch"]'))

    const folder = mkdtempSync(join(tmpdir(), 'moth-lamp-out-'))
    const client = await hand.page.createCDPSession()
    await client.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder })
    const take = async (item: string, file: string) => {
      await hand.click('Export', 'button')
      await hand.clickOn('[role="menuitem"]', item)
      await expect.poll(() => readdirSync(folder)).toContain(file)
      return readFileSync(join(folder, file))
    }
    const one = PNG.sync.read(await take('This page', '1-page-1.png'))
    expect([one.width, one.height]).toEqual([320, 240])
    expect(new Uint8Array(one.data)).toEqual(await hand.glass())
    const zip = unzipSync(new Uint8Array(await take('All pages (ZIP)', 'reference-pages.zip')))
    expect(Object.keys(zip)).toEqual(['1-page-1.png'])
    const sheet = PNG.sync.read(await take('Contact sheet', 'reference-sheet.png'))
    expect(sheet.width).toBeGreaterThan(320)
  })
})
