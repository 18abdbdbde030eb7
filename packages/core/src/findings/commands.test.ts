import { expect, test } from 'vitest'
import { demo, edited } from '../testing/demo.ts'
import { commandAnswers } from './commands.ts'

const added = (project: typeof demo.project, id: string, values: object) =>
  edited(project, 'add command', {
    id: `command:${id}`,
    after: '',
    name: id,
    values: { sender: 'both', fields: [{ field: 'constant', bytes: [1] }], ...values },
  })
const told = (project: typeof demo.project) =>
  commandAnswers({ project } as Parameters<typeof commandAnswers>[0]).map(({ at, facts }) => `${at} ${String(facts['why'])}`)

test('commands that answer each other are told; one that is answered once is not', () => {
  const once = added(added(demo.project, 'pong', {}), 'ping', { answer: 'command', answerBy: 'command:pong' })
  expect(told(once)).toEqual([])
  const ever = edited(once, 'set command', {
    id: 'command:pong',
    values: { answer: 'command', answerBy: 'command:ping' },
  })
  expect(told(ever)).toEqual([
    expect.stringMatching(/^command:p[io]ng .*both ends go on for ever/),
    expect.stringMatching(/^command:p[io]ng .*both ends go on for ever/),
  ])
})
