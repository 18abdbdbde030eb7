import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { holdsRect, isEmptyRect, type FaceId, type WidgetId } from '../base/index.ts'
import { edited } from '../testing/demo.ts'
import { testAssets, testTypefaces } from '../testing/fonts.ts'
import { freshProject, pictureSettings, plainPanel, usersOf, type Project } from '../project/index.ts'
import { Surface } from '../raster/index.ts'
import { Workbench } from '../workbench/index.ts'
import {
  compileFace,
  fadeWays,
  inverseOf,
  isEmptyFace,
  noFace,
  paintFace,
  picturePlaces,
  solidOf,
  type CompiledFace,
  type Face,
} from './index.ts'

const sides = { width: 20, height: 12 }
/** Each pixel another: its column in red and green, its row in blue. */
const bitmap = {
  ...sides,
  pixels: Uint16Array.from({ length: 240 }, (_, i) => ((i % 20) << 6) | Math.floor(i / 20)),
  alpha: null,
}
const context = {
  colour: (stored: string) => stored,
  picture: (id: string) => (id ? { key: 'all', opaque: true, ...sides } : null),
  face: () => null,
}
const surfaceOf = () => Object.assign(new Surface(56, 40), { bitmaps: () => bitmap })
const colour = fc.constantFrom('#000000', '#ffffff', '#ff8800', '#225588', '#00c060')
const faces: fc.Arbitrary<Face> = fc.record({
  shape: fc.constantFrom('box' as const, 'ellipse' as const),
  fill: fc.oneof(colour, fc.constant('')),
  fillTo: fc.oneof(colour, fc.constant('')),
  gradient: fc.constantFrom(...fadeWays),
  angle: fc.integer({ min: 0, max: 359 }),
  stops: fc.array(fc.record({ at: fc.integer({ min: 1, max: 99 }), colour }), { maxLength: 4 }),
  border: fc.oneof(colour, fc.constant('')),
  borderTo: fc.oneof(colour, fc.constant('')),
  borderWidth: fc.integer({ min: 0, max: 5 }),
  radius: fc.integer({ min: 0, max: 20 }),
  corners: fc.oneof(fc.constant([]), fc.array(fc.integer({ min: 0, max: 20 }), { minLength: 4, maxLength: 4 })),
  shade: fc.integer({ min: 0, max: 8 }),
  ridges: fc.integer({ min: 0, max: 6 }),
  named: fc.constant(''),
  picture: fc.constantFrom('', '', 'picture:all'),
  pictureAt: fc.constantFrom(...picturePlaces),
  pictureKeeps: fc.integer({ min: 0, max: 12 }),
  icon: fc.constantFrom('', '', 'bell', 'wind'),
  iconColour: fc.oneof(colour, fc.constant('')),
  iconSize: fc.integer({ min: 0, max: 40 }),
})
const rect = { x: 6, y: 5, width: 44, height: 30 }

describe('drawn faces', () => {
  test('painted in parts are what they are at once, whatever they are made of', () => {
    fc.assert(
      fc.property(faces, fc.nat(56), fc.nat(40), (face, across, down) => {
        const [whole, parts] = [surfaceOf(), surfaceOf()]
        const compiled = compileFace(face, context)
        paintFace(whole, rect, compiled)
        for (const [x, width] of [
          [0, across],
          [across, 56 - across],
        ] as const)
          for (const [y, height] of [
            [0, down],
            [down, 40 - down],
          ] as const)
            parts.within({ x, y, width, height }, () => paintFace(parts, rect, compiled))
        expect(parts.pixels).toEqual(whole.pixels)
      }),
    )
  })
  test('leave nothing of what was under them where they say they cover, and touch nothing outside their place', () => {
    fc.assert(
      fc.property(faces, (face) => {
        const compiled = compileFace(face, context)
        const painted = [0x0000, 0xffff].map((under) => {
          const surface = surfaceOf()
          surface.fill({ x: 0, y: 0, width: 56, height: 40 }, under)
          paintFace(surface, rect, compiled)
          surface.pixels.forEach((pixel, i) => {
            const [px, py] = [i % 56, Math.floor(i / 56)]
            if ((px < 6 || py < 5 || px >= 50 || py >= 35) && pixel !== under) throw new Error(`${px}, ${py} is touched`)
          })
          return surface.pixels
        })
        const solid = solidOf(compiled, rect)
        if (isEmptyRect(solid)) return
        expect(holdsRect(rect, solid)).toBe(true)
        for (let row = solid.y; row < solid.y + solid.height; row++) {
          const [one, other] = painted.map((pixels) => pixels.subarray(row * 56 + solid.x, row * 56 + solid.x + solid.width))
          expect(one).toEqual(other)
        }
      }),
    )
  })
  const line = (face: Partial<Face>) => {
    const surface = new Surface(56, 40)
    paintFace(surface, rect, compileFace({ ...noFace, fill: '#000000', fillTo: '#ffffff', ...face }, context))
    const at = (x: number, y: number) => (surface.pixels[y * 56 + x]! >> 5) & 63
    return at
  }
  test('a gradient runs where it is said to, from its first colour to its last, through those between', () => {
    const right = line({ gradient: 'at an angle', angle: 90 })
    expect([right(7, 20) < 4, right(48, 20) > 58, Math.abs(right(28, 6) - right(28, 33)) <= 2]).toEqual([true, true, true])
    const up = line({ gradient: 'at an angle', angle: 0 })
    expect([up(28, 33) < 5, up(28, 6) > 57]).toEqual([true, true])
    const out = line({ gradient: 'from the middle' })
    expect([out(28, 20) < 5, out(49, 20) > 55, out(28, 5) > 55]).toEqual([true, true, true])
    const through = line({ gradient: 'at an angle', angle: 90, stops: [{ at: 50, colour: '#ffffff' }] })
    expect([through(8, 20) < 8, through(29, 20) > 58, through(47, 20) > 58]).toEqual([true, true, true])
  })
  test('a picture whose sides keep their size fills any place: corners to the pixel, the middle stretched', () => {
    const surface = surfaceOf()
    paintFace(surface, rect, compileFace({ ...noFace, picture: 'picture:all', pictureKeeps: 4 }, context))
    const at = (x: number, y: number) => {
      const pixel = surface.pixels[(rect.y + y) * 56 + rect.x + x]!
      return [pixel >> 6, pixel & 31]
    }
    expect([at(0, 0), at(3, 3), at(43, 0), at(40, 29), at(43, 29)]).toEqual([[0, 0], [3, 3], [19, 0], [16, 11], [19, 11]]) // prettier-ignore
    // 12 columns become 36, 4 rows become 22: each thrice; five or six times.
    expect([4, 6, 7, 39].map((x) => at(x, 0)[0])).toEqual([4, 4, 5, 15])
    expect([4, 9, 10, 25].map((y) => at(0, y)[1])).toEqual([4, 4, 5, 7])
  })
  test('an icon stands over all else in its colour, where the picture would; pressed in inverse it has that of the fill', () => {
    const plain = compileFace({ ...noFace, fill: '#0000ff', icon: 'square', iconColour: '#ff0000', iconSize: 20 }, context)
    const seen = (face: CompiledFace) => {
      const surface = surfaceOf()
      paintFace(surface, rect, face)
      return new Map([...new Set(surface.pixels)].map((colour) => [colour, surface.pixels.filter((p) => p === colour).length]))
    }
    const inks = seen(plain)
    expect(inks.get(0xf800)).toBeGreaterThan(20)
    expect(inks.get(0x001f)).toBeGreaterThan(800)
    const turned = seen(inverseOf(plain, 0x07e0))
    expect([turned.get(0x001f), turned.get(0xf800)]).toEqual([inks.get(0xf800), undefined])
    expect(isEmptyFace(compileFace(noFace, context))).toBe(true)
    expect(isEmptyFace(compileFace({ ...noFace, icon: 'square' }, context))).toBe(false)
  })
  test('each corner has its own radius', () => {
    const at = line({ fillTo: '', fill: '#ffffff', corners: [0, 12, 0, 12] })
    expect([at(6, 5), at(49, 5), at(49, 34), at(6, 34)].map((level) => level > 50)).toEqual([true, false, true, false])
  })
  test('a shadow inside darkens under the upper edge, ridges come again and again', () => {
    const shaded = line({ fillTo: '', fill: '#ffffff', shade: 6 })
    expect(shaded(28, 5)).toBeLessThan(shaded(28, 9))
    expect(shaded(28, 20)).toBe(63)
    const ridged = line({ fillTo: '', fill: '#808080', ridges: 5 })
    expect([ridged(28, 9), ridged(28, 14)]).toEqual([ridged(28, 19), ridged(28, 24)])
    expect(ridged(28, 9)).toBeLessThan(ridged(28, 12))
  })
})

describe('a face with a name', () => {
  const ids = ['widget:a', 'widget:b']
  const page = Object.keys(freshProject('faces', plainPanel, testTypefaces).pages)[0]
  const place = (x: number) => ({ x, y: 10, width: 60, height: 40 })
  const plain = edited(freshProject('faces', plainPanel, testTypefaces), 'add widgets', {
    page,
    after: '',
    widgets: ids.map((id, k) => ({ id, kind: 'shape', name: id, place: place(10 + 80 * k), settings: {} })),
  })
  const go = { ...noFace, fill: '#00ff00' }
  const named = edited(plain, 'add face', {
    id: 'face:go',
    name: 'go',
    face: go,
    widgets: { 'widget:a': ['face'], 'widget:b': ['face'] },
  })
  const pixels = (project: Project) => Uint16Array.from(new Workbench(project, testAssets).paintPage(page!)!.pixels)
  const at = (all: Uint16Array, x: number) => all[30 * plainPanel.width + x]!

  test('is what all have that are of its name, and a change reaches them all', () => {
    expect(usersOf(named, 'face:go').map(({ from }) => from)).toEqual(ids)
    const green = pixels(named)
    expect([at(green, 40), at(green, 120)]).toEqual([0x07e0, 0x07e0])
    const bench = new Workbench(named, testAssets)
    bench.take(edited(named, 'set face', { id: 'face:go', values: { face: { ...go, fill: '#ff0000' } } }))
    const red = Uint16Array.from(bench.paintPage(page!)!.pixels)
    expect([at(red, 40), at(red, 120)]).toEqual([0xf800, 0xf800])
  })
  test('that is deleted leaves everything as it looked, and comes back with an undo', () => {
    const changed = edited(named, 'set face', { id: 'face:go', values: { face: { ...go, fill: '#0000ff' } } })
    const gone = edited(changed, 'delete face', { id: 'face:go' })
    expect(gone.faces['face:go' as FaceId]).toBeUndefined()
    expect(gone.widgets['widget:a' as WidgetId]!.settings['face']).toMatchObject({ fill: '#0000ff', named: '' })
    expect(pixels(gone)).toEqual(pixels(changed))
  })
  test('that has a picture of one colour is filled with it when the picture goes', () => {
    const record = { ...pictureSettings.defaults, id: 'picture:sky', name: 'sky', file: '', format: 'png', asset: 'a'.repeat(64), fromWidth: 4, fromHeight: 4 } // prettier-ignore
    const pictured = [
      ['add pictures', { pictures: [record], after: '' }],
      ['set face', { id: 'face:go', values: { face: { ...go, picture: 'picture:sky' } } }],
      ['draw picture', { id: 'picture:sky', fill: '#102030' }],
    ].reduce((p, [edit, args]) => edited(p, edit as string, args), named)
    expect(pictured.faces['face:go' as FaceId]!.face).toMatchObject({ fill: '#102030', picture: '' })
    expect(pictured.widgets['widget:a' as WidgetId]!.settings['face']).toMatchObject({ named: 'face:go' })
  })
})
