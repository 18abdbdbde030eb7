import { describe, expect, test } from 'vitest'
import { holdsRect, overlaps } from '../base/index.ts'
import { checkProject, Viewer } from '../findings/index.ts'
import { heldWith } from '../project/index.ts'
import { Job, flags, tenths, whole, words } from '../testing/job.ts'
import { testAssets } from '../testing/fonts.ts'
import type { Holds } from '../variables/index.ts'
import { compounds } from './index.ts'

const some: Record<string, Holds> = {
  level: whole(0, 100, '%'),
  angle: tenths(-40, 60, '°C'),
  way: words('stop', 'up', 'down'),
  pumps: flags('one', '', 'three', 'four'),
  note: { type: 'text', bytes: 12, encoding: 'latin-1' },
}

/** A job with a compound on a variable; its widgets have the names of its parts. */
function withCompound(name: string, holds: Holds): Job {
  const compound = compounds.find((c) => c.compound === name)!
  const job = new Job({ width: 800, height: 480, diagonalInches: 7 }).variable('v', holds, { travels: compound.travels })
  const place = { x: 40, y: 40, ...compound.size(holds) }
  job.edit('add keypad', { after: '', pages: [{ id: 'page:keys', name: 'keys', widgets: [okKey] }] })
  const parts = compound.parts({ place, variable: 'variable:v', holds, words: 'Level', keypad: 'page:keys' })
  const ids = parts.map(({ name }) => `widget:${name.replaceAll(' ', '-')}`)
  const widgets = parts.map((part, k) => ({ ...part, id: ids[k], parent: k ? ids[0] : '' }))
  return job.edit('add widgets', { page: job.first, after: '', widgets })
}
const okKey = {
  id: 'widget:ok',
  kind: 'button',
  place: { x: 10, y: 10, width: 80, height: 60 },
  settings: { text: 'OK', rules: [{ on: { moment: 'pressed' }, lines: [{ action: 'type', with: { key: 'accept' } }] }] },
}

const cases = compounds.flatMap((c) => [
  [c.compound, 'one of its own', c.holds] as const,
  ...Object.entries(some).flatMap(([name, holds]) =>
    c.accepts.includes(holds.type) ? [[c.compound, name, holds] as const] : [],
  ),
])

describe.each(cases)('%s on %s', (name, _of, holds) => {
  const job = withCompound(name, holds)
  const { widgets, pages } = job.project
  const own = pages[job.first as keyof typeof pages]!.widgets

  test('is held together, lies in its place, part beside part', () => {
    const whole = { x: 40, y: 40, ...compounds.find((c) => c.compound === name)!.size(holds) }
    const places = own.map((id) => widgets[id]!.place)
    expect(heldWith(job.project, own[1]!)).toEqual([...own])
    expect(places.every((place) => holdsRect(whole, place))).toBe(true)
    expect(places.some((a, k) => places.some((b, n) => k < n && overlaps(a, b)))).toBe(false)
  })
  test('has nothing to be mended but what its keypad lacks', () => {
    const found = checkProject(new Viewer(testAssets).view(job.project)).filter(({ at }) => own.includes(at as never))
    expect(found.filter(({ code }) => code !== 'keypad-lacks').map(({ code, facts }) => [code, facts])).toEqual([])
  })
})

describe('what they do', () => {
  test('a switch goes from word to word', () => {
    const job = withCompound('switch', some['way']!).wait(300)
    expect([0, 1, 2].map(() => job.press('switch').value('v'))).toEqual([1, 2, 0])
    expect(job.shows('switch')).toBe('stop')
  })
  test('− and + step by what the range asks for, repeat while held, and stop at the ends', () => {
    const job = withCompound('step value', some['angle']!).wait(300)
    expect(job.press('more').value('v')).toBe(1)
    expect(job.press('less').press('less').value('v')).toBe(-1)
    expect(Number(job.press('more', 3000).value('v'))).toBeGreaterThan(10)
    expect(job.press('less', 30_000).value('v')).toBe(-40)
  })
  test('all on and all off leave bits without a name alone', () => {
    const job = withCompound('all on off', some['pumps']!).wait(300).host('v', 0b1010)
    expect(job.press('all-on').value('v')).toBe(0b1111)
    expect(job.press('all-off').value('v')).toBe(0b0010)
  })
  test('a lamp for each named bit', () => {
    const job = withCompound('lamps', some['pumps']!).wait(300).host('v', 0b1000)
    expect(['one-lamp', 'three-lamp', 'four-lamp'].map((lamp) => job.shows(lamp))).toEqual(['off', 'off', 'on'])
  })
})
