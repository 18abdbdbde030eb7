import { describe, expect, test } from 'vitest'
import { type ChangeId } from '../base/index.ts'
import { currentForm } from '../project/index.ts'

import { type SaveRequest, type SaverEvent } from './index.ts'
import { away, fresh, Kept, ModelServer, nothingIsLost, Window, type Sent } from '../testing/histories.ts'

test('what was shown is saved, waiting, or set aside and listed, in 60 histories', () => nothingIsLost(60))

describe('the saver', () => {
  const started = () => {
    const server = new ModelServer(fresh())
    const [kept, wire, shown] = [new Kept(), [] as Sent[], new Set<ChangeId>()]
    const open = (nowMs = 0) => new Window(server, kept, wire, shown, nowMs)
    const answer = (nowMs: number) => {
      const { window, command } = wire.shift()!
      const event =
        command.do === 'save'
          ? server.save(command.request)
          : command.do === 'ask known'
            ? { on: 'known answer' as const, call: 0, known: command.ids.filter(server.knows) }
            : { on: 'changes answer' as const, call: 0, changes: server.rows.slice(command.since) }
      window.hear({ ...event, call: command.call } as SaverEvent, nowMs)
      return command
    }
    return { server, kept, wire, open, answer }
  }
  const note = (id: string, text: string): SaverEvent => ({
    on: 'edit',
    request: { changeId: `change:${id}`, edit: 'set project', args: { values: { note: text } } },
  })

  test('keeps at once, saves soon, lets go when it is saved', () => {
    const { server, kept, wire, open, answer } = started()
    const window = open()
    window.hear(note('a', 'one'), 1000)
    expect([kept.edits.size, wire.length, window.saver.state, window.wakeMs]).toEqual([1, 0, 'waiting', 1300])
    window.hear(note('b', 'two'), 1200)
    window.hear({ on: 'time' }, 1300)
    expect([wire.length, window.saver.state]).toEqual([1, 'saving'])
    answer(1350)
    expect([server.project.note, kept.edits.size, window.saver.state, window.saver.revision]).toEqual(['two', 0, 'saved', 2])
  })
  test('leaving sends what waits, for the last time', () => {
    const { wire, open } = started()
    const window = open()
    window.hear(note('a', 'one'), 1000)
    window.hear({ on: 'leaving' }, 1001)
    expect(wire.map((s) => s.command)).toMatchObject([
      { do: 'save', last: true, request: { base: 0, changes: [{ changeId: 'change:a' }] } },
    ])
  })
  test('an edit that the server never takes is found by halves, set aside and told; the rest goes on', () => {
    const { server, kept, open, wire, answer } = started()
    const window = open()
    for (let i = 0; i < 9; i++)
      window.hear(
        i === 4
          ? note('bad', 'senseless')
          : {
              on: 'edit',
              request: { changeId: `change:v${i}`, edit: 'add variable', args: { id: `variable:v${i}`, name: `v${i}` } },
            },
        0,
      )
    window.hear({ on: 'time' }, 400)
    for (let i = 0; wire.length && i < 30; i++) answer(500 + i)
    expect(server.project.variableOrder.length).toBe(8)
    expect([...kept.aside.keys()]).toEqual(['change:bad'])
    expect(window.saver.aside.map((a) => a.request.changeId)).toEqual(['change:bad'])
    expect([window.saver.state, kept.edits.size]).toEqual(['saved', 0])
  })
  test('one that breaks the server is tried again before it is set aside', () => {
    const { kept, open, wire, answer } = started()
    const window = open()
    window.hear(note('bad', 'poison'), 0)
    let nowMs = 400
    for (let tries = 0; tries < 6; tries++) {
      expect(kept.aside.size).toBe(0)
      window.hear({ on: 'time' }, nowMs)
      answer(nowMs)
      nowMs += 20_000
    }
    expect([kept.aside.size, wire.length, window.saver.state]).toEqual([1, 0, 'saved'])
  })
  test('batches are cut by size and by number', () => {
    const { open, wire, answer } = started()
    const window = open()
    for (let i = 0; i < 5; i++)
      window.hear(
        {
          on: 'edit',
          request: { changeId: `change:p${i}`, edit: 'set project', args: { values: { note: `${i}`.repeat(4000) } } },
        },
        0,
      )
    for (let i = 0; i < 500; i++)
      window.hear(
        { on: 'edit', request: { changeId: `change:n${i}`, edit: 'set project', args: { values: { note: `n${i}` } } } },
        0,
      )
    window.hear({ on: 'time' }, 400)
    const sizes: number[] = []
    while (wire.length) {
      const command = answer(500)
      if (command.do === 'save') sizes.push(command.request.changes.length)
    }
    expect(sizes).toEqual([200, 200, 105])
  })
  test('what a dead window left is run only when the server has said which of it it has', () => {
    const { server, kept, open, wire, answer } = started()
    const first = open()
    first.hear({ on: 'edit', request: { changeId: 'change:v', edit: 'add variable', args: { id: 'variable:v', name: 'v' } } }, 0)
    first.hear({ on: 'time' }, 400)
    // Saved, but the window dies before it hears so; then someone else goes on.
    server.save((wire.shift()!.command as { request: SaveRequest }).request)
    first.open = false
    const second = open()
    expect(wire.map((s) => s.command.do)).toEqual(['ask known'])
    answer(500)
    expect([kept.edits.size, second.saver.aside, second.saver.state]).toEqual([0, [], 'saved'])
  })
  test('however much was left is asked after in parts, and all of it is taken up', () => {
    const { server, kept, open, wire, answer } = started()
    for (let i = 0; i < 2300; i++) {
      const request = { changeId: `change:n${i}` as const, edit: 'set project', args: { values: { note: `n${i}` } } }
      kept.edits.set(request.changeId, request)
    }
    const window = open()
    const asked: number[] = []
    while (wire.length) {
      const command = answer(500)
      if (command.do === 'ask known') asked.push(command.ids.length)
    }
    expect(asked).toEqual([1000, 1000, 300])
    expect([server.revision, server.project.note, kept.edits.size, window.saver.state]).toEqual([2300, 'n2299', 0, 'saved'])
  })
  test('others’ changes while the server is asked, a server that is away and speaks again, a newer form', () => {
    const { server, open, wire, answer } = started()
    const [one, two] = [open(), open()]
    one.hear(note('a', 'one'), 0)
    one.hear({ on: 'time' }, 400)
    answer(410)
    two.hear({ on: 'told', revision: 1, form: currentForm }, 420)
    expect(answer(430)).toMatchObject({ do: 'ask changes', since: 0 })
    expect(two.saver.project.note).toBe('one')
    two.hear(note('b', 'two'), 500)
    two.hear({ on: 'time' }, 900)
    two.hear({ on: 'failed', call: (wire.shift()!.command as { call: number }).call, why: 'away', problem: away }, 950)
    expect([two.saver.state, two.wakeMs]).toEqual(['away', 1450])
    two.hear({ on: 'told', revision: 1, form: currentForm }, 1000)
    expect(two.saver.state).toBe('away')
    answer(1100)
    expect([server.project.note, two.saver.state]).toEqual(['two', 'saved'])
    // On a network again, nothing waits for its next try.
    two.hear(note('d', 'again'), 1110)
    two.hear({ on: 'time' }, 1500)
    const failed = { on: 'failed', call: (wire.shift()!.command as { call: number }).call, why: 'away', problem: away } as const
    two.hear(failed, 1510)
    expect([two.saver.state, wire.length]).toEqual(['away', 0])
    two.hear({ on: 'online' }, 1520)
    expect(answer(1530)).toMatchObject({ do: 'save' })
    expect([server.project.note, two.saver.state]).toEqual(['again', 'saved'])
    two.hear({ on: 'told', revision: 9, form: currentForm + 1 }, 1600)
    two.hear(note('c', 'three'), 1300)
    two.hear({ on: 'time' }, 9000)
    expect([two.stopped, two.saver.state, wire.length]).toEqual([true, 'load again', 0])
  })
})
