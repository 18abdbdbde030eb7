import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { tmpdir } from 'node:os'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Project } from '@moth-lamp/core/project'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
let hand: Hand

beforeAll(async () => void (hand = new Hand(await chromium.page())))
const folder = mkdtempSync(join(tmpdir(), 'moth-lamp-letters-'))
const variable = createRequire(import.meta.url).resolve(
  '@fontsource-variable/public-sans/files/public-sans-latin-wght-normal.woff2',
)

async function begin(
  name: string,
  words: string,
): Promise<{ hand: Hand; saved(): Promise<Project>; at(station: 'Pages' | 'Artwork'): Promise<void> }> {
  const { id } = await server.post<{ id: string }>('/projects', { name, width: 320, height: 240, diagonalInches: 3.5 })
  await hand.opens(`${server.url}/project/${id}/pages`)
  await hand.sees('Saved · revision')
  const at = (station: 'Pages' | 'Artwork') => hand.station(station)
  await hand.keys('a')
  await hand.clickOn('[role="option"]', 'Label')
  await hand.keys('Enter')
  await hand.fill('Text', words)
  const saved = async () => {
    await hand.isSaved()
    return (await server.opened(id)).project
  }
  await saved()
  return { hand, saved, at }
}
const giveFont = async (hand: Hand, path: string) => {
  const input = await hand.page.waitForSelector('input[type=file][accept*="woff2"]')
  await (input as unknown as { uploadFile(path: string): Promise<void> }).uploadFile(path)
}
const opens = async (hand: Hand, font: string) => hand.clickOn('section[aria-label="Fonts"] button', font)
const isDrawn = (hand: Hand, label: string) => hand.page.waitForSelector(`canvas[data-made][aria-label="${label}"]`)

describe('Letters', () => {
  test('a font of one’s own from a packed file, at a weight of it, with two bits a pixel: on the glass and in its room', async () => {
    const { hand, saved, at } = await begin('Own font', 'Good night')
    const plain = await hand.glass()
    await at('Artwork')
    await opens(hand, 'caption')
    await isDrawn(hand, 'Sample with 2 bit')
    await giveFont(hand, variable)
    await hand.find('Weight of the font')
    await hand.fill('Weight of the font', '800')
    await hand.fill('Size of the font', '30')
    await hand.clickOn('[aria-label="Anti-aliasing"] [role="radio"]', '2 bits')
    const project = await saved()
    const typeface = Object.values(project.typefaces).find((one) => one.name.startsWith('public-sans'))!
    expect(typeface).toMatchObject({ weightFrom: 100, weightTo: 900, embedding: 'installable' })
    expect(project.styles['style:caption']).toMatchObject({ typeface: typeface.id, weight: 800, size: 30, bits: 2 })
    await hand.sees('embedding: installable')
    await at('Pages')
    await expect.poll(async () => (await hand.glass()).join()).not.toBe(plain.join())
    for (let k = 0; k < 5; k++) await hand.click('Undo', 'button')
    expect((await saved()).styles['style:caption']).toMatchObject({ weight: 0, bits: 8 })
  })

  test('a damaged file is refused by name with its reason, whichever kind it is, and nothing changes', async () => {
    const { hand, saved, at } = await begin('Damaged', 'Good night')
    const before = await saved()
    await at('Artwork')
    await opens(hand, 'caption')
    const bytes = readFileSync(variable)
    const cut = join(folder, 'cut.woff2')
    writeFileSync(cut, bytes.subarray(0, bytes.length - 300))
    await giveFont(hand, cut)
    await hand.sees('“cut” rejected: damaged: length mismatch.')
    const turned = Buffer.from(bytes)
    for (let k = 200; k < 260; k++) turned[k]! ^= 0xff
    const wrong = join(folder, 'turned.woff2')
    writeFileSync(wrong, turned)
    await giveFont(hand, wrong)
    await hand.sees('“turned” rejected: damaged')
    const notes = join(folder, 'notes.ttf')
    writeFileSync(notes, 'only notes')
    await giveFont(hand, notes)
    await hand.sees('“notes” rejected: not a TrueType, OpenType, WOFF or WOFF2 file.')
    expect((await saved()).typefaces).toEqual(before.typefaces)
  })

  test('letters that a typeface lacks are told, taken from one that comes with the program, and what must be joined is refused', async () => {
    const { hand, saved, at } = await begin('Cyrillic', 'Купол open')
    await hand.sees('characters missing in the font: К у п о л')
    await at('Artwork')
    await opens(hand, 'caption')
    await hand.sees('Missing К л о п у (shown as boxes)')
    await hand.choose('Fallback font', 'IBM Plex Sans Cyrillic')
    await expect.poll(async () => Object.values((await saved()).typefaces).some((one) => one.fallback !== '')).toBe(true)
    await hand.page.waitForFunction(() => !document.body.innerText.includes('(shown as boxes)'))
    await at('Pages')
    await hand.page.waitForFunction(() => !document.body.innerText.includes('characters missing in the font'))
    await hand.keys('Control+a')
    await hand.fill('Text', 'שלום')
    await hand.sees('ש needs right-to-left layout')
  })

  test('while letters are being made the glass says so', async () => {
    const { hand } = await begin('Making', 'Good night')
    await hand.quiet()
    await hand.page.evaluate(() => {
      const glass = document.querySelector('[data-bezel]')!
      const said: (string | null)[] = []
      Object.assign(globalThis, { said })
      new MutationObserver(() => said.push(glass.getAttribute('aria-busy'))).observe(glass, { attributeFilter: ['aria-busy'] })
    })
    await hand.fill('Text', 'Quartz 1 873, Ærø')
    const said = () => hand.page.evaluate(() => (globalThis as unknown as { said: string[] }).said)
    await expect.poll(said).toContain('true')
    await expect.poll(async () => (await said()).at(-1)).toBe('false')
    // Its characters then are complete.
    const glass = await hand.quiet()
    await new Promise((resolve) => setTimeout(resolve, 500))
    expect((await hand.glass()).join()).toBe(glass.join())
  })

  test('what takes how much is shown, and what would shrink it is done by a key and undone', async () => {
    const { hand, saved, at } = await begin('Room', 'Good night')
    await at('Artwork')
    await opens(hand, 'caption')
    await hand.fill('Extra characters', 'ABCDEFGHIJKLMNOPQRSTUVWXYZ')
    const label = 'Apply: “caption” with 4-bit smoothing (barely visible)'
    const button = await hand.page.waitForSelector(`button[aria-label="${label}"]`)
    await button!.focus()
    await hand.keys('Enter')
    await hand.page.waitForFunction((gone) => !document.querySelector(`button[aria-label="${gone}"]`), {}, label)
    expect((await saved()).styles['style:caption']).toMatchObject({ bits: 4, more: 'ABCDEFGHIJKLMNOPQRSTUVWXYZ' })
    await hand.click('Undo', 'button')
    expect((await saved()).styles['style:caption']!.bits).toBe(8)
    await hand.fill('Flash for images and fonts', '1')
    await hand.sees('KiB over')
    await hand.sees('Artwork needs')
  })
})
