import { describe, expect, test } from 'vitest'
import { demo, edited, widgetNamed } from '../testing/demo.ts'
import { does } from '../testing/actions.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { registerWidgetKind, widgetKind } from '../widgets/index.ts'
import type { Project } from '../project/index.ts'
import { MadeChunks } from '../artwork/index.ts'
import { Compiler } from './index.ts'

const { project, assets } = demo
const stamps = (p: Project) => {
  const { contract, content, version } = new Compiler(new MadeChunks(assets)).compile(p).header
  return { contract, content, version }
}
const before = stamps(project)
const variable = (name: string) => Object.values(project.variables).find((v) => v.name === name)!
const target = variable('dome_target')
const azimuth = widgetNamed(project, 'Target')
const open = widgetNamed(project, 'Open shutter')
const dome = Object.values(project.pages).find((p) => p.name === 'Dome')!

type Edit = [what: string, edit: string, args: Record<string, unknown>]

describe('the stamp of what a host can tell', () => {
  test('is two words, and folded into the word that a host asks', () => {
    expect(before.contract).toBeGreaterThan(0xffff)
    expect(before.version).toBe((before.contract >>> 16) ^ (before.contract & 0xffff))
  })
  test.each<Edit>([
    ['the place of a widget', 'place widgets', { places: { [azimuth.id]: { x: azimuth.place.x + 7 } } }],
    ['a word on the glass', 'set widgets', { ids: [open.id], values: { text: 'Open it' } }],
    ['a colour', 'set widgets', { ids: [open.id], values: { colour: '#123456' } }],
    ['the look of a page', 'set page', { id: dome.id, values: { background: { ...dome.background, fill: '#102030' } } }],
    ['the name of a variable', 'set variable', { id: target.id, values: { name: 'wanted' } }],
    ['how many digits are shown', 'set variable', { id: target.id, values: { 'holds/decimals': 3 } }],
    ['how a value goes stale', 'set variable', { id: target.id, values: { stale: { afterMs: 500, shows: 'dim' } } }],
    ['a decimal comma', 'set conduct', { values: { comma: true } }],
    ['the name of the layout', 'set layout', { values: { name: 'another' } }],
    ['a note', 'set project', { values: { note: 'by night' } }],
  ])('is the same when another is %s', (_, edit, args) => {
    expect(stamps(edited(project, edit, args)).contract).toBe(before.contract)
  })
  test.each<Edit>([
    ['an address', 'set variable', { id: target.id, values: { address: 0x70 } }],
    ['a scale', 'set variable', { id: target.id, values: { 'holds/factor': 0.5 } }],
    ['a limit', 'set variable', { id: target.id, values: { 'holds/max': 90 } }],
    ['who may write', 'set variable', { id: target.id, values: { travels: 'stays' } }],
    ['a start value', 'set variable', { id: target.id, values: { initial: 90 } }],
    ['the speed', 'set link', { values: { baud: 9600 } }],
    ['the bytes', 'set layout', { values: { 'toPanel/payload': 'high' } }],
    ['the number of a page', 'set page', { id: dome.id, values: { number: 77 } }],
    ['what a touch does', 'set widgets', { ids: [open.id], values: { rules: [does('pressed', 'send event')] } }],
    ['how a page sends', 'set page', { id: dome.id, values: { sends: 'on leaving' } }],
    ['what happens by itself', 'set conduct', { values: { homeAfterS: 60 } }],
    ['where the panel keeps its own', 'set panel', { values: { ownFrom: 0xfe00 } }],
  ])('is another when another is %s', (_, edit, args) => {
    expect(stamps(edited(project, edit, args)).contract).not.toBe(before.contract)
  })
  test('is not another by a setting that a kind gains, as long as nobody sets it', () => {
    const button = widgetKind('button')!
    const more = {
      waitsMs: { label: 'Waits', type: t.whole, default: 40, group: 'Touch' },
      asks: { label: 'Asks', type: t.page, default: '', group: 'Touch' },
    }
    const back = registerWidgetKind({ ...button, settings: described({ ...button.settings.fields, ...more }) })
    try {
      expect(stamps(project).contract).toBe(before.contract)
      const set = edited(project, 'set widgets', { ids: [open.id], values: { waitsMs: 50 } })
      expect(stamps(set).contract).not.toBe(before.contract)
    } finally {
      back()
      registerWidgetKind(button)
    }
  })
})

test('the stamp of the content is another with whatever is shown', () => {
  const moved = edited(project, 'place widgets', { places: { [azimuth.id]: { x: azimuth.place.x + 7 } } })
  expect(stamps(moved).content).not.toBe(before.content)
  expect(stamps(project).content).toBe(before.content)
})
