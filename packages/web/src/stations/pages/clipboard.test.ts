import { expect, test } from 'vitest'
import { demo } from '../../../../core/src/testing/demo.ts'
import { copiedText, readCopied } from './clipboard.ts'

const { project } = demo
const page = project.pages[project.pageOrder[0]!]!
const target = Object.values(project.widgets).find((w) => w.name === 'Target')!

test('what is copied is read again, with the variables it names', () => {
  const copied = readCopied(copiedText(project, page, [target.id])!)!
  expect(copied.widgets.map((w) => [w.kind, w.name, w.place, w.settings])).toEqual([
    ['entry', 'Target', target.place, target.settings],
  ])
  expect(copied.variables.map((v) => v.name)).toEqual(['dome_target'])
  expect(copiedText(project, page, [])).toBeNull()
})

test('any other text is none of ours, and nothing breaks on it', () => {
  const good = JSON.parse(copiedText(project, page, [target.id])!) as Record<string, unknown>
  const wrong = [
    '',
    'Open shutter',
    'null',
    '[]',
    '{"moth-lamp":"widgets"}',
    JSON.stringify({ ...good, widgets: [] }),
    JSON.stringify({ ...good, widgets: [null] }),
    JSON.stringify({ ...good, widgets: [{ kind: 'none', place: {}, settings: {} }] }),
    JSON.stringify({ ...good, widgets: [{ kind: 'number', settings: {} }] }),
    JSON.stringify({ ...good, widgets: [{ kind: 'number', place: {}, settings: { digits: 'many' } }] }),
    JSON.stringify({ ...good, variables: [null] }),
    JSON.stringify({ ...good, variables: [{ id: 'variable:x' }] }),
  ]
  expect(wrong.map(readCopied)).toEqual(wrong.map(() => null))
})
