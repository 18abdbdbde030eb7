import { expect, test } from 'vitest'
import { seededRandom, toHex, type Random } from '../../base/index.ts'
import type { Layout } from '../../frames/index.ts'
import { bookOf } from '../../project/index.ts'
import { lampLines } from '../../protocols/index.ts'
import { demo, edited } from '../../testing/demo.ts'
import { moduleLayouts } from '../../testing/modules/layouts.ts'
import { catalogue, LogIndex } from '../index.ts'

type Damage = readonly [name: string, bytes: number[], right: readonly string[]]

/** A random damage of a frame, and the causes that name it rightly. */
function damaged(frame: Uint8Array, random: Random): Damage {
  const bytes = [...frame]
  const at = random.below(bytes.length)
  const kind = random.below(7)
  switch (kind) {
    case 0:
      bytes[at]! ^= 1 << random.below(8)
      // Of a bit in the length it is as true that the length is wrong.
      return ['one bit', bytes, ['flipped', 'length']]
    case 1: {
      const other = (at + 1 + random.below(bytes.length - 1)) % bytes.length
      bytes[at]! ^= 1 + random.below(255)
      bytes[other]! ^= 1 + random.below(255)
      return ['two bytes', bytes, []]
    }
    case 2:
      bytes.splice(at, 1)
      return [
        'one lost',
        bytes,
        at === 0 ? ['start-missing', 'flags-missing', 'cut-front'] : at >= bytes.length - 1 ? ['end-missing', 'cut'] : [],
      ]
    case 3:
      bytes.splice(at, 0, random.below(256))
      return ['one more', bytes, []]
    case 4: {
      const kept = 1 + random.below(bytes.length - 1)
      return ['cut', bytes.slice(0, kept), ['cut', 'end-missing']]
    }
    case 5:
      bytes[at] = random.below(256)
      return ['one other', bytes, ['flipped', 'start-other', 'check', 'length']]
    default: {
      const next = Math.min(bytes.length - 1, at + 1)
      ;[bytes[at], bytes[next]] = [bytes[next]!, bytes[at]!]
      return ['two turned', bytes, ['check-swapped', 'start-swapped', 'byte-order', 'flipped']]
    }
  }
}

const layouts: readonly [string, Layout][] = [
  ['lamp binary', demo.project.layout],
  ['lamp lines', { ...lampLines }],
  ...(['Avocet C', 'Rookery T', 'Godwit 7'] as const).map((name) => [name, moduleLayouts[name]!.layout] as [string, Layout]),
]

test.each(layouts)('of 200 random damages of %s none is told by a wrong cause as certain', (name, layout) => {
  const project = edited(demo.project, 'set layout', { values: { ...layout } })
  const frames = catalogue(project).map(({ bytes }) => bytes)
  expect(frames.length).toBeGreaterThan(5)
  const random = seededRandom(name.length)
  const wrong: string[] = []
  let certain = 0
  for (let k = 0; k < 200; k++) {
    const frame = frames[random.below(frames.length)]!
    const [damage, bytes, right] = damaged(frame, random)
    if (toHex(bytes) === toHex(frame)) continue
    const index = LogIndex.of(project.layout, bookOf(project))!.readAll(toHex(bytes))
    for (const { causes, good } of index.rows(0, index.count)) {
      // Chance may make another good frame: nobody could tell.
      if (good) continue
      const first = causes.find(({ sure }) => sure === 'certain')
      if (first) certain++
      if (first && !right.includes(first.code)) wrong.push(`${damage} of ${toHex(frame)}: ${toHex(bytes)}: ${first.says}`)
    }
  }
  console.log(`${name}: ${certain} of 200 told as certain`)
  expect(wrong).toEqual([])
})
