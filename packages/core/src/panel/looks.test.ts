import { describe, expect, test } from 'vitest'
import { colourToRgb565 } from '../raster/index.ts'
import { startingColours } from '../palette/index.ts'
import { freshProject, plainPanel, usersOf, type Project } from '../project/index.ts'
import { edited } from '../testing/demo.ts'
import { testAssets, testTypefaces } from '../testing/fonts.ts'
import { Workbench } from '../workbench/index.ts'

const colour = (role: string, look: 'night' | 'day') => startingColours.find((c) => c.name === role)![look]
const [ownLook, bright] = [0xff00 + 8, [1, 0]]

function panelWith(looks: Project['looks'], more: (project: Project) => Project = (p) => p): Workbench {
  let project = freshProject('Looks', { ...plainPanel, width: 200, height: 100 }, testTypefaces)
  project = edited(project, 'set looks', { looks })
  project = edited(project, 'add widgets', {
    page: project.startPage,
    after: '',
    widgets: [{ id: 'widget:card', kind: 'shape', place: { x: 20, y: 20, width: 60, height: 40 } }],
  })
  return new Workbench(more(project), testAssets)
}
const pixel = (bench: Workbench, x: number, y: number) => {
  bench.paint()
  return bench.rig.panel.glass.surface.pixels[y * 200 + x]
}
const has = (bench: Workbench, look: 'night' | 'day') => {
  expect(pixel(bench, 1, 1)).toBe(colourToRgb565(colour('ground', look)))
  expect(pixel(bench, 50, 40)).toBe(colourToRgb565(colour('surface', look)))
}

describe('looks', () => {
  test('one word changes a panel that has both, and back; nothing else is a look', () => {
    const bench = panelWith('both')
    const { memory } = bench.rig.panel
    has(bench, 'night')
    expect(memory.hostWrite(ownLook, bright)).toBeNull()
    has(bench, 'day')
    expect(memory.hostWrite(ownLook, [2, 0])).toBe('value')
    expect(memory.hostWrite(ownLook, [0, 0])).toBeNull()
    has(bench, 'night')
  })

  test.each(['night', 'day'] as const)('a panel that has only the look %s keeps it', (look) => {
    const bench = panelWith(look)
    has(bench, look)
    expect(bench.rig.panel.memory.hostWrite(ownLook, look === 'day' ? [0, 0] : [1, 0])).toBe('value')
    has(bench, look)
  })

  test('a look that is taken away while it shows goes to the one that is left', () => {
    const bench = panelWith('both')
    bench.rig.panel.memory.hostWrite(ownLook, bright)
    has(bench, 'day')
    bench.take(edited(bench.project, 'set looks', { looks: 'night' }))
    has(bench, 'night')
  })

  test('a colour changed by name changes all that has it; deleted, another stands in its place', () => {
    const bench = panelWith('night', (project) =>
      edited(
        edited(project, 'add colour', { id: 'colour:moss', name: 'moss', night: '#00ff00', day: '#008200' }),
        'set widgets',
        {
          ids: ['widget:card'],
          values: { 'face/fill': 'colour:moss' },
        },
      ),
    )
    expect(pixel(bench, 50, 40)).toBe(0x07e0)
    bench.take(edited(bench.project, 'set colour', { id: 'colour:moss', values: { night: '#ff0000' } }))
    expect(pixel(bench, 50, 40)).toBe(0xf800)
    expect(usersOf(bench.project, 'colour:moss').map((ref) => ref.from)).toEqual(['widget:card'])
    bench.take(edited(bench.project, 'delete colour', { id: 'colour:moss', instead: 'colour:ink' }))
    expect(pixel(bench, 50, 40)).toBe(colourToRgb565(colour('ink', 'night')))
    expect(() => edited(bench.project, 'delete colour', { id: 'colour:ink' })).toThrow('edit.role')
  })

  test('an untouched page is another by another palette', () => {
    const bench = panelWith('night')
    bench.take(edited(bench.project, 'use palette', { palette: 'Far view' }))
    expect(pixel(bench, 1, 1)).toBe(0)
  })
})
