import { describe, expect, test } from 'vitest'
import { mustHold } from '../base/index.ts'
import { part, type BinaryWay, type Layout, type LinesWay, type Message } from '../frames/index.ts'
import { freshLinePart, lampLines, protocolFor } from '../protocols/index.ts'
import { systemVariables } from '../variables/index.ts'
import { demo, edited } from '../testing/demo.ts'
import { Workbench } from '../workbench/index.ts'
import type { Entry } from './index.ts'

// Several places in one frame: all of them are written, or none.

const { project, assets } = demo
const variable = (name: string) => Object.values(project.variables).find((v) => v.name === name)!
const [target, order] = [variable('dome_target'), variable('shutter_order')]

const binary: Layout = {
  ...project.layout,
  toPanel: {
    ...(project.layout.toPanel as BinaryWay),
    head: [part('sequence and operation')],
    forms: (project.layout.toPanel as BinaryWay).forms.map((form) => ({
      ...form,
      parts: form.operation === 'write' ? [part('pairs', { most: 4 })] : [part('address'), ...form.parts],
    })),
  },
}
const line = lampLines.toPanel as LinesWay
const lines: Layout = {
  ...lampLines,
  toPanel: {
    ...line,
    forms: line.forms.map((form) => (form.operation === 'write' ? { ...form, parts: [freshLinePart('pairs')] } : form)),
  },
}

describe.each([
  ['bytes', binary],
  ['lines', lines],
])('a write of two places as %s', (_, layout) => {
  const start = () => {
    const made = new Workbench(
      edited(project, 'set layout', { values: { toPanel: layout.toPanel, toHost: layout.toHost } }),
      assets,
    )
    made.advance(2_000_000)
    return made
  }
  const send = (made: Workbench, message: Message) => {
    const wire = mustHold(mustHold(protocolFor(made.build.header.layout, made.build.book)).encode('to panel', message))
    const { lastId } = made.rig.conversation
    made.rig.line.send('to panel', wire, { message: null, attempt: 0 })
    made.advance(300_000)
    return made.rig.conversation.since(lastId)
  }
  const words = (made: Workbench, address: number) => made.rig.panel.memory.bytesOf(address, 1)
  test('writes both, and is acknowledged once', () => {
    const made = start()
    const also = [{ address: order.address, payload: [1, 0] }]
    const entries = send(made, { operation: 'write', sequence: 1, address: target.address, payload: [6, 9], also })
    expect([words(made, target.address), words(made, order.address)]).toEqual([
      [6, 9],
      [1, 0],
    ])
    const isAnswer = ({ message }: Entry) => message?.operation === 'done' && message.address === target.address
    expect(entries.filter(isAnswer)).toHaveLength(1)
  })
  test('writes none where one of them is refused', () => {
    const made = start()
    const before = words(made, target.address)
    const own = systemVariables().find(({ name }) => name === 'host_alive')!
    const also = [{ address: made.build.book.ownFrom + own.offset, payload: [1, 0] }]
    const message: Message = { operation: 'write', sequence: 1, address: target.address, payload: [7, 9], also }
    const entries = send(made, message)
    expect(words(made, target.address)).toEqual(before)
    expect(entries.map(({ message }) => message?.operation)).toContain('refused')
  })
})
