import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import type { Cell, Value } from '../variables/index.ts'
import {
  actionRefs,
  actionSentence,
  actionsSchema,
  actionWithout,
  compileAction,
  deedKinds,
  freshDeed,
  perform,
  stepped,
  type Action,
  type CompiledAction,
  type Deed,
  type World,
} from './index.ts'

const numberCell = (min: number, max: number, factor = 1): Cell => ({
  address: 16,
  words: 1,
  holds: { type: 'u16', factor, offset: 0, decimals: 1, unit: '', min, max },
  travels: 'both',
  stale: null,
})
const choiceCell: Cell = {
  ...numberCell(0, 1),
  holds: {
    type: 'choice',
    choices: [
      { value: 3, word: 'low' },
      { value: 7, word: 'mid' },
      { value: 1, word: 'high' },
    ],
  },
}

/** A world that remembers one value and what was done. */
function world(value: Value) {
  const did: string[] = []
  let now = value
  const w: World = {
    read: () => now,
    write: (_cell, next) => {
      now = next
      did.push(`write ${next}`)
    },
    goTo: (page) => void did.push(`page ${page}`),
    sendEvent: (moment) => void did.push(`event ${moment}`),
  }
  return { w, did, value: () => now }
}

const done = (deed: object, start: Value, lifted = false) => {
  const { w, value } = world(start)
  perform({ on: 'press', repeatMs: 0, cell: numberCell(0, 100), ...deed } as CompiledAction, w, lifted)
  return value()
}

describe('what a deed does', () => {
  test.each([
    [{ do: 'set', to: 42 }, 7, 42],
    [{ do: 'set', to: { cell: numberCell(0, 9) } }, 7, 7],
    [{ do: 'step', by: 5, atEnd: 'stop' }, 7, 12],
    [{ do: 'step', by: -5, atEnd: 'stop' }, 3, 0],
    [{ do: 'step', by: 30, atEnd: 'stop' }, 90, 100],
    [{ do: 'step', by: 1, atEnd: 'wrap' }, 100, 0],
    [{ do: 'step', by: -1, atEnd: 'wrap' }, 0, 100],
    [{ do: 'toggle' }, 0, 1],
    [{ do: 'toggle' }, 1, 0],
    [{ do: 'toggle' }, 5, 0],
    [{ do: 'set bits', mask: 0b0110 }, 0b1000, 0b1110],
    [{ do: 'clear bits', mask: 0b0110 }, 0b1111, 0b1001],
    [{ do: 'toggle bits', mask: 0b0110 }, 0b0101, 0b0011],
    [{ do: 'one while pressed' }, 9, 1],
  ])('%j on %s gives %s', (deed, start, result) => expect(done(deed, start)).toBe(result))

  test('what is 1 while pressed is 0 when the finger is lifted', () => expect(done({ do: 'one while pressed' }, 1, true)).toBe(0))

  test('nothing is converted: a text is no number, a number no text, and no number is none', () => {
    const text: Cell = { ...numberCell(0, 1), holds: { type: 'text', bytes: 8, encoding: 'ascii' } }
    const onNumber = [
      { do: 'set', to: { cell: text } },
      { do: 'step', by: { cell: text }, atEnd: 'stop' },
    ]
    for (const deed of onNumber) {
      const { w, did } = world('FAIR')
      perform({ on: 'press', repeatMs: 0, cell: numberCell(0, 100), ...deed } as CompiledAction, w)
      expect(did).toEqual([])
    }
    const onText = ['step', 'toggle', 'one while pressed', 'set bits', 'clear bits', 'toggle bits', 'set']
    for (const deed of onText) {
      const { w, did } = world('FAIR')
      perform({ on: 'press', repeatMs: 0, cell: text, do: deed, by: 1, to: 1, mask: 1, atEnd: 'stop' } as never, w)
      expect([deed, did]).toEqual([deed, []])
    }
    expect(done({ do: 'set', cell: text, to: { cell: text } }, 'RAIN')).toBe('RAIN')
    expect(done({ do: 'step', by: 1, atEnd: 'stop' }, NaN)).toBeNaN()
  })
  test('pages and events go to the panel', () => {
    const { w, did } = world(0)
    perform({ on: 'press', repeatMs: 0, do: 'go to page', page: 3 }, w)
    perform({ on: 'hold', repeatMs: 0, do: 'send event' }, w)
    expect(did).toEqual(['page 3', 'event hold'])
  })
})

describe('steps', () => {
  test('never leave the range, whatever the step and wherever they begin', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -50, max: 50 }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: -200, max: 200 }),
        fc.constantFrom('stop' as const, 'wrap' as const),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (min, span, by, atEnd, where) => {
          const cell = numberCell(min, min + span)
          const next = stepped(cell, Math.round(min + where * span), by, atEnd)
          expect(next).toBeGreaterThanOrEqual(min)
          expect(next).toBeLessThanOrEqual(min + span)
        },
      ),
    )
  })
  test('a circle of tenths of a degree closes: 359.9 + 0.1 is 0, 355 + 10 is 5', () => {
    const azimuth = numberCell(0, 359.9, 0.1)
    expect(stepped(azimuth, 359.9, 0.1, 'wrap')).toBeCloseTo(0, 9)
    expect(stepped(azimuth, 355, 10, 'wrap')).toBeCloseTo(5, 9)
    expect(stepped(azimuth, 5, -10, 'wrap')).toBeCloseTo(355, 9)
  })
  test('as many steps forward as back come home', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 30 }),
        fc.integer({ min: 0, max: 20 }),
        (by, times, start) => {
          const cell = numberCell(0, 20)
          let now = start
          for (let k = 0; k < times; k++) now = stepped(cell, now, by, 'wrap')
          for (let k = 0; k < times; k++) now = stepped(cell, now, -by, 'wrap')
          expect(now).toBe(start)
        },
      ),
    )
  })
  test('a choice steps through its words in their order, not their numbers', () => {
    expect([stepped(choiceCell, 3, 1, 'stop'), stepped(choiceCell, 7, 1, 'stop'), stepped(choiceCell, 1, 1, 'stop')]).toEqual([
      7, 1, 1,
    ])
    expect([stepped(choiceCell, 1, 1, 'wrap'), stepped(choiceCell, 3, -1, 'wrap')]).toEqual([3, 1])
  })
  test('a time goes round midnight', () => {
    const time: Cell = { ...numberCell(0, 0), words: 2, holds: { type: 'time' } }
    expect([stepped(time, 86_399, 1, 'wrap'), stepped(time, 0, -900, 'wrap'), stepped(time, 86_000, 900, 'stop')]).toEqual([
      0, 85_500, 86_399,
    ])
  })
})

const some: Record<Deed['do'], Deed> = {
  set: { do: 'set', variable: 'variable:a', to: { follows: 'variable:b' } },
  step: { do: 'step', variable: 'variable:a', by: { follows: 'variable:b' }, atEnd: 'wrap' },
  toggle: { do: 'toggle', variable: 'variable:a' },
  'one while pressed': { do: 'one while pressed', variable: 'variable:a' },
  'set bits': { do: 'set bits', variable: 'variable:a', mask: 5 },
  'clear bits': { do: 'clear bits', variable: 'variable:a', mask: 5 },
  'toggle bits': { do: 'toggle bits', variable: 'variable:a', mask: 5 },
  'go to page': { do: 'go to page', page: 'page:a' },
  'send event': { do: 'send event' },
}
const action = (deed: Deed): Action => ({ on: 'press', deed, repeatMs: 0 })

describe.each(deedKinds)('%s', (kind) => {
  test('passes its schema, fresh and filled, and nothing else does', () => {
    expect(actionsSchema.validate([action(freshDeed(kind)), action(some[kind])]).error).toBeUndefined()
    expect(actionsSchema.validate([action({ ...some[kind], extra: 1 } as never)]).error).toBeDefined()
    if (kind !== 'send event') expect(actionsSchema.validate([action({ do: kind } as never)]).error).toBeDefined()
  })
  test('names what it refers to, and lets go of it', () => {
    const refs = actionRefs(action(some[kind]))
    for (const { to: id } of refs) {
      const without = actionWithout(action(some[kind]), id)
      expect(actionRefs(without).map((ref) => ref.to)).not.toContain(id)
      expect(actionsSchema.validate([without]).error).toBeUndefined()
    }
    expect(actionWithout(action(some[kind]), 'variable:other')).toEqual(action(some[kind]))
  })
  test('compiles when all it refers to is there, and is left out when not', () => {
    const cell = numberCell(0, 9)
    expect(
      compileAction(
        action(some[kind]),
        () => cell,
        () => 2,
      ),
    ).toMatchObject({ do: kind, on: 'press' })
    if (kind !== 'send event')
      expect(
        compileAction(
          action(some[kind]),
          () => null,
          () => null,
        ),
      ).toBeNull()
  })
  test('is said in a sentence that names its variable or page', () => {
    const words = actionSentence(action(some[kind]), (id) => id.split(':')[1]!)
    expect(words).toMatch(/^on press: [a-z]/)
    if (kind !== 'send event') expect(words).toMatch(/\ba\b/)
    expect(actionSentence(action(freshDeed(kind)), () => '')).not.toContain('undefined')
  })
})

test('an unknown deed, a wrong mask, too many actions are refused by the schema', () => {
  expect(actionsSchema.validate([action({ do: 'explode' } as never)]).error).toBeDefined()
  expect(actionsSchema.validate([action({ ...some['set bits'], mask: 0 } as never)]).error).toBeDefined()
  expect(actionsSchema.validate(Array.from({ length: 17 }, () => action(freshDeed('send event')))).error).toBeDefined()
})
