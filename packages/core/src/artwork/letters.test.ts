import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import decompress from 'woff2-encoder/decompress'
import fc from 'fast-check'
import { beforeAll, describe, expect, test } from 'vitest'
import { mustHold, sha256Hex } from '../base/index.ts'
import { drawText, smoothings, Surface, textWidth } from '../raster/index.ts'
import { lettersIn, letterSets } from '../variables/index.ts'
import { edited } from '../testing/demo.ts'
import { testAssets, testTypefaces } from '../testing/fonts.ts'
import { freshProject, plainPanel, type Project } from '../project/index.ts'
import { Workbench } from '../workbench/index.ts'
import {
  factsOf,
  fontDamage,
  lettersLacking,
  makeChunk,
  makeSheet,
  measureText,
  packRuns,
  plainly,
  readTypeface,
  runBytes,
  sortedLetters,
  unpackRuns,
  usualCharacters,
  writingTrouble,
  type LetterRequest,
} from './index.ts'

const file = (name: string) => new Uint8Array(readFileSync(createRequire(import.meta.url).resolve(name)))
const next = testAssets.get(testTypefaces[0]!.asset)!
const face = mustHold(readTypeface(next))
const cyrillic = file('@fontsource/ibm-plex-sans/files/ibm-plex-sans-cyrillic-400-normal.woff')
const request = (more: Partial<LetterRequest>): LetterRequest => ({
  make: 'letters',
  asset: sha256Hex(next),
  px: 24,
  weight: 0,
  bits: 8,
  fallbacks: [],
  kerns: false,
  letters: 'ABC',
  ...more,
})
const files = new Map([next, cyrillic].map((bytes) => [sha256Hex(bytes), bytes]))
const made = (more: Partial<LetterRequest>) => mustHold(makeChunk(request(more), (sha) => files.get(sha) ?? null))

describe('weights of one file', () => {
  let variable: Uint8Array
  beforeAll(async () => {
    variable = await decompress(file('@fontsource-variable/public-sans/files/public-sans-latin-wght-normal.woff2'))
    files.set(sha256Hex(variable), variable)
  })
  const ink = (weight: number) =>
    made({ asset: sha256Hex(variable), weight }).parts.coverage.reduce((sum: number, c: number) => sum + c, 0)
  test('a packed file comes out whole, and says which weights it has', () => {
    expect(fontDamage(variable)).toBeNull()
    expect(factsOf(mustHold(readTypeface(variable)))).toMatchObject({ weightFrom: 100, weightTo: 900, embedding: 'installable' })
    expect(factsOf(face)).toMatchObject({ weightFrom: 0, weightTo: 0 })
  })
  test('a bolder one has more ink and wider letters, in whatever order they are made', () => {
    const [bold, light] = [ink(900), ink(300)]
    expect(bold).toBeGreaterThan(light * 1.5)
    expect(ink(300)).toBe(light)
    const wide = (weight: number) => measureText(plainly(mustHold(readTypeface(variable, weight))), 24, 'Heron Hill')
    expect(wide(900)).toBeGreaterThan(wide(300))
    expect(textWidth(makeSheet(plainly(mustHold(readTypeface(variable, 900))), 24), 'Heron')).toBeCloseTo(
      measureText(plainly(mustHold(readTypeface(variable, 900))), 24, 'Heron'),
      -1,
    )
  })
  test('beyond its ends it is as it is at them', () => expect(ink(1000)).toBe(ink(900)))
})

describe('smoothing', () => {
  test.each(smoothings)('of %i bit has only the steps that so many bits have, each the nearest', (bits) => {
    const [full, kept] = [made({}).parts.coverage, made({ bits }).parts.coverage]
    const step = 255 / (2 ** bits - 1)
    kept.forEach((c, i) => {
      expect(c % step).toBe(0)
      expect(Math.abs(c - full[i]!)).toBeLessThanOrEqual(step / 2)
    })
    expect(new Set(kept).size).toBeLessThanOrEqual(2 ** bits)
  })
})

describe('letters in pairs', () => {
  const paired = { ...plainly(face), kerns: true }
  const sheet = makeSheet(paired, 40)
  test('stand as their typeface wants them: AV nearer, HH as they are', () => {
    const plain = makeSheet(plainly(face), 40)
    expect(textWidth(sheet, 'AV')).toBeLessThan(textWidth(plain, 'AV'))
    expect(textWidth(sheet, 'HH')).toBe(textWidth(plain, 'HH'))
  })
  test('measuring gives what is drawn', () => {
    const letters = usualCharacters.filter((c) => c > 0x20 && c < 0x7f).map((c) => String.fromCharCode(c))
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...letters), { minLength: 1, maxLength: 12 }), (some) => {
        expect(textWidth(sheet, some.join(''))).toBe(measureText(paired, 40, some.join('')))
      }),
    )
  })
  test('what is drawn is moved by what is measured', () => {
    const right = (of: typeof sheet) => {
      const surface = new Surface(120, 60)
      drawText(surface, of, 4, 50, 'AV', 0xffff)
      let last = 0
      surface.pixels.forEach((pixel, i) => pixel && (last = Math.max(last, i % 120)))
      return last
    }
    const nearer = right(makeSheet(plainly(face), 40)) - right(sheet)
    expect(nearer).toBeGreaterThan(0)
    // Either is rounded to whole pixels by itself.
    const said = textWidth(makeSheet(plainly(face), 40), 'AV') - textWidth(sheet, 'AV')
    expect(Math.abs(nearer - said)).toBeLessThanOrEqual(1)
  })
})

describe('letters that a typeface lacks', () => {
  test('are taken from the one that stands in for it, and only those', () => {
    const fallbacks = [sha256Hex(cyrillic)]
    const [alone, helped] = [made({ letters: sortedLetters('AЖ') }), made({ letters: sortedLetters('AЖ'), fallbacks })]
    expect([alone.parts.metrics.length, helped.parts.metrics.length]).toEqual([7, 14])
    expect(helped.parts.coverage.slice(0, alone.parts.coverage.length)).toEqual(alone.parts.coverage)
    const lettering = { ...plainly(face), fallbacks: [mustHold(readTypeface(cyrillic))] }
    expect([lettersLacking(plainly(face), 'AЖ漢'), lettersLacking(lettering, 'AЖ漢')]).toEqual([['Ж', '漢'], ['漢']])
  })
  test('a file to fall back on that is damaged or not there is passed over', () => {
    expect(made({ fallbacks: ['f'.repeat(64)] }).parts).toEqual(made({}).parts)
  })
})

describe('in a project', () => {
  const project = edited(
    edited(freshProject('letters', plainPanel, testTypefaces), 'add typeface', {
      id: 'typeface:plex',
      name: 'Plex Cyrillic',
      asset: sha256Hex(cyrillic),
    }),
    'add widgets',
    {
      page: Object.keys(freshProject('letters', plainPanel, testTypefaces).pages)[0],
      after: '',
      widgets: [
        {
          id: 'widget:word',
          kind: 'label',
          name: 'word',
          place: { x: 10, y: 10, width: 300, height: 40 },
          settings: { text: 'Купол open' },
        },
      ],
    },
  )
  const assets = new Map([...testAssets, [sha256Hex(cyrillic), cyrillic]])
  const found = (p: Project) => new Workbench(p, assets).findings().filter(({ at }) => at === 'widget:word')

  test('a letter that is lacking is told with its text, and the typeface that has it is offered', () => {
    const [finding, ...others] = found(project)
    expect([finding?.code, others, finding?.facts['letters']]).toEqual(['glyph', [], 'К у п о л'])
    const mended = edited(project, finding!.fix!.edit, finding!.fix!.args)
    expect(found(mended)).toEqual([])
    const [part] = new Workbench(mended, assets).build.plan.fonts
    expect([part!.letters, part!.spec.fallbacks]).toEqual([sortedLetters('Купол open'), [sha256Hex(cyrillic)]])
    // A fallback font is not removed in silence.
    expect(edited(mended, 'delete typeface', { id: 'typeface:plex' }).typefaces['typeface:next']!.fallback).toBe('')
  })
  test('a font has the letters that are needed and those that it is given; fewer bits take less room', () => {
    const plan = (p: Project) => new Workbench(p, assets).build.plan
    const more = edited(project, 'set style', { id: 'style:caption', values: { more: '0123' } })
    expect(plan(more).fonts[0]!.letters).toBe(sortedLetters('0123Купол open'))
    const word = edited(project, 'set widgets', { ids: ['widget:word'], values: { text: 'Heron Hill' } })
    const [eight, two] = [plan(word), plan(edited(word, 'set style', { id: 'style:caption', values: { bits: 2 } }))]
    expect(two.used).toBeLessThan(eight.used)
    const pixels = ({ bytes, letters }: (typeof eight.fonts)[number]) => bytes - 18 * letters.length
    expect(pixels(two.fonts[0]!) / pixels(eight.fonts[0]!)).toBeCloseTo(1 / 4, 1)
  })
  test('outlines are kept once for all sizes of a typeface, where the panel draws letters itself', () => {
    const fonts = (p: Project) => new Workbench(p, assets).build.plan.fonts
    const sized = (size: number, text: string) => (p: Project) =>
      edited(p, 'add widgets', {
        page: p.pageOrder[0],
        after: '',
        widgets: [
          { id: `widget:s${size}`, kind: 'label', name: `s${size}`, place: { x: 10, y: 2 * size, width: 300, height: 60 }, settings: { text, font: { typeface: 'typeface:next', size } } }, // prettier-ignore
        ],
      })
    const drawn = edited(project, 'set panel', { values: { drawsLetters: true } })
    const sum = (p: Project) => fonts(p).reduce((all, { bytes }) => all + bytes, 0)
    const one = sized(40, 'open')(drawn)
    const two = sized(90, 'nope')(one)
    expect(sum(two)).toBe(sum(one))
    expect(fonts(two).filter(({ shares }) => shares).map(({ bytes }) => bytes)).toEqual([0, 0]) // prettier-ignore
    // A letter that none had is its outline, whatever its size: fewer bytes than its picture in 90 px has.
    const more = sum(sized(91, 'x')(two)) - sum(two)
    expect(more).toBeGreaterThan(20)
    expect(more).toBeLessThan(200)
    expect(sum(edited(two, 'set panel', { values: { drawsLetters: false } }))).toBeGreaterThan(5 * sum(two))
  })
  test('pairs move only where the panel can', () => {
    const plan = (p: Project) => new Workbench(p, assets).build.plan.fonts[0]!
    const text = edited(project, 'set widgets', { ids: ['widget:word'], values: { text: 'AVATo' } })
    expect(plan(text).pairs).toBe(0)
    expect(plan(edited(text, 'set panel', { values: { kerns: true } })).pairs).toBeGreaterThan(0)
  })
  test('a text has the letters it says, or those of its encoding, and what it starts as', () => {
    const shown = (holds: object, initial: string) => {
      const known = edited(project, 'add variable', { id: 'variable:note', name: 'note' })
      const more = edited(known, 'set widgets', { ids: ['widget:word'], values: { text: { follows: 'variable:note' } } })
      const set = edited(more, 'set variable', {
        id: 'variable:note',
        values: { holds: { type: 'text', bytes: 20, ...holds }, initial },
      })
      return new Workbench(set, assets).build.plan.fonts[0]!.letters
    }
    const ascii = letterSets.find(({ name }) => name === 'ASCII')!.letters
    expect(shown({ encoding: 'ascii' }, 'go')).toBe(ascii)
    expect(shown({ encoding: 'utf-8', letters: '0123' }, 'go')).toBe('0123go')
    expect(lettersIn({ type: 'text', bytes: 4, encoding: 'latin-1' })).toHaveLength(95 + 96)
  })
})

test('what must be joined, runs the other way or stands over another letter is told by its first letter', () => {
  expect(writingTrouble('Dome 12 °C Купол Θόλος – Žluť')).toBeNull()
  expect(writingTrouble('a שלום')).toEqual({ letter: 'ש', why: 'right to left' })
  expect(writingTrouble('مرحبا')?.why).toBe('right to left')
  expect(writingTrouble('नमस्ते')?.why).toBe('joined')
  expect(writingTrouble('e\u0301')).toEqual({ letter: '\u0301', why: 'marks' })
})

describe('runs of one colour', () => {
  const rows = fc.integer({ min: 1, max: 300 }).chain((width) =>
    fc.array(fc.tuple(fc.integer({ min: 0, max: 0xffff }), fc.integer({ min: 1, max: 200 })), { maxLength: 30 }).map((parts) => ({
      width,
      values: Uint16Array.from(parts.flatMap(([value, count]) => Array<number>(count).fill(value))),
    })),
  )
  test('packed and unpacked are the same, and as long as was said', () => {
    fc.assert(
      fc.property(rows, ({ width, values }) => {
        const packed = packRuns(values, width, 2)
        expect(packed.length).toBe(runBytes(values, width, 2))
        expect(unpackRuns(packed, values.length, 2)).toEqual(values)
        const small = values.map((v) => v & 0xff)
        expect(unpackRuns(packRuns(small, width, 1), small.length, 1)).toEqual(small)
      }),
    )
  })
  test('one colour takes next to nothing, noise hardly more than it is', () => {
    expect(runBytes(new Uint16Array(800 * 480), 800, 2)).toBe(480 * 7 * 3)
    const noise = Uint16Array.from({ length: 800 * 480 }, (_, i) => (i * 40503) & 0xffff)
    expect(runBytes(noise, 800, 2) / (2 * noise.length)).toBeLessThan(1.01)
  })
  test('cut off they end, and what is lacking is 0', () => {
    expect(unpackRuns(Uint8Array.of(129, 0x12, 0x34), 4, 2)).toEqual(Uint16Array.of(0x1234, 0x1234, 0x1234, 0))
  })
})
