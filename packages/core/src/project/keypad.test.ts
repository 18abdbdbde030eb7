import { describe, expect, test } from 'vitest'
import { checkProject, Viewer } from '../findings/index.ts'
import { tenths, whole } from '../testing/job.ts'
import { glasses, keypadLaws, made, typing } from '../testing/keypads.ts'
import { testAssets } from '../testing/fonts.ts'
import { Workbench } from '../workbench/index.ts'
import { keypadPages } from './index.ts'

keypadLaws(glasses)

describe('typing', () => {
  test('a text goes on over capitals, small letters and signs', () => {
    const { job, keys } = typing('text, QWERTY', { type: 'text', bytes: 12, encoding: 'latin-1' })
    keys('D', 'abc', 'e', 'w', 'Blank', '123', '4', '&', 'abc', 'x')
    expect(job.shows('entry')).toBe('Dew 4&x')
    keys('Del', 'OK')
    expect(job.value('v')).toBe('Dew 4&')
    expect(job.panel.popUpNumber).toBe(0)
  })
  test('cancel on any page of a keypad leaves the text as it was', () => {
    const { job, keys } = typing('text, AZERTY', { type: 'text', bytes: 12, encoding: 'latin-1' })
    keys('A', '123', '7', 'Cancel')
    expect([job.value('v'), job.panel.popUpNumber]).toEqual(['', 0])
  })
  test('hexadecimal figures are a number, and a range is told in them', () => {
    const { job, keys } = typing('hexadecimal', whole(0, 0x1ff), { base: 'hexadecimal' })
    keys('2', 'A', 'F', 'OK')
    expect(job.value('v')).toBe(0)
    expect(job.panel.popUpNumber).not.toBe(0)
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
    expect(found().map(({ facts, fix }) => [facts['what'], fix])).toEqual([['a sign key (negative values allowed)', null]])
    const pages = keypadPages('decimal', job.project.panel, (of) => `${of}:more${counter++}`)
    job.edit('add keypad', { after: '', pages })
    const { fix } = found()[0]!
    job.edit(fix!.edit, fix!.args)
    expect(found()).toEqual([])
  })
})
let counter = 0
