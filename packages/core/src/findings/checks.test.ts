import { describe, expect, test } from 'vitest'
import type { Holds } from '../variables/index.ts'
import { leastTargetMm, type Project } from '../project/index.ts'
import { testAssets } from '../testing/fonts.ts'
import { Job, tenths, whole } from '../testing/job.ts'
import { checkProject, Viewer, type Finding } from './index.ts'

/** Findings of a project by the checks alone, nothing compiled: code and place. */
const viewer = new Viewer(testAssets)
const found = (project: Project): Finding[] => checkProject(viewer.view(project))
const said = (job: Job): string[] => found(job.project).map(({ code, at }) => `${code} ${at}`)

describe('checks by themselves, on a project of their own', () => {
  test('where there is nothing, nothing is found', () => expect(said(new Job())).toEqual([]))

  test('words are too wide from the first pixel that they lack, and the room that is offered is just enough', () => {
    const label = (width: number) =>
      new Job().widget('label', 'words', [10, 10, width, 40], { text: 'Wind from the west', colour: '#ffffff' })
    const isCut = (width: number) => said(label(width)).some((one) => one.startsWith('text-wide'))
    let width = 20
    while (isCut(width)) width++
    expect(width).toBeGreaterThan(60)
    for (let k = 1; k < 30; k++) expect([isCut(width - k), isCut(width + k)]).toEqual([true, false])
    const fix = found(label(width - 12).project).find((f) => f.code === 'text-wide')!.fix!
    expect(fix).toMatchObject({ edit: 'place widgets', args: { places: { 'widget:words': { width } } } })
  })

  test('variables may touch in memory, and not share a word', () => {
    const at = (address: number) =>
      new Job()
        .variable('wide', { ...whole(0, 9), type: 'u32' } as never, { address: 0x20 })
        .variable('other', whole(0, 9), { address })
        .edit('release all addresses', {})
    const clashes = (address: number) => said(at(address)).filter((one) => one.startsWith('overlap'))
    expect([0x1f, 0x22].map(clashes)).toEqual([[], []])
    expect([0x20, 0x21].map((address) => clashes(address).length)).toEqual([1, 1])
  })

  test('what a page or the panel does by itself is looked at as what a touch does is', () => {
    const wrong = { action: 'set', with: { variable: 'variable:words', to: 5 } }
    const job = new Job()
      .variable('words', { type: 'text', bytes: 8, encoding: 'ascii' } as Holds)
      .page('two')
      .edit('set page', { id: 'page:two', values: { rules: [{ on: { moment: 'opened', everyMs: 0 }, lines: [wrong] }] } })
      .edit('set conduct', { values: { rules: [{ on: { moment: 'started', everyMs: 0 }, lines: [wrong] }] } })
    const found = checkProject(new Viewer(testAssets).view(job.project)).filter(({ code }) => code === 'mistyped')
    expect(found.map(({ at, facts }) => [at, facts['name']])).toEqual([
      ['page:two', 'two'],
      ['', 'The panel'],
    ])
  })

  test('what is held together comes onto the glass as one, however many of it are outside and all mended at once', () => {
    const job = new Job()
      .widget('shape', 'a', [-60, -20, 50, 50])
      .widget('shape', 'b', [20, -40, 50, 50])
      .widget('shape', 'c', [100, 30, 50, 50])
      .edit('hold together', { ids: ['widget:a', 'widget:b', 'widget:c'], together: true })
    const outside = () => checkProject(new Viewer(testAssets).view(job.project)).filter(({ code }) => code === 'outside')
    const all = outside()
    expect(all.length).toBe(2)
    for (const { fix } of all) job.edit(fix!.edit, fix!.args)
    expect(outside()).toEqual([])
    const at = (name: string) => job.project.widgets[`widget:${name}`]!.place
    expect(['a', 'b', 'c'].map((name) => [at(name).x, at(name).y])).toEqual([
      [0, 20],
      [80, 0],
      [160, 70],
    ])
  })

  test('a target is too small below the least that its finger needs, on the narrower side', () => {
    for (const finger of ['bare finger', 'gloved finger'] as const) {
      const isSmall = (px: number) => {
        const job = new Job({ finger, diagonalInches: 5 }).widget('button', 'b', [20, 20, 180, px], { text: '' })
        return said(job).some((one) => one.startsWith('target-small'))
      }
      const perMm = Math.sqrt(400 * 400 + 300 * 300) / (5 * 25.4)
      const least = Math.ceil(leastTargetMm[finger] * perMm)
      expect([isSmall(8), isSmall(least - 1), isSmall(least), isSmall(180)]).toEqual([true, true, false, false])
    }
  })

  test('each key of a row has room for a finger: arrows of digits, tabs', () => {
    const found = (kind: string, width: number, height: number, settings: object) => {
      const job = new Job({ finger: 'bare finger', diagonalInches: 5 })
        .variable('v', tenths(0, 99))
        .widget(kind, 'w', [20, 20, width, height], settings as Record<string, unknown>)
      return said(job).filter((one) => one.startsWith('part-small'))
    }
    const finger = Math.ceil((7 * Math.sqrt(400 * 400 + 300 * 300)) / (5 * 25.4))
    const digits = (width: number, height: number) => found('digits', width, height, { variable: 'variable:v' }).length
    expect([digits(4 * finger, 2 * finger), digits(4 * finger, 2 * finger - 2), digits(2 * finger, 2 * finger)]).toEqual([
      0, 1, 1,
    ])
    const tabs = [1, 2, 3].map((n) => ({ text: String(n), page: '' }))
    const row = (width: number) => found('tabs', width, finger, { of: 'pages', tabs, way: 'beside each other' }).length
    expect([row(3 * finger), row(2 * finger)]).toEqual([0, 1])
  })

  test('a text at its longest is told where it does not fit, whoever shows it', () => {
    const found = (kind: string, width: number, settings: object, bytes = 12) => {
      const job = new Job()
        .variable('v', { type: 'text', bytes, encoding: 'ascii' } as Holds)
        .widget(kind, 'w', [20, 20, width, 40], settings as Record<string, unknown>)
      return said(job).filter((one) => one.startsWith('text-wide')).length
    }
    const follows = { text: { follows: 'variable:v' } }
    const shown: [string, object][] = [
      ['text', { variable: 'variable:v', runs: 0 }],
      ['entry', { variable: 'variable:v' }],
      ['label', follows],
      ['button', follows],
    ]
    for (const [kind, settings] of shown)
      expect([kind, found(kind, 300, settings), found(kind, 60, settings)]).toEqual([kind, 0, 1])
  })

  test('whoever looks, and in whatever order things were made, the same is found', () => {
    const names = ['a', 'b', 'c', 'd', 'e']
    const made = (order: readonly string[]) => {
      const job = new Job()
      for (const name of order) job.variable(name, whole(0, 99), { address: 0x40 + names.indexOf(name) })
      for (const name of order)
        job.widget('number', `n${name}`, [names.indexOf(name) * 70, 10, 60, 8], { variable: `variable:${name}` })
      return said(job).sort()
    }
    const first = made(names)
    expect(first.length).toBeGreaterThan(4)
    expect([made([...names].reverse()), made(['c', 'e', 'a', 'd', 'b'])]).toEqual([first, first])
  })
})
