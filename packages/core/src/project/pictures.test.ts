import { describe, expect, test } from 'vitest'
import { mustHold, sha256Hex, type PageId, type PictureId, type WidgetId } from '../base/index.ts'
import { Compiler } from '../compile/index.ts'
import { chunkKey as key, MadeChunks, WantedChunks, makeChunk } from '../artwork/index.ts'
import { noFace } from '../faces/index.ts'
import { pictureSet, softPicture } from '../testing/pictures.ts'
import { Job } from '../testing/job.ts'
import { edited } from '../testing/demo.ts'
import { testAssets, testTypefaces } from '../testing/fonts.ts'
import '../testing/codecs.ts'
import { Workbench } from '../workbench/index.ts'
import { validateProject } from './validate.ts'
import {
  assetsOf,
  cutFaces,
  freshProject,
  packProject,
  plainPanel,
  type Project,
  passGate,
  pictureSettings,
  undoOf,
  unpackProject,
  usersOf,
  type PictureRecord,
} from './index.ts'

const files = await pictureSet()
const whole = files.find((one) => one.name === 'PNG, 8 bits, red green blue')!.bytes
const clear = files.find((one) => one.name === 'PNG, 8 bits, alpha')!.bytes
const photo = files.find((one) => one.name === 'JPEG')!.bytes
const sha = sha256Hex(whole)
const assets = new Map([...testAssets, ...[whole, clear, photo].map((bytes) => [sha256Hex(bytes), bytes] as const)])
const size = { width: 21, height: 13 }

const record = (name: string, bytes: Uint8Array, more: Partial<PictureRecord> = {}): PictureRecord => ({
  ...pictureSettings.defaults,
  ...size,
  way: 'exact',
  id: `picture:${name}`,
  number: 1,
  name,
  file: `${name}.png`,
  format: 'png',
  asset: sha256Hex(bytes),
  fromWidth: size.width,
  fromHeight: size.height,
  ...more,
})
const face = (picture: string, more: object = {}) => ({ ...noFace, picture: `picture:${picture}`, ...more })

/** A project with a picture on a shape at 40, 30. */
const shown = (picture: PictureRecord, more: object = {}) =>
  new Job()
    .edit('add pictures', { pictures: [picture], after: '' })
    .widget('shape', 'there', [40, 30, 21, 13], { face: face(picture.name, more) })
const glassOf = (job: Job) => {
  const bench = new Workbench(job.project, assets)
  bench.advance(300_000)
  bench.paint()
  return bench.rig.panel.glass.surface
}

test('many pictures are set at once, undone at once, and keep their names', () => {
  const job = new Job().edit('add pictures', { pictures: ['ash', 'elm', 'fir'].map((name) => record(name, whole)), after: '' })
  const ids = ['picture:ash', 'picture:fir']
  const before = job.project
  const request = { changeId: 'change:many' as const, edit: 'set pictures', args: { ids, values: { width: 40, way: 'inside' } } }
  const done = mustHold(passGate(before, request))
  const told = (p: Project) => p.pictureOrder.map((id) => [p.pictures[id]!.name, p.pictures[id]!.width, p.pictures[id]!.way])
  expect(told(done.project)).toEqual([
    ['ash', 40, 'inside'],
    ['elm', 21, 'exact'],
    ['fir', 40, 'inside'],
  ])
  const undone = passGate(done.project, undoOf(done.change, 'change:back')!)
  expect(mustHold(undone).project.pictures).toEqual(before.pictures)
  for (const values of [{ name: 'x' }, { width: 0 }])
    expect(passGate(before, { ...request, args: { ids, values } }).ok).toBe(false)
})

describe('a picture in a face', () => {
  const soft = softPicture(size.width, size.height)
  const wanted = (x: number, y: number) => {
    const at = 4 * (y * size.width + x)
    return ((soft.rgba[at]! >> 3) << 11) | ((soft.rgba[at + 1]! >> 2) << 5) | (soft.rgba[at + 2]! >> 3)
  }
  test('is on the glass pixel by pixel, where it stands', () => {
    const surface = glassOf(shown(record('moon', whole)))
    for (const [x, y] of [
      [0, 0],
      [20, 12],
      [7, 5],
    ] as const)
      // prettier-ignore
      expect(surface.pixels[(30 + y) * 400 + 40 + x]).toBe(wanted(x, y))
    const job = shown(record('moon', whole)).edit('place widgets', {
      places: { 'widget:there': { x: 40, y: 30, width: 61, height: 53 } },
    })
    expect(glassOf(job).pixels[(30 + 20 + 5) * 400 + 40 + 20 + 7]).toBe(wanted(7, 5))
    job.edit('set widgets', { ids: ['widget:there'], values: { face: face('moon', { pictureAt: 'bottom right' }) } })
    expect(glassOf(job).pixels[(30 + 40 + 5) * 400 + 40 + 40 + 7]).toBe(wanted(7, 5))
  })
  test('that keeps its transparency lies over what is there; else it has its ground under it', () => {
    const ground = glassOf(shown(record('moon', clear, { ground: '#ff0000' }))).pixels[30 * 400 + 40]
    expect(ground).toBe(0xf800)
    const kept = shown(record('moon', clear, { keepsAlpha: true }), { fill: '#00ff00' })
    expect(glassOf(kept).pixels[30 * 400 + 40]).toBe(0x07e0)
  })
  test('what is cut off by its place is not painted beside it', () => {
    const job = shown(record('moon', whole)).edit('place widgets', {
      places: { 'widget:there': { x: 40, y: 30, width: 5, height: 5 } },
    })
    const { pixels } = glassOf(job)
    expect(pixels[29 * 400 + 42]).toBe(pixels[0])
    expect(pixels[32 * 400 + 46]).toBe(pixels[0])
    expect(pixels[32 * 400 + 42]).not.toBe(pixels[0])
  })
  test('of a page lies under everything, and a photo is read by its decoder', () => {
    const job = new Job().edit('add pictures', {
      pictures: [record('dusk', photo, { width: 400, height: 300, way: 'stretch' })],
      after: '',
    })
    job.edit('set page', { id: job.first, values: { background: face('dusk') } })
    const { pixels } = glassOf(job)
    expect(new Set([pixels[0], pixels[200 * 400 + 300], pixels[299 * 400 + 399]]).size).toBe(3)
  })
})

describe('pictures as the project has them', () => {
  const job = shown(record('moon', whole))
  const change = (edit: string, args: unknown) => mustHold(passGate(job.project, { changeId: 'change:x', edit, args }))
  test('whoever shows one is known; deleted, it is taken out of every face in the same edit, and comes back with one undo', () => {
    expect(usersOf(job.project, 'picture:moon').map((u) => u.from)).toEqual(['widget:there'])
    const gone = change('delete picture', { id: 'picture:moon' })
    expect(gone.project.widgets['widget:there' as never]['settings']).toMatchObject({ face: { picture: '' } })
    expect(assetsOf(gone.project)).not.toContain(sha)
    const back = mustHold(passGate(gone.project, undoOf(gone.change, 'change:y')!))
    expect(back.project).toEqual(job.project)
  })
  test('another original in its place keeps whoever shows it', () => {
    const other = change('replace picture', {
      id: 'picture:moon',
      asset: sha256Hex(clear),
      format: 'png',
      file: 'other.png',
      fromWidth: 21,
      fromHeight: 13,
    })
    expect(usersOf(other.project, 'picture:moon').length).toBe(1)
    expect(mustHold(passGate(other.project, undoOf(other.change, 'change:y')!)).project).toEqual(job.project)
  })
  test('one that nobody has cannot be shown, and what is no recipe is refused', () => {
    const refused = (edit: string, args: unknown) => passGate(job.project, { changeId: 'change:x', edit, args }).ok
    expect(refused('set widgets', { ids: ['widget:there'], values: { face: face('none') } })).toBe(false)
    expect(refused('set picture', { id: 'picture:moon', values: { way: 'sideways' } })).toBe(false)
    expect(refused('set picture', { id: 'picture:moon', values: { width: 0 } })).toBe(false)
    expect(refused('add pictures', { pictures: [{ ...record('sun', whole), asset: 'x' }], after: '' })).toBe(false)
  })
  test('a project file carries originals and recipes', () => {
    const back = mustHold(unpackProject(packProject(job.project, assets)))
    expect(back.project).toEqual(job.project)
    expect(back.assets.get(sha)).toEqual(whole)
  })
  test('a project of before has none, and its faces have no picture', () => {
    const { pictures: _, pictureOrder: __, ...old } = new Job().project
    const back = mustHold(validateProject(old))
    expect([back.pictures, back.pictureOrder]).toEqual([{}, []])
  })
})

describe('pictures in a build', () => {
  test('are named by what they are made of, once for however many show them', () => {
    const job = shown(record('moon', whole)).widget('shape', 'too', [0, 0, 30, 30], { face: face('moon') })
    const build = new Compiler(new MadeChunks(assets)).compile(job.project)
    const [only, ...others] = Object.values(build.header.pictures)
    expect(others).toEqual([])
    expect(build.chunks[only!.pixels]!.byteLength).toBe(2 * 21 * 13)
    expect(JSON.stringify(build.header)).not.toContain('picture:moon')
  })
  test('a changed recipe shows the old pixels until the new ones are made; compiled warm it is as cold', () => {
    const chunks = new WantedChunks()
    const compiler = new Compiler(chunks)
    const made = () =>
      chunks.takeWanted().forEach((r) =>
        chunks.put(
          key(r),
          makeChunk(r, (name) => assets.get(name) ?? null),
        ),
      )
    const job = shown(record('moon', whole))
    compiler.compile(job.project)
    made()
    const before = compiler.compile(job.project).header.pictures
    job.edit('set picture', { id: 'picture:moon', values: { turn: 'upside down' } })
    expect(compiler.compile(job.project).header.pictures).toEqual(before)
    made()
    const after = compiler.compile(job.project).header.pictures
    expect(after).not.toEqual(before)
    expect(after).toEqual(new Compiler(new MadeChunks(assets)).compile(job.project).header.pictures)
  })
  test('one whose original comes while it is being made is asked for again', () => {
    const chunks = new WantedChunks()
    const compiler = new Compiler(chunks)
    const job = shown(record('moon', whole))
    compiler.compile(job.project)
    const [request] = chunks.takeWanted().filter((r) => r.make === 'picture')
    const tooEarly = makeChunk(request!, () => null)
    chunks.assetCame()
    chunks.put(key(request!), tooEarly)
    compiler.compile(job.project)
    expect(chunks.takeWanted().map(key)).toContain(key(request!))
  })
  test('one that is damaged is told as a finding, and the panel runs on', () => {
    const broken = photo.slice(0, photo.length - 40)
    const job = shown(record('moon', broken))
    const bench = new Workbench(job.project, new Map([...assets, [sha256Hex(broken), broken]]))
    expect(bench.findings().map((f) => f.code)).toContain('chunk')
    bench.advance(1_000_000)
    bench.paint()
  })
})

describe('findings of pictures', () => {
  const codes = (picture: Partial<PictureRecord>, panel: object = {}) => {
    const job = shown(record('moon', whole, picture))
    if (Object.keys(panel).length) job.edit('set panel', { values: panel })
    return new Workbench(job.project, assets).findings().map((f) => f.code).filter((code) => code.startsWith('picture') || code.startsWith('artwork')) // prettier-ignore
  }
  test('each is told, and what is in order is not', () => {
    expect(codes({})).toEqual([])
    expect(codes({ width: 42, height: 26, way: 'stretch' })).toEqual(['picture-enlarged'])
    expect(codes({ width: 21, height: 10, way: 'stretch' })).toEqual(['picture-stretched'])
    expect(codes({ keepsAlpha: true }, { blends: false })).toEqual(['picture-blends'])
    expect(codes({ width: 400, height: 300, way: 'crop' }, { artworkKiB: 200 })).toEqual(['artwork-full', 'picture-enlarged'])
    const unused = new Job().edit('add pictures', { pictures: [record('moon', whole)], after: '' })
    expect(new Workbench(unused.project, assets).findings().map((f) => f.code)).toContain('picture-unused')
  })
})

test('a reference is named by its page, and nothing of it is in the build', () => {
  const job = shown(record('moon', whole))
  const page = job.project.pageOrder[0]!
  const before = new Compiler(new MadeChunks(assets)).compile(job.project)
  job.edit('add pictures', { pictures: [record('sketch', photo)], after: '' }).edit('set page', {
    id: page,
    values: { reference: 'picture:sketch' },
  })
  expect(usersOf(job.project, 'picture:sketch').map(({ from }) => from)).toEqual([page])
  const after = new Compiler(new MadeChunks(assets)).compile(job.project)
  expect(after.header).toEqual(before.header)
  expect(edited(job.project, 'delete picture', { id: 'picture:sketch' }).pages[page]!.reference).toBe('')
})

describe('faces cut out of drawings of the whole page', () => {
  const page = Object.keys(freshProject('cut', plainPanel, testTypefaces).pages)[0] as PageId
  const sized = { ...pictureSettings.defaults, width: 800, height: 480, way: 'stretch' as const, dither: 'spread' as const }
  const project = [
    ['add pictures', { pictures: [record('rest', whole, sized), record('down', whole, sized)], after: '' }],
    ['set picture', { id: 'picture:down', values: { turn: 'upside down' } }],
    [
      'add widgets',
      {
        page,
        after: '',
        widgets: [
          {
            id: 'widget:one',
            kind: 'button',
            name: 'one',
            place: { x: 100, y: 60, width: 90, height: 50 },
            settings: { text: '1' },
          },
          { id: 'widget:off', kind: 'button', name: 'off', place: { x: 760, y: 60, width: 90, height: 50 }, settings: {} },
        ],
      },
    ],
  ].reduce((p, [edit, args]) => edited(p, edit as string, args), freshProject('cut', plainPanel, testTypefaces))
  const ids = ['widget:one', 'widget:off']
  let next = 0
  const cut = (of = project) =>
    cutFaces(
      of,
      ids,
      [
        { key: 'face', label: 'Face', picture: 'picture:rest' as PictureId },
        { key: 'pressedFace', label: 'Face when pressed', picture: 'picture:down' as PictureId },
      ],
      true,
      () => `picture:cut-${next++}` as PictureId,
    )

  test('both at once, where they lie; what is not wholly on the drawing is told; done twice it makes no more pictures', () => {
    const { pictures, widgets, outside } = cut()
    expect(outside.map(({ name }) => name)).toEqual(['off'])
    expect(
      pictures.map(({ name, turn, cutX, cutY, cutWidth, cutHeight }) => [name, turn, cutX, cutY, cutWidth, cutHeight]),
    ).toEqual([
      ['one, face', 'as it is', 100, 60, 90, 50],
      ['one, face when pressed', 'upside down', 100, 60, 90, 50],
    ])
    const done = edited(project, 'add pictures', { pictures, after: '', widgets })
    expect(done.widgets['widget:one' as WidgetId]!.settings).toMatchObject({ text: '', sill: false, pressedLook: 'its own face' })
    expect(cut(done).pictures).toEqual([])
  })
  test('each is to the pixel what its drawing is there, dithered as the whole is', () => {
    const { pictures, widgets } = cut()
    const behind = (p: Project, picture: string) =>
      edited(p, 'set page', { id: page, values: { background: { ...noFace, picture } } })
    const painted = (p: Project) => Uint16Array.from(new Workbench(p, assets).paintPage(page)!.pixels)
    const none = edited(project, 'delete widgets', { ids })
    const done = edited(edited(project, 'add pictures', { pictures, after: '', widgets }), 'delete widgets', {
      ids: ['widget:off'],
    })
    expect(painted(behind(done, 'picture:rest'))).toEqual(painted(behind(none, 'picture:rest')))
  })
})
