import { describe, expect, test } from 'vitest'
import type { Project } from '../project/index.ts'
import { demo, dome, edited } from '../testing/demo.ts'
import { andMoon, button, mutations } from '../testing/finding-mutations.ts'
import { oneMoreCheck, oneMoreKind } from '../testing/one-more.ts'
import { Workbench } from '../workbench/index.ts'
import { findingSentences, findingWords, type Finding } from './index.ts'

const { project, assets } = demo

describe('findings of the demo', () => {
  test('each has a mutation here', () => expect(Object.keys(mutations).sort()).toEqual(Object.keys(findingSentences).sort()))
  test('one of another needs its check and its words: it is found, said and mended', () => {
    const gone = [oneMoreKind(), oneMoreCheck()]
    const place = { x: 0, y: 400, width: 9, height: 60 }
    const settings = { shows: 'variable:humidity' }
    const widgets = [{ id: 'widget:stripe', kind: 'stripe', name: 'thick', place, settings }]
    const thick = edited(project, 'add widgets', { page: dome, after: '', widgets })
    const [found, ...others] = new Workbench(thick, assets).findings()
    const mended = edited(thick, found!.fix!.edit, found!.fix!.args)
    expect([findingWords(found!), others]).toEqual(['“thick” is thicker than 50 px.', []])
    expect(new Workbench(mended, assets).findings()).toEqual([])
    for (const remove of gone) remove()
    expect(new Workbench(project, assets).findings()).toEqual([])
  })
  const codes = (findings: Finding[]) => [...new Set(findings.map((f) => f.code))]
  test.each(Object.entries(mutations))(
    '%s is found alone, at its place, and its fix gives zero again',
    (code, { edits, at, fixed }) => {
      const bench = new Workbench(project, andMoon)
      bench.take(edits.reduce((p, [edit, args]) => edited(p, edit, args), project))
      expect(codes(bench.findings())).toEqual([code])
      expect(bench.findings()[0]!.at).toBe(at)
      const fixes = () => bench.findings().filter((f) => f.fix)
      expect(fixes().length > 0).toBe(fixed)
      for (let round = 0; round < 6 && fixes().length; round++)
        bench.take(edited(bench.project, fixes()[0]!.fix!.edit, fixes()[0]!.fix!.args))
      if (fixed) expect(bench.findings()).toEqual([])
    },
  )
})

test('what a kind finds wrong with its settings says so in its name, and its mend is an edit', () => {
  const wrong = edited(project, 'set widgets', { ids: [button('Wind')], values: { digits: 1 } })
  const [found, ...others] = new Workbench(wrong, assets).findings()
  expect([findingWords(found!), others]).toEqual(['“Wind”: 1 digits before the point; the range needs 2.', []])
  expect(new Workbench(edited(wrong, found!.fix!.edit, found!.fix!.args), assets).findings()).toEqual([])
})

test('a text that is too wide is given room where there is some, smaller letters only where there is none', () => {
  const cut = (name: string, text: string) => edited(project, 'set widgets', { ids: [button(name)], values: { text } })
  const fix = (p: Project) => new Workbench(p, assets).findings().find((f) => f.code === 'text-wide')!.fix!
  expect(fix(cut('“Dome”', 'Dome of the observatory 2')).edit).toBe('place widgets')
  expect(fix(cut('Close shutter', 'Close it all now')).edit).toBe('set widgets')
})
