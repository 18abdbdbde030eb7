import { describe, expect, test } from 'vitest'
import { mustHold, sameJson, seededRandom } from '../base/index.ts'
import { EditMaker } from '../testing/edits.ts'
import { demo, edited } from '../testing/demo.ts'
import { comesOver, documentOfForm3, over } from '../testing/form-3.ts'
import { Job } from '../testing/job.ts'
import { migrate, migrateRequest, passGate, undoOf, validateProject } from './index.ts'

type Loose = Record<string, unknown>
const { project } = demo

describe('a document of form 3', () => {
  test('is the same but for what was reshaped: pins have names, pictures and fonts numbers', () => {
    const now = mustHold(validateProject(mustHold(migrate(documentOfForm3(project)))))
    const { pins, ...panel } = now.panel
    expect(pins.map(({ name, input, pwm }) => [name, input, pwm])).toEqual([
      ['pin 1', true, false],
      ['pin 2', true, false],
      ['pin 3', true, false],
      ['PWM 1', false, true],
    ])
    expect(sameJson({ ...now, panel: { ...panel, pins: [] } }, { ...project, spent: now.spent })).toBe(true)
    expect(now.spent.lastNumbers).toEqual(project.spent.lastNumbers)
  })
  test('keeps a layer that pages share; one that is opened becomes a pop-up', () => {
    const job = new Job().page('frame', {}, 'layer').page('ask', {}, 'pop-up')
    job.edit('set page', { id: job.first, values: { layer: 'page:frame' } })
    const now = mustHold(validateProject(mustHold(migrate(documentOfForm3(job.project)))))
    expect(Object.values(now.pages).map(({ name, kind }) => `${name}: ${kind}`)).toEqual([
      'Page 1: page',
      'frame: layer',
      'ask: pop-up',
    ])
  })
})

test('an edit that waits, and its undo, are the same under form 4: whatever the edit', () => comesOver(150, 30))

test('an undo of counted pins brings a list; a count of PWM outputs alone is let go', () => {
  const values = mustHold(migrateRequest({ changeId: 'change:p', edit: 'set panel', args: { values: { pins: 2, pwm: 1 } } }, 3))
  expect(edited(project, 'set panel', values.args).panel.pins.map(({ name }) => name)).toEqual(['pin 1', 'pin 2', 'PWM 1'])
  const patches = [
    { op: 'replace', path: '/panel/pins', value: 1 },
    { op: 'replace', path: '/panel/pwm', value: 2 },
  ]
  const undo = mustHold(migrateRequest({ changeId: 'change:q', edit: 'undo', args: { of: 'change:x', patches, left: [] } }, 3))
  expect(undo.args).toMatchObject({ patches: [{ path: '/panel/pins', value: [{ name: 'pin 1' }] }] })
})

test('an undo of a picture’s coming, made before pictures had numbers, takes it away', () => {
  const random = seededRandom(3)
  const maker = new EditMaker(random)
  let made = maker.request(project)
  while (made?.edit !== 'add pictures') made = maker.request(project)
  const { project: with1, change } = mustHold(passGate(project, made))
  const undo = undoOf(change, 'change:u')!
  const args = JSON.parse(JSON.stringify(undo.args)) as { left: { value?: Loose }[] }
  for (const patch of args.left) if (patch.value) delete patch.value['number']
  expect(Object.keys(mustHold(passGate(with1, over({ ...undo, args }))).project.pictures)).toEqual(Object.keys(project.pictures))
})
