import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { applyPatches, stillStands, type Patch } from './index.ts'
import { pathOf, pointer } from './patches.ts'
import { recordDepth } from './record-paths.ts'

const document = Object.freeze({
  name: 'a',
  widgets: { 'widget:a': { place: { x: 1 }, order: ['b', 'c'] }, 'widget:b': { place: { x: 2 }, order: [] } },
})
const patch = (op: Patch['op'], path: string, value?: unknown): Patch => (op === 'remove' ? { op, path } : { op, path, value })

describe('JSON pointers', () => {
  test('come back, whatever the keys', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ maxLength: 8 }), { minLength: 1, maxLength: 5 }),
        (keys) => void expect(pathOf(pointer(keys))).toEqual(keys),
      ),
    )
    expect(pointer(['a/b', 'c~d'])).toBe('/a~1b/c~0d')
  })
})

describe('patches', () => {
  test('replace, add and remove; what is not touched is the same object', () => {
    const after = applyPatches(document, [
      patch('replace', '/widgets/widget:a/place/x', 9),
      patch('add', '/note', 'n'),
    ]) as unknown as Record<string, never>
    expect(after).toMatchObject({ note: 'n', widgets: { 'widget:a': { place: { x: 9 } } } })
    expect(after['widgets']['widget:b']).toBe(document.widgets['widget:b'])
    expect((after['widgets']['widget:a'] as Record<string, unknown>)['order']).toBe(document.widgets['widget:a'].order)
    expect(applyPatches(document, [patch('remove', '/widgets/widget:a')])).toEqual({
      name: 'a',
      widgets: { 'widget:b': document.widgets['widget:b'] },
    })
    expect(document.widgets['widget:a'].place.x).toBe(1)
  })
  test.each([
    '/widgets/widget:gone/place',
    '/nothing/at',
    '/widgets/widget:a/order/0',
    '/name/first',
    '/__proto__/polluted',
    '/widgets/__proto__/x',
  ])('a path that leads nowhere, %s, gives null and harms nothing', (path) => {
    expect(applyPatches(document, [patch('replace', path, 'x')])).toBeNull()
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined()
  })
  test('removing what is not there gives null', () =>
    expect(applyPatches(document, [patch('remove', '/widgets/widget:zzz')])).toBeNull())
  test('stand as long as nobody has changed the place', () => {
    const left = [patch('replace', '/widgets/widget:a/place', { x: 1 })]
    expect(stillStands(document, left)).toBe(true)
    expect(stillStands(applyPatches(document, [patch('replace', '/widgets/widget:a/place/x', 2)]), left)).toBe(false)
    expect(stillStands(document, [patch('remove', '/widgets/widget:gone')])).toBe(true)
    expect(stillStands(document, [patch('remove', '/name')])).toBe(false)
    expect(stillStands(document, [patch('replace', '/note', 'n')])).toBe(false)
  })
  test('name records at the depth they stand', () => {
    const depth = (path: string) =>
      pathOf(path)
        .slice(0, recordDepth(pathOf(path)))
        .join('/')
    expect(
      [
        '/widgets/widget:a/place/x',
        '/host/quantities/quantity:a/settings/value',
        '/host/name',
        '/spent/addresses/k',
        '/link/baud',
        '/pageOrder',
      ].map(depth),
    ).toEqual(['widgets/widget:a', 'host/quantities/quantity:a', 'host/name', 'spent/addresses/k', 'link', 'pageOrder'])
  })
})
