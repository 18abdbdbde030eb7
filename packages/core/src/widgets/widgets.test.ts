import { colourIn, startingColours } from '../palette/index.ts'
import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { around, intersect, isEmptyRect, mustHold, noRect, type Rect } from '../base/index.ts'
import { makeSheet, plainly, readTypeface } from '../artwork/index.ts'
import { Surface } from '../raster/index.ts'
import type { Values } from '../describe/index.ts'
import type { CompileContext } from '../settings/index.ts'
import { testAssets, testTypefaces } from '../testing/fonts.ts'
import {
  freshHolds,
  holdsTypes,
  isInRange,
  isNumber,
  unknownTime,
  type Cell,
  type Holds,
  type NumberHolds,
  type Value,
} from '../variables/index.ts'
import { boundKey, nothingTyped, plainFormats, widgetKinds, type Live, type WidgetKind } from './index.ts'

const sheet = makeSheet(plainly(mustHold(readTypeface(testAssets.get(testTypefaces[0]!.asset)!))), 20)
const cellOf = (holds: Holds, stale: Cell['stale'] = null): Cell => ({
  index: 1,
  address: 16,
  words: 1,
  holds,
  order: 'low',
  travels: 'both',
  stale,
})

const colours = Object.fromEntries(startingColours.map((c) => [c.id, c]))
const context = (cell: Cell): CompileContext => ({
  cell: (id) => (id ? cell : null),
  pageNumber: () => 1,
  commandNumber: () => null,
  widgetNumber: () => 1,
  sheet: () => 'letters',
  picture: () => null,
  face: () => null,
  colour: (stored) => colourIn(colours, 'night', stored),
})
const compiled = (kind: WidgetKind, values: Values, cell: Cell) =>
  kind.settings.compile({ ...kind.settings.defaults, ...values }, context(cell))
const live = (value: Value, holds: Holds, more: Partial<Live> = {}, stale = false): Live => ({
  read: () => ({ value, inRange: isInRange(holds, value), stale, written: true, known: true }),
  sheet: () => sheet,
  pressed: false,
  enabled: true,
  formats: plainFormats,
  page: 1,
  onDesk: false,
  typed: () => ({ ...nothingTyped, draft: '12.5' }),
  nowUs: 0,
  sinceUs: 0,
  ...more,
})
/** State of a widget after a while of samples. */
const stateOf = (kind: WidgetKind, settings: Values, seen: Live): unknown => {
  const state: unknown = kind.state?.(settings)
  for (let k = 0; k < 5; k++) kind.sample?.(settings, state, seen)
  return state
}

/** The first pixel outside a rectangle for which something is wrong; −1 for none. */
function outside(rect: Rect, isWrong: (index: number) => boolean): number {
  for (let i = 0; i < 120 * 80; i++) {
    const [x, y] = [i % 120, Math.floor(i / 120)]
    const inside = x >= rect.x && y >= rect.y && x < rect.x + rect.width && y < rect.y + rect.height
    if (!inside && isWrong(i)) return i
  }
  return -1
}

const gestures = fc.array(
  fc.record({
    kind: fc.constantFrom(...(['down', 'move', 'up', 'slid off', 'held', 'cancelled'] as const)),
    x: fc.integer({ min: -300, max: 300 }),
    y: fc.integer({ min: -300, max: 300 }),
    inside: fc.boolean(),
    atUs: fc.nat(1_000_000),
  }),
  { maxLength: 12 },
)
const keys = fc.array(fc.constantFrom('1', '9', '.', 'sign', 'delete', 'clear', 'accept'), { maxLength: 12 })

const rects = fc.record({
  x: fc.integer({ min: -20, max: 100 }),
  y: fc.integer({ min: -20, max: 60 }),
  width: fc.integer({ min: 1, max: 120 }),
  height: fc.integer({ min: 1, max: 70 }),
})
const valueOf = (holds: Holds, n: number): Value =>
  holds.type === 'text' ? `n${n}` : holds.type === 'choice' ? n % 3 : isNumber(holds) ? n : n % 65536

describe.each(widgetKinds().map((kind) => [kind.kind, kind] as const))('every %s', (_, kind) => {
  const bound = Object.hasOwn(kind.settings.fields, 'variable') ? { variable: 'variable:a' } : {}

  test('takes its own defaults, names its references and lets go of them', () => {
    const { schema } = kind.settings
    const values = { ...kind.settings.defaults, ...bound }
    expect(schema.validate(values).error).toBeUndefined()
    expect(kind.settings.refs(values).length).toBeGreaterThanOrEqual(Object.keys(bound).length)
    const without = kind.settings.without(values, 'variable:a')
    const refsIn = (raw: Values) => kind.settings.refs(raw).map(({ ref }) => ref.to)
    expect(refsIn(without).filter((id) => id.startsWith('variable:') && !id.startsWith('variable:own-'))).toEqual([])
    expect(schema.validate(without).error).toBeUndefined()
    // It is drawn with colours and fonts of the project; each can be deleted.
    for (const id of refsIn(without)) {
      const instead = id.startsWith('variable:') ? '' : id.startsWith('style:') ? 'style:other' : '#123456'
      const after = kind.settings.without(without, id, instead)
      expect(refsIn(after)).not.toContain(id)
      expect(schema.validate(after).error).toBeUndefined()
    }
    expect(kind.settings.list.some((s) => s.essential)).toBe(true)
    expect(kind.settings.list.map((s) => s.key)).toEqual(Object.keys(kind.settings.fields))
  })

  test('paints inside its place, whatever it is bound to and whatever the value', () => {
    fc.assert(
      fc.property(
        rects,
        fc.constantFrom(...holdsTypes),
        fc.nat(70_000),
        fc.boolean(),
        fc.boolean(),
        (place, type, n, pressed, stale) => {
          const cell = cellOf(freshHolds(type), { afterMs: 100, shows: n % 2 ? 'dim' : 'dashes' })
          const surface = new Surface(120, 80)
          surface.pixels.fill(0x1234)
          const settings = compiled(kind, bound, cell)
          const seen = live(valueOf(cell.holds, n), cell.holds, { pressed }, stale)
          const state = stateOf(kind, settings, seen)
          surface.within(place, () => kind.paint(surface, place, settings, seen, state))
          expect(outside(place, (i) => surface.pixels[i] !== 0x1234)).toBe(-1)
          expect(typeof kind.shows(settings, seen, state)).toBe('string')
        },
      ),
    )
  })

  test('only its moving part changes with the value, and what it covers hides what was below', () => {
    fc.assert(
      fc.property(rects, fc.nat(999), fc.nat(999), (place: Rect, before, after) => {
        // One value in five means that there is none.
        const cell = cellOf({ ...(freshHolds('u16') as NumberHolds), none: { raw: 7, word: 'open' } })
        const settings = compiled(kind, bound, cell)
        const [a, b] = [before, after].map((n) => (n % 5 ? n : 7)) as [number, number]
        const paint = (n: number, ground: number) => {
          const surface = new Surface(120, 80)
          surface.pixels.fill(ground)
          const seen = live(n, cell.holds)
          surface.within(place, () => kind.paint(surface, place, settings, seen, stateOf(kind, settings, seen)))
          return surface
        }
        const movingAt = (n: number) => {
          const seen = live(n, cell.holds)
          return kind.moving ? kind.moving(place, settings, seen, stateOf(kind, settings, seen)) : place
        }
        const moving = around(movingAt(a), movingAt(b))
        const [one, two] = [paint(a, 0), paint(b, 0)]
        expect(outside(moving, (i) => one.pixels[i] !== two.pixels[i])).toBe(-1)
        const seen = live(a, cell.holds)
        const solid = kind.solid?.(place, settings, seen, stateOf(kind, settings, seen)) ?? noRect
        const hidden = intersect(intersect(solid, place), { x: 0, y: 0, width: 120, height: 80 })
        if (!isEmptyRect(hidden)) expect(paint(a, 0xffff).copyOf(hidden)).toEqual(one.copyOf(hidden))
      }),
    )
  })

  test('whatever a finger or a keypad does, it writes nothing but values of its variable, and changes nothing but its state', () => {
    fc.assert(
      fc.property(rects, gestures, keys, (place, all, typed) => {
        const cell = cellOf({ type: 'u16', factor: 0.1, offset: 0, decimals: 1, unit: '', min: 5, max: 95 })
        const settings = compiled(kind, { ...bound, ...('keypad' in kind.settings.fields ? { keypad: 'page:k' } : {}) }, cell)
        const before = JSON.stringify(settings)
        const seen = live(20, cell.holds)
        const [mine, other] = [stateOf(kind, settings, seen), stateOf(kind, settings, seen)]
        const untouched = JSON.stringify(other)
        const effects = [
          ...all.flatMap((g) => kind.touch?.(g, place, settings, mine, seen) ?? []),
          ...typed.flatMap((key) => kind.key?.(key, settings, mine, seen) ?? []),
        ]
        for (const effect of effects) {
          if (effect.do !== 'write') continue
          expect(effect.cell).toBe(cell)
          expect([effect.value, isInRange(cell.holds, effect.value)]).toEqual([effect.value, true])
        }
        if (all.at(-1)?.kind === 'up' && kind.kind === 'slider')
          for (const effect of effects.slice(-1)) expect(effect).toMatchObject({ last: true })
        expect([JSON.stringify(settings), JSON.stringify(other)]).toEqual([before, untouched])
        kind.closed?.(mine)
        expect(typeof kind.shows(settings, seen, kind.keeps?.(mine, settings) ?? mine)).toBe('string')
      }),
    )
  })

  test('what a new one is given is valid, and what it finds wrong is said', () => {
    const fresh = kind.fresh?.() ?? {}
    const values = { ...kind.settings.defaults, ...fresh.settings }
    expect(kind.settings.schema.validate(values).error).toBeUndefined()
    if (fresh.variable)
      expect(kind.settings.fields[boundKey(kind.kind)!]!.accepts ?? [fresh.variable.type]).toContain(fresh.variable.type)
    for (const { says } of kind.findings?.(values, () => null) ?? []) expect(says).toMatch(/^[^.]{4,100}$/)
  })
})

const kindOf = (name: string) => widgetKinds().find((k) => k.kind === name)!
const shows = (name: string, values: Values, holds: Holds, value: Value, stale: Cell['stale'] = null, isStale = false) => {
  const cell = cellOf(holds, stale)
  const settings = compiled(kindOf(name), { variable: 'variable:a', ...values }, cell)
  const seen = live(value, holds, {}, isStale)
  return kindOf(name).shows(settings, seen, kindOf(name).state?.(settings))
}
const tenths: Holds = { type: 'i16', factor: 0.1, offset: 0, decimals: 1, unit: '°C', min: -40, max: 60 }

describe('what a person reads', () => {
  test.each([
    [{}, 4.2, '4.2 °C'],
    [{}, -4.25, '-4.3 °C'],
    [{ unit: false }, 4.2, '4.2'],
    [{ zeros: true, digits: 3 }, 4.2, '004.2 °C'],
    [{ zeros: true, digits: 3 }, -4.2, '-004.2 °C'],
    [{ digits: 1 }, 12, '## °C'],
    [{}, 99, '99.0 °C'],
    [{}, -0.04, '0.0 °C'],
  ])('a number %j of %s', (settings, value, text) => expect(shows('number', settings, tenths, value)).toBe(text))

  test('a number without a variable, stale, of a choice, of a time', () => {
    expect(kindOf('number').shows(compiled(kindOf('number'), {}, cellOf(tenths)), live(0, tenths), undefined)).toBe('—')
    expect(shows('number', {}, tenths, 4, { afterMs: 10, shows: 'dashes' }, true)).toBe('---')
    expect(shows('number', {}, tenths, 4, { afterMs: 10, shows: 'dim' }, true)).toBe('4.0 °C')
    expect(shows('number', {}, { type: 'time' }, 3661)).toBe('01:01:01')
    expect(shows('number', {}, { type: 'time' }, unknownTime)).toBe('--:--:--')
    expect(shows('number', {}, { type: 'time' }, 86_400)).toBe('##:##:##')
  })
  test('a number that means no value: its word stands there, whatever shows it, and no limit is passed', () => {
    const open: Holds = { ...tenths, none: { raw: -32768, word: 'open' } }
    const read = ['number', 'bar', 'gauge', 'slider', 'digits', 'entry'].map((kind) => shows(kind, {}, open, -3276.8))
    expect(new Set(read)).toEqual(new Set(['open']))
    expect([shows('number', { digits: 5 }, open, -3276.7), shows('number', {}, open, 4)]).toEqual(['-3276.7 °C', '4.0 °C'])
    // A bar and a gauge point nowhere, as where nothing is known; a number has no mark for what lies beyond its range.
    for (const kind of ['number', 'bar', 'gauge']) {
      const place = { x: 0, y: 0, width: 120, height: 80 }
      const painted = (holds: Holds, value: number, stale: Cell['stale'], isStale: boolean) => {
        const surface = new Surface(120, 80)
        const settings = compiled(kindOf(kind), { variable: 'variable:a', writes: false }, cellOf(holds, stale))
        kindOf(kind).paint(surface, place, settings, live(value, holds, {}, isStale), undefined)
        return surface.pixels
      }
      if (kind !== 'number')
        expect(painted(open, -3276.8, null, false)).toEqual(painted(tenths, -3276.8, { afterMs: 10, shows: 'dashes' }, true)) // prettier-ignore
      else expect(painted(open, -3276.8, null, false)).not.toEqual(painted(tenths, -3276.8, null, false))
    }
    expect(kindOf('number').letters!(kindOf('number').settings.defaults, () => open)).toContain('open')
  })
  test('a text, empty or stale', () => {
    const text: Holds = { type: 'text', bytes: 8, encoding: 'latin-1' }
    expect([shows('text', {}, text, 'Clear'), shows('text', { empty: 'nothing' }, text, '')]).toEqual(['Clear', 'nothing'])
    expect(shows('text', {}, text, 'Clear', { afterMs: 10, shows: 'dashes' }, true)).toBe('---')
  })
  const face = { shape: 'box', fill: '#123456', fillTo: '', gradient: 'down', border: '', borderWidth: 0, radius: 0 }
  const state = (when: object, meaning: string) => ({ when, meaning, face, textColour: '#ffffff' })
  test('an indicator says the first state that holds, or its other words', () => {
    const states = [
      state({ by: 'range', from: 10, to: 20 }, 'warm'),
      state({ by: 'value', value: 15 }, 'never'),
      state({ by: 'value', value: 3 }, 'three'),
    ]
    const u16 = freshHolds('u16')
    expect([15, 10, 20, 3, 21].map((v) => shows('indicator', { states, otherwiseText: 'other' }, u16, v))).toEqual([
      'warm',
      'warm',
      'warm',
      'three',
      'other',
    ])
    const bits = [state({ by: 'bit', bit: 2, set: true }, 'rain'), state({ by: 'bit', bit: 2, set: false }, 'dry')]
    expect([4, 3, 0xffff].map((v) => shows('indicator', { states: bits }, { type: 'flags', names: [] }, v))).toEqual([
      'rain',
      'dry',
      'rain',
    ])
  })
  test('labels and buttons say their text', () => {
    expect(shows('label', { text: 'Dew' }, tenths, 0)).toBe('Dew')
    expect(shows('button', { text: 'Open' }, tenths, 0)).toBe('Open')
  })
})
