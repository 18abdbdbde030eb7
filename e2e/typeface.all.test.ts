import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Rect } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import { testAssets, testTypefaces } from '../packages/core/src/testing/fonts.ts'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
let hand: Hand
let id = ''

beforeAll(async () => {
  hand = new Hand(await chromium.page())
  id = (await server.projects())[0]!.id
})

const saved = async (): Promise<Project> => {
  await hand.isSaved()
  return (await server.opened(id)).project
}
const named = (project: Project, name: string): Widget => Object.values(project.widgets).find((w) => w.name === name)!
const centre = ({ x, y, width, height }: Rect) => [x + width / 2, y + height / 2] as const

describe('a typeface from a file', () => {
  test('is there at once, drawn, saved, and there for the next window; what is no font is said', async () => {
    const font = join(mkdtempSync(join(tmpdir(), 'moth-lamp-font-')), 'Night letters.woff')
    // The version of a WOFF file is its maker's own business (W3C WOFF 1.0, 3): a file that the server has not.
    const bytes = testAssets.get(testTypefaces[0]!.asset)!.slice()
    bytes.set([0, 7, 0, 9], 20)
    writeFileSync(font, bytes)
    const wrong = join(mkdtempSync(join(tmpdir(), 'moth-lamp-font-')), 'notes.ttf')
    writeFileSync(wrong, 'no font at all')
    await hand.page.goto(`${server.url}/project/${id}/pages`)
    const target = named(await saved(), 'Target')
    await hand.quiet()
    await hand.press(...centre(target.place))
    await hand.find('Font: from a file', 'button')
    const take = async (file: string) => {
      const [chooser] = await Promise.all([hand.page.waitForFileChooser(), hand.click('Font: from a file', 'button')])
      await chooser.accept([file])
    }
    await take(wrong)
    await hand.sees('rejected: not a TrueType')
    chromium.serverAway = true
    await server.stop()
    await take(font)
    await hand.page.waitForFunction(() =>
      document.querySelector('[aria-label="Font: typeface"]')?.textContent?.includes('Night letters'),
    )
    await hand.sees('Offline: changes are stored in this browser')
    await server.start()
    const project = await saved()
    const made = Object.values(project.typefaces).find((t) => t.name === 'Night letters')!
    expect((named(project, 'Target').settings['font'] as { typeface: string }).typeface).toBe(made.id)
    await expect.poll(async () => (await fetch(`${server.url}/api/assets/${made.asset}`)).status, { interval: 100 }).toBe(200)
    chromium.serverAway = false
  })
})
