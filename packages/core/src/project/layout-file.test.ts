import { expect, test } from 'vitest'
import fc from 'fast-check'
import { sameJson, mustHold } from '../base/index.ts'
import { lampBinary } from '../frames/index.ts'
import { lampLines } from '../protocols/index.ts'
import { layoutsForLaws } from '../testing/layouts.ts'
import { moduleLayouts } from '../testing/modules/layouts.ts'
import { layoutFile, layoutFileSentences, readLayoutFile } from './index.ts'

const all = [...layoutsForLaws, lampLines, ...Object.values(moduleLayouts).map(({ layout }) => layout)]

test.each(all.map((layout) => [layout.name, layout] as const))('%s comes back from its file as it was', (_, layout) => {
  const again = mustHold(readLayoutFile(layoutFile(layout)))
  expect(mustHold(readLayoutFile(layoutFile(again)))).toEqual(again)
  expect(layoutFile(again)).toBe(layoutFile(layout))
})

test('what is no layout is told, whatever it is, and never throws', () => {
  const codeOf = (text: string) => {
    const read = readLayoutFile(text)
    return read.ok ? 'ok' : read.problem.code
  }
  expect(['', '{}', '[]', 'null', '{"format":"moth lamp layout","form":2}'].map(codeOf)).toEqual([
    'layout-file.json',
    'layout-file.other',
    'layout-file.other',
    'layout-file.other',
    'layout-file.form',
  ])
  expect(codeOf('{"format":"moth lamp layout","form":1,"layout":{"name":"x","toPanel":{"kind":"lines","forms":[{}]}}}')).toBe(
    'layout-file.wrong',
  )
  const file = layoutFile(lampBinary)
  fc.assert(
    fc.property(fc.nat(file.length - 1), fc.nat(7), (at, bit) => {
      const hurt = file.slice(0, at) + String.fromCharCode(file.charCodeAt(at) ^ (1 << bit)) + file.slice(at + 1)
      const read = readLayoutFile(hurt)
      if (read.ok) expect(sameJson(readLayoutFile(layoutFile(read.value)), read)).toBe(true)
      else expect(layoutFileSentences[read.problem.code]).toBeDefined()
    }),
  )
})
