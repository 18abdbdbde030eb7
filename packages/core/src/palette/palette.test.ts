import { describe, expect, test } from 'vitest'
import {
  startingColours,
  colourIn,
  coloursOf,
  contrastOf,
  lookNames,
  palettes,
  seenAs,
  shownOnGlass,
  startingStyles,
  type Sight,
} from './index.ts'

const byId = Object.fromEntries(startingColours.map((c) => [c.id, c]))

describe('palettes', () => {
  test('black on white is 21 : 1, mid grey as WCAG has it', () => {
    expect(contrastOf('#000000', '#ffffff')).toBeCloseTo(21, 9)
    expect(contrastOf('#767676', '#ffffff')).toBeCloseTo(4.54, 2)
  })

  test.each(palettes.flatMap((palette) => lookNames.map((look) => [palette.name, look] as const)))(
    '%s by %s is read from afar, and is on 16 bits what it is here',
    (name, look) => {
      const colours = Object.fromEntries(coloursOf(palettes.find((p) => p.name === name)!).map((c) => [c.name, c[look]]))
      for (const colour of Object.values(colours)) expect(shownOnGlass(colour)).toBe(colour)
      for (const under of [colours['ground']!, colours['surface']!]) {
        expect(contrastOf(colours['ink']!, under)).toBeGreaterThan(10)
        expect(contrastOf(colours['muted']!, under)).toBeGreaterThan(6)
        for (const tone of ['accent', 'good', 'warning', 'bad'])
          expect([tone, contrastOf(colours[tone]!, under) > 4.5]).toEqual([tone, true])
        expect(contrastOf(colours['line']!, under)).toBeGreaterThan(3)
      }
      // A pressed key has the accent for its ground, and the ground for its ink.
      expect(contrastOf(colours['accent']!, colours['ground']!)).toBeGreaterThan(4.5)
      expect(contrastOf(colours['off']!, colours['accent']!)).toBeGreaterThan(3)
    },
  )

  test('a tint is a share of its colour over the surface, less by day', () => {
    expect(colourIn(byId, 'night', 'colour:bad tint')).toBe('#4f374c')
    expect(colourIn(byId, 'day', 'colour:bad tint')).toBe('#f4dee0')
    expect(colourIn(byId, 'night', '#ffffff tint')).not.toBe('#ffffff')
    expect(colourIn(byId, 'night', '#12ab34')).toBe('#12ab34')
    expect(colourIn(byId, 'night', '')).toBe('')
  })

  test('type is as large on a finer glass', () => {
    expect(startingStyles().map(({ size }) => size)).toEqual([20, 26, 16, 17])
    expect(startingStyles(10.5).map(({ size }) => size)).toEqual([40, 52, 32, 34])
    expect(startingStyles(1).map(({ size }) => size)).toEqual([8, 8, 8, 8])
  })
})

describe('the glass as others see it', () => {
  const apart = (a: string, b: string) => {
    const of = (colour: string) => [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16))
    const [one, other] = [of(a), of(b)]
    return Math.hypot(...one.map((channel, k) => channel - other[k]!))
  }
  test('grey stays grey, and whoever sees all colours sees them', () => {
    for (const sight of ['red-blind', 'green-blind', 'blue-blind'] as const)
      for (const grey of ['#000000', '#808080', '#ffffff']) expect(apart(seenAs(grey, sight), grey)).toBeLessThan(2)
    expect(seenAs('#12ab9f', 'as it is')).toBe('#12ab9f')
  })
  test('red and green come together for who lacks one of them, not for who lacks blue', () => {
    const [red, green] = ['#c04030', '#60802a']
    const far = (sight: Sight) => apart(seenAs(red, sight), seenAs(green, sight)) / apart(red, green)
    expect([far('red-blind') < 0.6, far('green-blind') < 0.6, far('blue-blind') > 0.9]).toEqual([true, true, true])
  })
  test('in sunlight black is grey and contrast goes', () => {
    const [black, white] = [seenAs('#000000', 'in sunlight'), seenAs('#ffffff', 'in sunlight')]
    expect(white).toBe('#ffffff')
    expect(contrastOf(black, white)).toBeGreaterThan(1.9)
    expect(contrastOf(black, white)).toBeLessThan(2.2)
  })
})
