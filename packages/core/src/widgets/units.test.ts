import { describe, expect, test } from 'vitest'
import { checkProject, Viewer } from '../findings/index.ts'
import { Job, tenths, words } from '../testing/job.ts'
import { testAssets } from '../testing/fonts.ts'
import { shownIn } from '../variables/index.ts'
import { keypadPages } from '../project/index.ts'

const fahrenheit = { unit: '°C', other: '°F', factor: 1.8, offset: 32, decimals: 0 }

function thermometer(): Job {
  const job = new Job({ width: 800, height: 480, diagonalInches: 7 })
    .variable('t', tenths(-40, 100, '°C'))
    .variable('units', words('metric', 'imperial'))
  job.widget('number', 'number', [20, 20, 160, 44], { variable: 'variable:t' })
  job.widget('gauge', 'gauge', [20, 80, 200, 200], { variable: 'variable:t' })
  job.widget('slider', 'slider', [300, 20, 324, 44], { variable: 'variable:t' })
  job.widget('entry', 'entry', [300, 100, 200, 50], { variable: 'variable:t' })
  let n = 0
  const pages = keypadPages('decimal', job.project.panel, (of) => `${of}:k${n++}`)
  job.edit('add keypad', { after: '', pages, opens: ['widget:entry'] })
  return job.edit('set conduct', { values: { units: [fahrenheit], otherUnits: 'variable:units' } }).wait(300)
}

describe('a second unit', () => {
  test('is shown everywhere while its variable says so, and the line is untouched', () => {
    const job = thermometer().host('t', 20)
    const shown = () => ['number', 'gauge', 'slider', 'entry'].map((name) => job.shows(name))
    expect(shown()).toEqual(Array(4).fill('20.0 °C'))
    job.host('units', 1)
    expect(shown()).toEqual(Array(4).fill('68 °F'))
    expect(job.value('t')).toBe(20)
    const since = job.mark
    job.press('slider', 60, 99)
    expect(job.reports(since).at(-1)?.at(-1)).toBe(1000)
    job.host('units', 0)
    expect(shown()).toEqual(Array(4).fill('100.0 °C'))
  })
  test('repaints at once, and the range of an entry is told and kept in it', () => {
    const job = thermometer().host('t', 20).host('units', 1)
    expect(job.panel.paint().length).toBeGreaterThan(0)
    const key = (text: string) => {
      const page = job.project.pageOrder.find((id) => job.project.pages[id]!.kind === 'keypad')!
      const id = job.project.pages[page]!.widgets.find((w) => job.project.widgets[w]!.settings['text'] === text)!
      job.press(id.slice('widget:'.length)).wait(200)
    }
    const typed = (part: string) => {
      const id = Object.values(job.project.widgets).find((w) => w.settings['part'] === part)!
      return job.shows(id.id.slice('widget:'.length))
    }
    job.press('entry').wait(300)
    expect(typed('range')).toBe('-40 … 212')
    for (const text of ['2', '1', '3']) key(text)
    expect(typed('wrong')).toBe('1 above the range')
    for (const text of ['Del', '2']) key(text)
    key('OK')
    expect(job.value('t')).toBe(100)
  })
  test('its letters are in the build, and its widest text is found where it does not fit', () => {
    const job = new Job({ width: 800, height: 480, diagonalInches: 7 })
      .variable('t', tenths(-40, 100, '°C'))
      .widget('number', 'number', [20, 20, 160, 44], { variable: 'variable:t' })
    const letters = () =>
      Object.values(job.bench.build.header.sheets).reduce((sum, { metrics }) => sum + job.bench.build.chunks[metrics]!.length, 0)
    const before = letters()
    job.edit('set conduct', { values: { units: [{ ...fahrenheit, other: 'Œ' }] } })
    expect(letters()).toBeGreaterThan(before)
    const found = (code: string) => checkProject(new Viewer(testAssets).view(job.project)).filter((f) => f.code === code)
    expect(found('text-wide')).toEqual([])
    job.edit('set conduct', { values: { units: [{ ...fahrenheit, other: 'units of a long name' }] } })
    expect(found('text-wide').map(({ at }) => at)).toContain('widget:number')
    job.edit('set conduct', { values: { units: [{ ...fahrenheit, other: '水' }] } })
    expect(found('glyph').map(({ at }) => at)).toContain('widget:number')
  })
  test('goes there and back', () => {
    const as = shownIn(tenths(-40, 100, '°C'), [fahrenheit])
    for (let t = -40; t <= 100; t += 0.1) expect(as.stored(as.shown(t))).toBeCloseTo(t, 9)
    expect(shownIn(tenths(0, 10, 'm/s'), [fahrenheit]).shown(7)).toBe(7)
  })
})
