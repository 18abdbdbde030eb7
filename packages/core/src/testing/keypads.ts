import { describe, expect, test } from 'vitest'
import { holdsRect, overlaps } from '../base/index.ts'
import { checkProject, Viewer } from '../findings/index.ts'
import { keypadPages, keypads, type KeypadKind, type KeypadPage, type PanelProfile } from '../project/index.ts'
import type { Holds } from '../variables/index.ts'
import { testAssets } from './fonts.ts'
import { Job, whole } from './job.ts'

type Glass = Pick<PanelProfile, 'width' | 'height' | 'diagonalInches' | 'finger'>

const finger = 'bare finger' as const
/** A glass of seven inches, that of most small modules lying and standing, and the smallest; the first for whatever needs one. */
export const glasses: readonly Glass[] = [
  { width: 800, height: 480, diagonalInches: 7, finger },
  { width: 480, height: 272, diagonalInches: 4.3, finger },
  { width: 240, height: 320, diagonalInches: 2.4, finger },
  { width: 320, height: 240, diagonalInches: 2.4, finger },
]
export const moreGlasses: readonly Glass[] = [
  { width: 320, height: 480, diagonalInches: 3.5, finger },
  { width: 1024, height: 600, diagonalInches: 7, finger },
  { width: 320, height: 240, diagonalInches: 3.5, finger },
  { width: 480, height: 320, diagonalInches: 3.5, finger },
  { width: 272, height: 480, diagonalInches: 4.3, finger },
  { width: 480, height: 480, diagonalInches: 4, finger },
  { width: 800, height: 480, diagonalInches: 4.3, finger },
  { width: 1280, height: 800, diagonalInches: 10.1, finger },
  { width: 480, height: 272, diagonalInches: 4.3, finger: 'gloved finger' },
]
const counted = (): ((of: 'page' | 'widget') => string) => {
  let n = 0
  return (of) => `${of}:k${n++}`
}
/** The pages of a keypad for a glass. */
export const made = (kind: KeypadKind, glass = glasses[0]!): KeypadPage[] => keypadPages(kind, glass, counted())

/** A job with an entry on a variable that opens a keypad, and a finger on its keys by what stands on them. */
export function typing(kind: KeypadKind, holds: Holds, settings: Record<string, unknown> = {}, glass = glasses[0]!) {
  const job = new Job(glass).variable('v', holds)
  job.widget('entry', 'entry', [20, 20, 200, 60], { variable: 'variable:v', ...settings })
  const pages = made(kind, glass)
  job.edit('add keypad', { after: '', pages, opens: ['widget:entry'] })
  const keys = (...texts: string[]) => {
    for (const text of texts) {
      const number = job.panel.popUpNumber
      const page = job.project.pageOrder.find((id) => job.project.pages[id]!.number === number)!
      const key = job.project.pages[page]!.widgets.find((id) => job.project.widgets[id]!.settings['text'] === text)
      if (!key) throw new Error(`no key ${text} on pop-up ${number}`)
      job.press(key.slice('widget:'.length)).wait(200)
    }
    return job
  }
  job.wait(300).press('entry').wait(300)
  return { job, keys }
}

/** Checks of every keypad: all its keys are there, as large as a finger, and nothing is to be mended. */
export const keypadLaws = (on: readonly Glass[]): void =>
  describe.each(keypads.map(({ kind }) => kind))('the keypad %s', (kind) => {
    test.each(on.map((glass) => [glass] as const))('fits a glass of %o, key beside key', (glass) => {
      for (const { widgets } of made(kind, glass)) {
        const [back, ...rest] = widgets.map(({ place }) => place)
        expect(holdsRect({ x: 0, y: 0, ...glass }, back!)).toBe(true)
        expect(rest.every((place) => holdsRect(back!, place))).toBe(true)
        const keys = widgets.filter((w) => w.kind === 'button').map(({ place }) => place)
        expect(keys.some((a, k) => keys.some((b, n) => k < n && overlaps(a, b)))).toBe(false)
      }
    })
    test.each(on.map((glass) => [glass] as const))(
      'has each key once a page, and one that accepts and one that cancels, on %o',
      (glass) => {
        for (const { widgets } of made(kind, glass)) {
          const texts = widgets.flatMap(({ settings }) => (settings['text'] === undefined ? [] : [settings['text']]))
          expect(new Set(texts).size).toBe(texts.length)
          expect(texts).toEqual(expect.arrayContaining(['OK', 'Del']))
          expect(texts.some((text) => text === 'Cancel' || text === 'Esc')).toBe(true)
        }
      },
    )
    test.each(on.map((glass) => [glass] as const))(
      'types the same letters as on a large glass, by keys that lead to all its pages, on %o',
      (glass) => {
        const typed = (pages: readonly KeypadPage[]) => {
          const reached = new Set([pages[0]!.id])
          const keys = new Set<unknown>()
          for (const id of reached)
            for (const { settings } of pages.find((page) => page.id === id)!.widgets)
              for (const { lines } of (settings['rules'] ?? []) as {
                lines: { action: string; with: Record<string, string> }[]
              }[])
                for (const { action, with: values } of lines)
                  if (action === 'type') keys.add(values['key'])
                  else if (action === 'open pop-up') reached.add(values['popUp']!)
          expect(reached.size).toBe(pages.length)
          return keys
        }
        const [here, there] = [typed(made(kind, glass)), typed(made(kind))]
        expect([...there].filter((key) => !here.has(key))).toEqual([])
      },
    )
    test.each(on.map((glass) => [glass] as const))('has nothing to be mended on a glass of %o', (glass) => {
      const text: Holds = { type: 'text', bytes: 20, encoding: 'latin-1' }
      const { job } = typing(kind, kind.startsWith('text') ? text : whole(0, 100), {}, glass)
      const keypadPages = job.project.pageOrder.filter((id) => job.project.pages[id]!.kind === 'keypad')
      const own = new Set<string>(keypadPages.flatMap((id) => job.project.pages[id]!.widgets))
      const found = checkProject(new Viewer(testAssets).view(job.project)).filter(({ at }) => own.has(at))
      expect(found.map(({ code, facts }) => [code, facts])).toEqual([])
    })
  })
