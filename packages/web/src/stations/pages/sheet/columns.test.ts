import { describe, expect, test } from 'vitest'
import type { WidgetId } from '@moth-lamp/core/base'
import { passGate, type Widget } from '@moth-lamp/core/project'
import { demo, edited } from '../../../../../core/src/testing/demo.ts'
import { blockOf, columnsOf, firstColumns, written } from './columns.ts'

const { project } = demo
const all = Object.values(project.widgets)
const named = (name: string): Widget => all.find((w) => w.name === name)!
const widgets = [named('Target'), named('Open shutter'), named('Close shutter'), named('Dial')]
const columns = columnsOf(widgets)
const at = (key: string) => columns.findIndex((c) => c.key === key)
const column = (key: string) => columns[at(key)]!
const paste = (row: number, key: string, text: string) =>
  written(project, widgets, columns, { row, column: at(key) }, blockOf(text))
const each = (found: ReturnType<typeof paste>) => (found.ok ? found.value.each : found)

test('every cell of every widget is read as a text that written back changes nothing', () => {
  const every = columnsOf(all)
  for (const widget of all)
    for (const c of every) {
      const text = c.read(project, widget)
      if (text === null) {
        const refused = c.write(project, widget, 'x')
        expect(refused.ok, `${c.key} of ${widget.kind}`).toBe(false)
        continue
      }
      const made = c.write(project, widget, text)
      if (!made.ok) throw new Error(`${c.key} of ${widget.name} does not take its own “${text}”`)
      expect(edited(project, 'set each widget', { each: { [widget.id]: made.value } }), `${c.key} of ${widget.name}`).toBe(
        project,
      )
    }
})

describe('what is written', () => {
  test('numbers by arithmetic, colours, variables by name, parts of a face', () => {
    expect(each(paste(0, 'place/x', '400+24+8'))).toEqual({ [widgets[0]!.id]: { place: { x: 432 } } })
    expect(each(paste(1, 'face/radius', '3'))).toEqual({ [widgets[1]!.id]: { values: { 'face/radius': 3 } } })
    expect(each(paste(0, 'variable', 'flat_level'))).toMatchObject({
      [widgets[0]!.id]: { values: { variable: 'variable:flat_level' } },
    })
    expect(each(paste(1, 'text', 'follows site_note'))).toMatchObject({
      [widgets[1]!.id]: { values: { text: { follows: 'variable:site_note' } } },
    })
  })
  test('a block over several rows and columns, as one edit', () => {
    const found = paste(1, 'place/x', '10\t20\t90\t40\n110\t20\t90\t40')
    expect(each(found)).toEqual({
      [widgets[1]!.id]: { place: { x: 10, y: 20, width: 90, height: 40 } },
      [widgets[2]!.id]: { place: { x: 110, y: 20, width: 90, height: 40 } },
    })
    const next = edited(project, 'set each widget', { each: each(found) })
    expect(next.widgets[widgets[2]!.id]!.place).toEqual({ x: 110, y: 20, width: 90, height: 40 })
  })
  test('all of it or nothing, with the first that is wrong and how many', () => {
    expect(paste(0, 'place/width', '120\nzero\n-4\n50')).toMatchObject({
      ok: false,
      refused: { row: 1, column: 'w', count: 2, why: '“zero” is not a number' },
    })
    expect(paste(0, 'variable', 'no_such')).toMatchObject({ refused: { why: 'unknown variable “no_such”' } })
    expect(paste(3, 'text', 'words')).toMatchObject({ refused: { why: 'not applicable to a shape' } })
  })
  test('five thousand rows: those that have a widget, and the rest is counted', () => {
    const found = paste(0, 'place/x', Array.from({ length: 5000 }, (_, k) => `${k}\tx`).join('\r\n'))
    expect(found).toMatchObject({ ok: false, refused: { count: 4 } })
    expect(paste(0, 'place/x', Array.from({ length: 5000 }, (_, k) => String(k + 1)).join('\n'))).toMatchObject({
      ok: true,
      value: { cells: 4, rowsLeft: 4996, columnsLeft: 0 },
    })
  })
  test('rubbish is refused in words, whatever it is', () => {
    for (const text of ['\u0000', '{"a":1}', '😀', '-', '=', '1e999', ' '.repeat(9000)])
      for (const key of columns.map((c) => c.key)) {
        const found = paste(0, key, text)
        if (found.ok && Object.keys(found.value.each).length) {
          const request = { changeId: 'change:t' as const, edit: 'set each widget', args: { each: found.value.each } }
          // The gate takes each text that the cell takes, or gives the reason.
          expect(() => passGate(project, request)).not.toThrow()
        }
      }
  })
})

test('the first columns are few: name, place and what is essential', () => {
  const first = firstColumns(widgets)
  expect(first.slice(0, 5)).toEqual(['name', 'place/x', 'place/y', 'place/width', 'place/height'])
  expect(first.length).toBeLessThan(14)
  expect(column('name').read(project, project.widgets[widgets[0]!.id as WidgetId]!)).toBe('Target')
})
