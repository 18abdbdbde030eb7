import { encode as encodePng } from 'fast-png'
import { describe, expect, test } from 'vitest'
import { sha256Hex } from '../base/index.ts'
import { noFace } from '../faces/index.ts'
import { freshProject, pictureSettings, plainPanel, type Project } from '../project/index.ts'
import { freshHolds } from '../variables/index.ts'
import { edited } from '../testing/demo.ts'
import { testAssets, testTypefaces } from '../testing/fonts.ts'
import { contactUs } from '../testing/actions.ts'
import { Workbench } from '../workbench/index.ts'

const side = 40
const place = { x: 20, y: 20, width: side, height: side }

/** A round dot of one colour on nothing. */
function dot(red: number, green: number, blue: number): Uint8Array {
  const data = new Uint8Array(4 * side * side)
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) if (Math.hypot(x - 19.5, y - 19.5) < 18) data.set([red, green, blue, 255], 4 * (y * side + x))
  return encodePng({ width: side, height: side, channels: 4, depth: 8, data })
}
const files = { off: dot(200, 0, 0), on: dot(0, 200, 0), pressed: dot(0, 0, 200) }
const red = 0xc800
const green = 0x0640
const blue = 0x0019
const darkOf = (pixel: number) =>
  ((((pixel >> 11) * 5) >> 3) << 11) | (((((pixel >> 5) & 63) * 5) >> 3) << 5) | (((pixel & 31) * 5) >> 3)

const showing = (name: string) => ({ ...noFace, picture: `picture:${name}` })

function keyed(settings: Record<string, unknown>): { bench: Workbench; project: Project } {
  let project = freshProject('Keys', { ...plainPanel, width: 100, height: 80 }, testTypefaces)
  const pictures = Object.entries(files).map(([name, bytes]) => ({
    ...pictureSettings.defaults,
    id: `picture:${name}`,
    name,
    file: `${name}.png`,
    format: 'png',
    asset: sha256Hex(bytes),
    fromWidth: side,
    fromHeight: side,
    width: side,
    height: side,
    way: 'exact',
    keepsAlpha: true,
  }))
  project = edited(project, 'add pictures', {
    pictures,
    after: '',
    variables: [{ id: 'variable:key', name: 'key', values: { holds: freshHolds('choice'), travels: 'both' } }],
    add: {
      page: project.startPage,
      widgets: [{ id: 'widget:key', kind: 'button', place, settings: { text: '', variable: 'variable:key', ...settings } }],
    },
  })
  const assets = new Map([...testAssets, ...Object.values(files).map((bytes) => [sha256Hex(bytes), bytes] as const)])
  const bench = new Workbench(project, assets)
  bench.advance(400_000)
  return { bench, project }
}
/** The middle of the key, and a corner of its place, where the picture shows nothing. */
const seen = (bench: Workbench) => {
  bench.paint()
  const { pixels } = bench.rig.panel.glass.surface
  return [pixels[40 * 100 + 40], pixels[22 * 100 + 22]]
}
const middle = (bench: Workbench) => seen(bench)[0]
const down = (bench: Workbench) => {
  bench.rig.panel.touchDown(40, 40)
  bench.advance(contactUs + 5_000)
}
const up = (bench: Workbench) => {
  bench.rig.panel.touchUp(40, 40)
  bench.advance(400_000)
}

describe('a key of pictures', () => {
  test('shows the look of its state, touched or not, and never a box', () => {
    const { bench } = keyed({
      works: 'switches',
      states: ['off', 'on'].map((name, value) => ({
        id: `state:${value + 1}`,
        when: { by: 'value', value },
        meaning: '',
        face: showing(name),
        textColour: 'colour:ink',
      })),
    })
    const ground = seen(bench)[1]
    expect(seen(bench)).toEqual([red, ground])
    down(bench)
    // Ordered already: on, and darker under the finger.
    expect(seen(bench)).toEqual([darkOf(green), ground])
    up(bench)
    expect(seen(bench)).toEqual([green, ground])
  })
  test('with one picture at rest has that picture whatever its state, darker while it is pressed', () => {
    const { bench } = keyed({ works: 'sets its value', value: 1, face: showing('off') })
    const ground = seen(bench)[1]
    down(bench)
    expect(seen(bench)).toEqual([darkOf(red), ground])
    up(bench)
    expect(seen(bench)).toEqual([red, ground])
  })
  test('changes over instead where its pressed look is said to be the inverse', () => {
    const { bench } = keyed({ works: 'switches', face: showing('off'), pressedLook: 'inverse' })
    down(bench)
    expect(middle(bench)).toBe(darkOf(red))
  })
  test('has a picture of its own for each look that has one', () => {
    const { bench } = keyed({ works: 'switches', face: showing('off'), onFace: showing('on'), pressedFace: showing('pressed') })
    expect(middle(bench)).toBe(red)
    down(bench)
    expect(middle(bench)).toBe(blue)
    up(bench)
    expect(middle(bench)).toBe(green)
  })
  test('is not said to look the same pressed as at rest where its press changes its picture', () => {
    const codes = (settings: Record<string, unknown>) =>
      keyed(settings)
        .bench.findings()
        .map((finding) => JSON.stringify(finding))
    const looks = { face: showing('off'), pressedLook: 'as at rest' }
    expect(codes({ works: 'switches', ...looks, onFace: showing('on') })).not.toContainEqual(
      expect.stringContaining('looks are identical'),
    )
    expect(codes({ works: 'sets its value', ...looks })).toContainEqual(expect.stringContaining('looks are identical'))
  })
})

test('what a press of a key would report is told before it is pressed, and nothing is changed by it', () => {
  const { bench, project } = keyed({ works: 'switches' })
  const told = () => bench.framesOf('widget:key', 'pressed').map(({ message }) => message)
  const { address } = Object.values(project.variables)[0]!
  expect(told()).toMatchObject([{ operation: 'report', address, payload: [1, 0] }])
  expect(told()).toMatchObject([{ payload: [1, 0] }])
  down(bench)
  up(bench)
  expect(told()).toMatchObject([{ payload: [0, 0] }])
  expect(bench.framesOf('widget:key', 'lifted')).toEqual([])
  const held = keyed({ works: 'is on while held' }).bench
  expect(['pressed' as const, 'lifted' as const].map((moment) => held.framesOf('widget:key', moment)[0]?.message)).toMatchObject([
    { payload: [1, 0] },
    { payload: [0, 0] },
  ])
})
