import { describe, expect, test } from 'vitest'
import { bad, isProblem, mustHold } from '../base/index.ts'
import { demo, edited } from '../testing/demo.ts'
import { testAssets, testTypefaces } from '../testing/fonts.ts'
import { hashOfWords } from '../base/index.ts'
import { Workbench } from '../workbench/index.ts'
import { chunkKey, makeChunk, MadeChunks, sortedLetters, WantedChunks, type LetterRequest } from './index.ts'

const asset = testTypefaces[0]!.asset
const request = (letters: string, px = 20): LetterRequest => ({
  make: 'letters',
  asset,
  px,
  weight: 0,
  bits: 8,
  fallbacks: [],
  kerns: false,
  letters: sortedLetters(letters),
})
const fromTest = (sha: string) => testAssets.get(sha) ?? null

describe('a chunk of letters', () => {
  test('has the letters that are wanted and no others, each as in any other sheet', () => {
    const few = mustHold(makeChunk(request('cab'), fromTest))
    const more = mustHold(makeChunk(request('abcdefg'), fromTest))
    expect(few.header).toEqual(more.header)
    expect(few.parts.metrics.length * 7).toBe(more.parts.metrics.length * 3)
    expect(few.parts.coverage).toEqual(more.parts.coverage.slice(0, few.parts.coverage.length))
  })
  test('cannot be made of a file that is not there, or is no font: a problem, and nothing is thrown', () => {
    expect(makeChunk({ ...request('a'), asset: 'f'.repeat(64) }, fromTest)).toMatchObject({ problem: { code: 'chunk.asset' } })
    expect(makeChunk(request('a'), () => Uint8Array.of(1, 2, 3))).toMatchObject({ problem: { code: 'typeface.unreadable' } })
  })
  test('that is wanted is said once, and is there when someone has put it in', () => {
    const chunks = new WantedChunks()
    expect([chunks.get(request('ab')), chunks.get(request('ba'))]).toEqual(['wanted', 'wanted'])
    expect(chunks.takeWanted().map(chunkKey)).toEqual([chunkKey(request('ab'))])
    expect([chunks.get(request('ab')), chunks.takeWanted()]).toEqual(['wanted', []])
    chunks.put(chunkKey(request('ab')), makeChunk(request('ab'), fromTest))
    expect(chunks.get(request('ab'))).toHaveProperty('parts')
    chunks.put(chunkKey(request('xy')), bad('chunk.slow'))
    expect(isProblem(chunks.get(request('xy')))).toBe(true)
    chunks.assetCame()
    expect(chunks.get(request('xy'))).toBe('wanted')
  })
  test('that nobody has asked for longest is forgotten first, when there are too many', () => {
    const chunks = new MadeChunks(testAssets, 40_000)
    const at = (px: number) => chunks.get(request('abcdef', px))
    const [forgotten, asked] = [at(60), at(61)]
    for (let px = 62; px < 80; px++) {
      at(px)
      expect(at(61)).toBe(asked)
    }
    expect(at(60)).toEqual(forgotten)
    expect(at(60)).not.toBe(forgotten)
  })
})

describe('a build whose chunks are made elsewhere', () => {
  const { project, assets } = demo
  const made = (chunks: WantedChunks, bench: Workbench) => {
    const requests = chunks.takeWanted()
    for (const r of requests)
      chunks.put(
        chunkKey(r),
        makeChunk(r, (sha) => assets.get(sha) ?? null),
      )
    bench.chunksCame()
    return requests.length
  }
  const pixels = (bench: Workbench) => {
    bench.paint()
    return hashOfWords(bench.rig.panel.glass.surface.pixels)
  }
  test('shows what it has, and all of it once they have come: the same pixels as if they had been made at once', () => {
    const chunks = new WantedChunks()
    const bench = new Workbench(project, assets, 7, chunks)
    const whole = new Workbench(project, assets, 7)
    expect(pixels(bench)).not.toBe(pixels(whole))
    expect(Object.keys(bench.build.header.sheets)).toEqual([])
    expect(made(chunks, bench)).toBeGreaterThan(3)
    expect(pixels(bench)).toBe(pixels(whole))
    expect(bench.build.header).toEqual(whole.build.header)
  })
  test('goes on with the last letters of a font while new ones are made', () => {
    const chunks = new WantedChunks()
    const bench = new Workbench(project, assets, 7, chunks)
    made(chunks, bench)
    const before = bench.build.header.sheets
    const label = Object.values(project.widgets).find((w) => w.kind === 'label' && typeof w.settings['font'] !== 'string')!
    bench.take(edited(project, 'set widgets', { ids: [label.id], values: { text: 'Ünlikely Ŵords' } }))
    expect(bench.build.header.sheets).toEqual(before)
    expect(made(chunks, bench)).toBe(1)
    expect(bench.build.header.sheets).not.toEqual(before)
  })
  test('that cannot be made are a finding, with the name of the typeface', () => {
    const chunks = new WantedChunks()
    const bench = new Workbench(project, assets, 7, chunks)
    for (const r of chunks.takeWanted()) chunks.put(chunkKey(r), bad('chunk.slow', { reason: 'it took too long' }))
    bench.chunksCame()
    expect(bench.findings().map((f) => f.code)).toContain('chunk')
  })
  test('a size that a field passes through asks for the letters in use, not for all there are', () => {
    const chunks = new WantedChunks()
    const bench = new Workbench(project, assets, 7, chunks)
    made(chunks, bench)
    const label = Object.values(project.widgets).find((w) => w.kind === 'label' && typeof w.settings['font'] !== 'string')!
    const font = label.settings['font'] as { typeface: string; size: number }
    bench.take(edited(project, 'set widgets', { ids: [label.id], values: { text: 'Dew', font: { ...font, size: 77 } } }))
    expect(
      chunks
        .takeWanted()
        .filter((r) => r.make === 'letters')
        .filter((r) => r.px === 77)
        .map((r) => r.letters),
    ).toEqual(['Dew'])
  })
})
