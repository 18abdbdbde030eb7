import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import type { CompileContext } from '../settings/index.ts'
import { inBounds, type Cell, type Value } from '../variables/index.ts'
import { oneMoreAction } from '../testing/one-more.ts'
import {
  ruleSentence,
  rulesType,
  actionKind,
  actionKinds,
  freshLine,
  lasts,
  perform,
  performEnd,
  stepped,
  type Rule,
  type World,
} from './index.ts'

const numberCell = (min: number, max: number, factor = 1): Cell => ({
  index: 1,
  address: 16,
  words: 1,
  holds: { type: 'u16', factor, offset: 0, decimals: 1, unit: '', min, max },
  order: 'low',
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
    moment: 'held',
    read: () => now,
    do(effect) {
      if (effect.do === 'write') now = inBounds(effect.cell.holds, effect.value)
      if (effect.do === 'bits') now = (Number(now) & ~effect.mask) | effect.bits
      did.push(effect.do === 'page' ? `page ${effect.number}` : effect.do === 'event' ? `event ${effect.what}` : effect.do)
    },
  }
  return { w, did, value: () => now }
}

const withCell = (action: string, values: object, cell = numberCell(0, 100)) => ({ action, with: { variable: cell, ...values } })
const done = (action: string, values: object, start: Value, cell = numberCell(0, 100)) => {
  const { w, value } = world(start)
  perform(withCell(action, values, cell), w)
  return value()
}
const text: Cell = { ...numberCell(0, 1), holds: { type: 'text', bytes: 8, encoding: 'ascii' } }

describe('what an action does', () => {
  test.each([
    ['set', { to: 42 }, 7, 42],
    ['set', { to: { follow: numberCell(0, 9) } }, 7, 7],
    ['step', { by: 5, atEnd: 'stop' }, 7, 12],
    ['step', { by: -5, atEnd: 'stop' }, 3, 0],
    ['step', { by: 30, atEnd: 'stop' }, 90, 100],
    ['step', { by: 1, atEnd: 'wrap' }, 100, 0],
    ['step', { by: -1, atEnd: 'wrap' }, 0, 100],
    ['toggle', {}, 0, 1],
    ['toggle', {}, 1, 0],
    ['toggle', {}, 5, 0],
    ['set bits', { mask: 0b0110 }, 0b1000, 0b1110],
    ['clear bits', { mask: 0b0110 }, 0b1111, 0b1001],
    ['toggle bits', { mask: 0b0110 }, 0b0101, 0b0011],
    ['while held', {}, 9, 1],
  ])('%s %j on %s gives %s', (action, values, start, result) => expect(done(action, values, start)).toBe(result))

  test('what is 1 while held is 0 at its end, and says how often it is said again', () => {
    const { w, value } = world(1)
    performEnd(withCell('while held', { everyMs: 200 }), w)
    expect(value()).toBe(0)
    expect(lasts(withCell('while held', { everyMs: 200 }))).toEqual({ everyMs: 200 })
    expect(lasts(withCell('set', {}))).toBeNull()
  })

  test('nothing is converted: a text is no number, a number no text, and no number is none', () => {
    for (const [action, values] of [
      ['set', { to: { follow: text } }],
      ['step', { by: { follow: text }, atEnd: 'stop' }],
    ] as const) {
      const { w, did } = world('FAIR')
      perform(withCell(action, values), w)
      expect(did).toEqual([])
    }
    for (const action of ['step', 'toggle', 'while held', 'set bits', 'clear bits', 'toggle bits', 'set']) {
      const { w, did } = world('FAIR')
      perform(withCell(action, { by: 1, to: 1, mask: 1, atEnd: 'stop' }, text), w)
      expect([action, did]).toEqual([action, []])
    }
    expect(done('set', { to: { follow: text } }, 'RAIN', text)).toBe('RAIN')
    expect(done('step', { by: 1, atEnd: 'stop' }, NaN)).toBeNaN()
  })
  test('pages and events go to the panel', () => {
    const { w, did } = world(0)
    perform({ action: 'go to page', with: { page: 3 } }, w)
    perform({ action: 'send event', with: {} }, w)
    expect(did).toEqual(['page 3', 'event held'])
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

const some: Record<string, Record<string, unknown>> = {
  set: { variable: 'variable:a', to: { follows: 'variable:b' } },
  step: { variable: 'variable:a', by: { follows: 'variable:b' }, atEnd: 'wrap' },
  toggle: { variable: 'variable:a' },
  'while held': { variable: 'variable:a', everyMs: 100 },
  'set bits': { variable: 'variable:a', mask: 5 },
  'clear bits': { variable: 'variable:a', mask: 5 },
  'toggle bits': { variable: 'variable:a', mask: 5 },
  'go to page': { page: 'page:a' },
  'send event': {},
  'open pop-up': { popUp: 'page:a' },
  'close pop-up': {},
  type: { key: '5' },
  'go back': {},
  'send values': {},
  'open start page': {},
  beep: { ms: 300 },
  'lock touch': { seconds: 30 },
  clear: { widget: 'widget:a' },
  'send command': { command: 'command:a' },
}
/** Those that name nothing. */
const bare = ['send event', 'close pop-up', 'type', 'go back', 'send values', 'open start page', 'beep', 'lock touch']
const ruleOf = (action: string, values: Record<string, unknown> = {}): Rule => ({
  id: 'rule:1',
  on: { moment: 'pressed', everyMs: 0 },
  lines: [{ id: 'line:1', action, with: values }],
})
const valid = (...rules: Rule[]) => rulesType.schema.validate(rules, { convert: false }).error === undefined
const refsOf = (one: Rule) => rulesType.refs!([one]).filter((ref) => ref.to !== '')
const context = (there: boolean): CompileContext => ({
  cell: () => (there ? numberCell(0, 9) : null),
  pageNumber: () => (there ? 2 : null),
  commandNumber: () => (there ? 4 : null),
  widgetNumber: () => (there ? 3 : null),
  sheet: () => null,
  picture: () => null,
  face: () => null,
  colour: (stored) => stored,
})
const linesOf = (one: Rule) => rulesType.compile([one], context(true))[0]!.lines

describe.each(actionKinds().map((kind) => kind.action))('%s', (action) => {
  const one = ruleOf(action, some[action])
  test('is made valid under any moment', () => {
    for (const moment of ['pressed', 'lifted', 'opened', 'left', 'time', 'started'] as const)
      expect(valid(ruleOf(action, freshLine(action, moment).with))).toBe(true)
  })
  test('passes its schema, fresh and filled, and nothing else does', () => {
    expect(valid(ruleOf(action, freshLine(action).with))).toBe(true)
    expect(valid(one)).toBe(true)
    expect(valid(ruleOf(action, { ...some[action], extra: 1 }))).toBe(false)
    expect(valid(ruleOf(action, { ...some[action], variable: 7, page: 7, popUp: 7 }))).toBe(false)
  })
  test('names what it refers to, and lets go of it', () => {
    for (const { to: id } of refsOf(one)) {
      const [without] = rulesType.unbind!([one], id) as [Rule]
      expect(refsOf(without).map((ref) => ref.to)).not.toContain(id)
      expect(valid(without)).toBe(true)
    }
    expect(rulesType.unbind!([one], 'variable:other')).toEqual([one])
  })
  test('compiles when it names all it needs, and is left out when not', () => {
    expect(linesOf(one)).toMatchObject([{ action }])
    expect(linesOf(ruleOf(action, freshLine(action).with)).length).toBe(bare.includes(action) ? 1 : 0)
  })
  test('is said in a sentence that names its variable or page', () => {
    const words = ruleSentence(one, (id) => id.split(':')[1]!)
    expect(words).toMatch(/^on press: [a-z]/)
    if (!bare.includes(action)) expect(words).toMatch(/\ba\b/)
    expect(ruleSentence(ruleOf(action, freshLine(action).with), () => '')).not.toContain('undefined')
  })
})

test('an unknown action, a wrong mask, too many actions or lines are refused by the schema', () => {
  expect(valid(ruleOf('explode'))).toBe(false)
  expect(valid(ruleOf('set bits', { ...some['set bits'], mask: 0 }))).toBe(false)
  expect(valid(...Array.from({ length: 17 }, (_, k) => ({ ...ruleOf('send event'), id: `rule:${k}` })))).toBe(false)
  const lines = Array.from({ length: 17 }, (_, k) => ({ id: `line:${k}`, action: 'send event', with: {} }))
  expect(valid({ ...ruleOf('send event'), lines })).toBe(false)
})

test('an action of another one needs its one record: it is valid, refers, compiles, is said and done', () => {
  const gone = oneMoreAction()
  const one = ruleOf('halve', { variable: 'variable:a', by: { follows: 'variable:b' } })
  expect(actionKinds().map((kind) => kind.action)).toContain('halve')
  expect([valid(one), refsOf(one).map(({ to, use }) => `${use} ${to}`)]).toEqual([
    true,
    ['writes variable:a', 'reads variable:b'],
  ])
  expect(ruleSentence(one, (id) => id.split(':')[1]!)).toBe('on press: halves a')
  expect(done('halve', { by: 4 }, 20)).toBe(5)
  expect(linesOf(one)).toMatchObject([{ action: 'halve' }])
  gone()
  expect([valid(one), actionKind('halve'), linesOf(one)]).toEqual([false, undefined, []])
})

test('a key that sends the values of its page sends all of them, a page that is left what has changed', () => {
  const which = (moment: 'pressed' | 'left') => freshLine('send values', moment).with['which']
  expect([which('pressed'), which('left')]).toEqual(['all of them', 'what changed'])
})
