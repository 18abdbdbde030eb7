import { describe, expect, test } from 'vitest'
import { holdsRect, overlaps } from '../base/index.ts'
import { checkProject, Viewer } from '../findings/index.ts'
import { Job, tenths, whole } from '../testing/job.ts'
import { testAssets } from '../testing/fonts.ts'
import type { Holds } from '../variables/index.ts'
import { Workbench } from '../workbench/index.ts'
import { keypadPages, keypads, type KeypadKind, type KeypadPage } from './index.ts'

const finger = 'bare finger' as const
const glasses = [
  { width: 800, height: 480, diagonalInches: 7, finger },
  { width: 480, height: 272, diagonalInches: 4.3, finger },
  { width: 320, height: 480, diagonalInches: 3.5, finger },
  { width: 1024, height: 600, diagonalInches: 7, finger },
  { width: 240, height: 320, diagonalInches: 2.4, finger },
  { width: 320, height: 240, diagonalInches: 2.4, finger },
  { width: 320, height: 240, diagonalInches: 3.5, finger },
  { width: 480, height: 320, diagonalInches: 3.5, finger },
  { width: 272, height: 480, diagonalInches: 4.3, finger },
  { width: 480, height: 480, diagonalInches: 4, finger },
  { width: 800, height: 480, diagonalInches: 4.3, finger },
  { width: 1280, height: 800, diagonalInches: 10.1, finger },
  { width: 480, height: 272, diagonalInches: 4.3, finger: 'gloved finger' as const },
]
const counted = (): ((of: 'page' | 'widget') => string) => {
  let n = 0
  return (of) => `${of}:k${n++}`
}
const made = (kind: KeypadKind, glass = glasses[0]!): KeypadPage[] => keypadPages(kind, glass, counted())

/** A job with an entry on a variable that opens a keypad, and a finger on its keys by what stands on them. */
function typing(kind: KeypadKind, holds: Holds, settings: Record<string, unknown> = {}, glass = glasses[0]!) {
  const job = new Job(glass).variable('v', holds)
  job.widget('entry', 'entry', [20, 20, 200, 60], { variable: 'variable:v', ...settings })
  const pages = made(kind, glass)
  job.edit('add keypad', { after: '', pages, opens: ['widget:entry'] })
  const keys = (...texts: string[]) => {
    for (const text of texts) {
      const number = job.panel.layerNumber
      const page = job.project.pageOrder.find((id) => job.project.pages[id]!.number === number)!
      const key = job.project.pages[page]!.widgets.find((id) => job.project.widgets[id]!.settings['text'] === text)
      if (!key) throw new Error(`no key ${text} on layer ${number}`)
      job.press(key.slice('widget:'.length)).wait(200)
    }
    return job
  }
  job.wait(300).press('entry').wait(300)
  return { job, keys }
}

describe.each(keypads.map(({ kind }) => kind))('the keypad %s', (kind) => {
  test.each(glasses)('fits a glass of %o, key beside key', (glass) => {
    for (const { widgets } of made(kind, glass)) {
      const [back, ...rest] = widgets.map(({ place }) => place)
      expect(holdsRect({ x: 0, y: 0, ...glass }, back!)).toBe(true)
      expect(rest.every((place) => holdsRect(back!, place))).toBe(true)
      const keys = widgets.filter((w) => w.kind === 'button').map(({ place }) => place)
      expect(keys.some((a, k) => keys.some((b, n) => k < n && overlaps(a, b)))).toBe(false)
    }
  })
  test.each(glasses)('has each key once a page, and one that accepts and one that cancels, on %o', (glass) => {
    for (const { widgets } of made(kind, glass)) {
      const texts = widgets.flatMap(({ settings }) => (settings['text'] === undefined ? [] : [settings['text']]))
      expect(new Set(texts).size).toBe(texts.length)
      expect(texts).toEqual(expect.arrayContaining(['OK', 'Del']))
      expect(texts.some((text) => text === 'Cancel' || text === 'Esc')).toBe(true)
    }
  })
  test.each(glasses)('types the same letters as on a large glass, by keys that lead to all its pages, on %o', (glass) => {
    const typed = (pages: readonly KeypadPage[]) => {
      const reached = new Set([pages[0]!.id])
      const keys = new Set<unknown>()
      for (const id of reached)
        for (const { settings } of pages.find((page) => page.id === id)!.widgets)
          for (const { lines } of (settings['actions'] ?? []) as { lines: { deed: string; with: Record<string, string> }[] }[])
            for (const { deed, with: values } of lines)
              if (deed === 'type') keys.add(values['key'])
              else if (deed === 'open layer') reached.add(values['layer']!)
      expect(reached.size).toBe(pages.length)
      return keys
    }
    const [here, there] = [typed(made(kind, glass)), typed(made(kind))]
    expect([...there].filter((key) => !here.has(key))).toEqual([])
  })
  test.each(glasses)('has nothing to be mended on a glass of %o', (glass) => {
    const text: Holds = { type: 'text', bytes: 20, encoding: 'latin-1' }
    const { job } = typing(kind, kind.startsWith('text') ? text : whole(0, 100), {}, glass)
    const keypadPages = job.project.pageOrder.filter((id) => job.project.pages[id]!.kind === 'keypad')
    const own = new Set<string>(keypadPages.flatMap((id) => job.project.pages[id]!.widgets))
    const found = checkProject(new Viewer(testAssets).view(job.project)).filter(({ at }) => own.has(at))
    expect(found.map(({ code, facts }) => [code, facts])).toEqual([])
  })
})

describe('typing', () => {
  test('a text goes on over capitals, small letters and signs', () => {
    const { job, keys } = typing('text, QWERTY', { type: 'text', bytes: 12, encoding: 'latin-1' })
    keys('D', 'abc', 'e', 'w', 'Blank', '123', '4', '&', 'abc', 'x')
    expect(job.shows('entry')).toBe('Dew 4&x')
    keys('Del', 'OK')
    expect(job.value('v')).toBe('Dew 4&')
    expect(job.panel.layerNumber).toBe(0)
  })
  test('cancel on any page of a keypad leaves the text as it was', () => {
    const { job, keys } = typing('text, AZERTY', { type: 'text', bytes: 12, encoding: 'latin-1' })
    keys('A', '123', '7', 'Cancel')
    expect([job.value('v'), job.panel.layerNumber]).toEqual(['', 0])
  })
  test('hexadecimal figures are a number, and a range is told in them', () => {
    const { job, keys } = typing('hexadecimal', whole(0, 0x1ff), { base: 'hexadecimal' })
    keys('2', 'A', 'F', 'OK')
    expect(job.value('v')).toBe(0)
    expect(job.panel.layerNumber).not.toBe(0)
    keys('Clear', '1', 'A', 'F', 'OK')
    expect(job.value('v')).toBe(0x1af)
    expect(job.shows('entry')).toBe('1AF')
  })
  test('no figure is typed that would not be seen', () => {
    const { job, keys } = typing('decimal', tenths(-40, 60))
    keys('1', '.', '2', '5', '.')
    expect(job.shows('entry')).toBe('1.2')
    keys('±', 'OK')
    expect(job.value('v')).toBe(-1.2)
  })
  test('a code is dots, on a keypad that tells no range', () => {
    const { job, keys } = typing('code', whole(0, 9999), { hidden: true })
    keys('4', '2')
    expect(job.shows('entry')).toBe('••')
    expect(
      made('code')[0]!
        .widgets.filter((w) => w.kind === 'typed')
        .map((w) => w.settings['part']),
    ).toEqual(['name', 'draft', 'wrong'])
    keys('OK')
    expect(job.value('v')).toBe(42)
  })
  test('fonts have what a keypad may have to show of its entries, and no more', () => {
    const { job } = typing('decimal', tenths(-40, 60), { asksFor: 'Target' })
    const fonts = () => job.bench.build.plan.fonts.map(({ letters }) => letters)
    const has = (letters: string) => [...letters].map((letter) => fonts().some((font) => font.includes(letter)))
    expect(has('Target0.-…')).not.toContain(false)
    expect(has('Ä€ß@')).not.toContain(true)
    job.edit('set widgets', { ids: ['widget:entry'], values: { asksFor: 'Höhe' } })
    job.edit('set variable', { id: 'variable:v', values: { holds: { ...tenths(-40, 60), unit: '€' } } })
    expect(has('Hö€')).not.toContain(false)
    expect(fonts()).toEqual(new Workbench(job.project, testAssets).build.plan.fonts.map(({ letters }) => letters))
  })
  test('what a keypad lacks for its entry is found, with one that has it', () => {
    const { job } = typing('number', tenths(-40, 60))
    const found = () => checkProject(new Viewer(testAssets).view(job.project)).filter(({ code }) => code === 'keypad-lacks')
    expect(found().map(({ facts, fix }) => [facts['what'], fix])).toEqual([['a sign, and the value may lie below 0', null]])
    const pages = keypadPages('decimal', job.project.panel, (of) => `${of}:more${counter++}`)
    job.edit('add keypad', { after: '', pages })
    const { fix } = found()[0]!
    job.edit(fix!.edit, fix!.args)
    expect(found()).toEqual([])
  })
})
let counter = 0

test.each(glasses.map((glass) => [`${glass.width} × ${glass.height}, ${glass.diagonalInches}″`, glass] as const))(
  'a keypad for figures on %s has keys as large as a finger, with their words on them',
  (_, glass) => {
    for (const kind of ['decimal', 'number', 'signed', 'code'] as const) {
      const job = new Job(glass)
      job.edit('add keypad', { after: '', pages: made(kind, glass), opens: [] })
      const codes = checkProject(new Viewer(testAssets).view(job.project)).map(({ code }) => code)
      // Nothing opens it here.
      expect([kind, codes.filter((code) => code !== 'unreachable' && code !== 'dead-end')]).toEqual([kind, []])
    }
  },
)
