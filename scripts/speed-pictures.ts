// Pictures, against `pngjs` decoding the same: npm run speed.
import { performance } from 'node:perf_hooks'
import { PNG } from 'pngjs'
import {
  decodePicture,
  fitted,
  toPanel,
  makeChunk,
  MadeChunks,
  readTypeface,
  type PictureRequest,
} from '../packages/core/src/artwork/index.ts'
import { sha256Hex, mustHold } from '../packages/core/src/base/index.ts'
import { Compiler } from '../packages/core/src/compile/index.ts'
import { noFace } from '../packages/core/src/faces/index.ts'
import { pictureSettings, type PictureRecord } from '../packages/core/src/project/index.ts'
import { usualLetters } from '../packages/core/src/variables/index.ts'
import { Surface } from '../packages/core/src/raster/index.ts'
import { testCodecs } from '../packages/core/src/testing/codecs.ts'
import { testAssets } from '../packages/core/src/testing/fonts.ts'
import { Job } from '../packages/core/src/testing/job.ts'
import { jpegOf, softPicture } from '../packages/core/src/testing/pictures.ts'
import { Workbench } from '../packages/core/src/workbench/index.ts'

const row = (what: string, figure: string, aim: string) => console.log(`${what.padEnd(78)} ${figure.padStart(22)}   ${aim}`)
const ms = (run: () => void, times = 3): number => {
  run()
  let best = Infinity
  for (let k = 0; k < times; k++) {
    const from = performance.now()
    run()
    best = Math.min(best, performance.now() - from)
  }
  return best
}
const encoded = (pixels: { width: number; height: number; rgba: Uint8Array }): Uint8Array => {
  const png = new PNG({ width: pixels.width, height: pixels.height })
  png.data = Buffer.from(pixels.rgba)
  return new Uint8Array(PNG.sync.write(png))
}

// --- a photo of 12 megapixels
{
  const photo = softPicture(4000, 3000)
  for (let i = 0; i < photo.rgba.length; i++) if ((i & 3) < 3) photo.rgba[i] = (photo.rgba[i]! + (((i * 7919) >> 5) & 31)) & 255
  const png = encoded(photo)
  const jpeg = await jpegOf(photo)
  const reference = ms(() => void PNG.sync.read(Buffer.from(png)), 2)
  const size = { width: 800, height: 480 }
  const fitting = { turn: 0, trims: false, way: 'fill', part: { x: 0, y: 0, width: 0, height: 0 } } as const
  const fit = ms(() => void toPanel(fitted(photo, size, fitting), 'spread', '#000000', false))
  const whole = ms(() => {
    const pixels = mustHold(decodePicture(jpeg, testCodecs))
    toPanel(fitted(pixels, size, fitting), 'spread', '#000000', false)
  }, 2)
  row('fit of 12 megapixels to 800 × 480 with dither, against pngjs decoding it', `${(fit / reference).toFixed(2)} ×`, '1 ×')
  row('  a JPEG of them decoded, fitted and dithered', `${(whole / reference).toFixed(2)} ×`, '1 ×')
  row('  a PNG of them walked and decoded', `${(ms(() => void decodePicture(png, testCodecs), 1) / reference).toFixed(2)} ×`, '')
}

// --- letters
{
  const asset = [...testAssets.keys()][0]!
  const spec = { make: 'letters' as const, asset, px: 32, weight: 0, bits: 8 as const, fallbacks: [] }
  const letters = [...usualLetters].slice(0, 200).join('')
  const made = (kerns: boolean) => ms(() => void makeChunk({ ...spec, kerns, letters }, (sha) => testAssets.get(sha) ?? null))
  const reading = ms(() => void readTypeface(testAssets.get(asset)!))
  row('a font of 200 letters at 32 px, against reading its file', `${(made(false) / reading).toFixed(2)} ×`, '')
  row('  with its pairs', `${(made(true) / reading).toFixed(2)} ×, ${made(true).toFixed(0)} ms`, '2 s')
}

// --- many
{
  const files = Array.from({ length: 200 }, (_, k) => {
    const pixels = softPicture(64, 64, true)
    pixels.rgba[0] = k
    return encoded(pixels)
  })
  const icons = files.slice(0, 50)
  const request = (bytes: Uint8Array): PictureRequest => ({
    make: 'picture',
    asset: sha256Hex(bytes),
    width: 32,
    height: 32,
    fitting: { turn: 0, trims: false, way: 'inside', part: { x: 0, y: 0, width: 0, height: 0 } },
    dither: 'none',
    ground: '#000000',
    keepsAlpha: true,
    cut: null,
  })
  const from = performance.now()
  for (const bytes of icons) makeChunk(request(bytes), () => bytes)
  row('50 icons of 64 × 64, decoded and fitted', `${(performance.now() - from).toFixed(0)} ms`, '')

  const record = (k: number, bytes: Uint8Array): PictureRecord => ({
    ...pictureSettings.defaults,
    id: `picture:p${k}`,
    number: k,
    name: `p${k}`,
    file: '',
    format: 'png',
    asset: sha256Hex(bytes),
    fromWidth: 64,
    fromHeight: 64,
    width: 64,
    height: 64,
    way: 'exact',
  })
  const back = encoded(softPicture(800, 480))
  const job = new Job({ width: 800, height: 480 }).edit('add pictures', {
    pictures: [
      ...files.map((bytes, k) => record(k, bytes)),
      { ...record(999, back), width: 800, height: 480, fromWidth: 800, fromHeight: 480 },
    ],
    after: '',
  })
  job.edit('set page', { id: job.first, values: { background: { ...noFace, picture: 'picture:p999' } } })
  for (let k = 0; k < 200; k++)
    job.widget('shape', `w${k}`, [(k % 12) * 66, Math.floor(k / 12) * 27, 64, 26], {
      face: { ...noFace, picture: `picture:p${k}` },
    })
  const assets = new Map([...testAssets, ...[...files, back].map((bytes) => [sha256Hex(bytes), bytes] as const)])
  const compiler = new Compiler(new MadeChunks(assets))
  compiler.compile(job.project)
  const turned = (k: number) =>
    job.edit('set picture', { id: 'picture:p7', values: { turn: k % 2 ? 'upside down' : 'as it is' } }).project
  const versions = [turned(1), turned(0)]
  // Both pictures are made before, so that what is timed is the build beside the fit.
  for (const version of versions) compiler.compile(version)
  let k = 0
  row(
    'build of a project with 200 pictures, one changed, beside its fit',
    `${ms(() => void compiler.compile(versions[k++ % 2]!), 6).toFixed(1)} ms`,
    '10 ms',
  )

  const page = new Job({ width: 800, height: 480 }).edit('add pictures', {
    pictures: [
      ...files.slice(0, 30).map((bytes, n) => record(n, bytes)),
      { ...record(999, back), width: 800, height: 480, fromWidth: 800, fromHeight: 480 },
    ],
    after: '',
  })
  page.edit('set page', { id: page.first, values: { background: { ...noFace, picture: 'picture:p999' } } })
  for (let n = 0; n < 30; n++)
    page.widget('shape', `w${n}`, [(n % 10) * 80, Math.floor(n / 10) * 80, 64, 64], {
      face: { ...noFace, picture: `picture:p${n}` },
    })
  const bench = new Workbench(page.project, assets)
  bench.advance(100_000)
  bench.paint()
  const { number } = bench.build.header.pages[0]!
  const surface = new Surface(800, 480)
  const pixels = surface.pixels.slice()
  const paint = ms(() => void bench.rig.panel.onDesk.paintPage(number, surface), 40)
  const copy = ms(() => void surface.pixels.set(pixels), 40)
  const rows = ms(() => {
    for (let y = 0; y < 480; y++) surface.pixels.set(pixels.subarray(y * 800, y * 800 + 800), y * 800)
  }, 40)
  row(
    'a page of a full background and 30 pictures, against memcpy of its pixels',
    `${(paint / copy).toFixed(1)} ×, rows ${(paint / rows).toFixed(1)} ×`,
    '2 ×',
  )
}
