import { readFileSync } from 'node:fs'
import crc from 'crc'
import { PacketLengthParser } from '@serialport/parser-packet-length'
import { checksumFunction, joinBytes, mustHold, seededRandom, type ChecksumName } from '@moth-lamp/core/base'
import { MadeChunks } from '@moth-lamp/core/artwork'
import { Compiler, compileHost } from '@moth-lamp/core/compile'
import { checkProject, Viewer } from '@moth-lamp/core/findings'
import { layoutsForLaws } from '../packages/core/src/testing/layouts.ts'
import { emptyBook, lampLines, protocolFor } from '@moth-lamp/core/protocols'
import { codecOf, compileLayout, encodeFrame, lampBinary, lengthLedStart, makeDecoder, type Layout } from '@moth-lamp/core/frames'
import { applyPatches, passGate, unpackProject, type Project } from '@moth-lamp/core/project'
import { Surface } from '@moth-lamp/core/raster'
import { Rig } from '@moth-lamp/core/rig'
import { Saver } from '@moth-lamp/core/saver'
import { AddressBook } from '@moth-lamp/core/variables'
import { widgetKinds } from '@moth-lamp/core/widgets'
import { sampleBench, samplePage, Workbench } from '@moth-lamp/core/workbench'

const demo = mustHold(
  unpackProject(new Uint8Array(readFileSync(new URL('../packages/server/demo/heron-hill-dome.mothlamp', import.meta.url)))),
)
const row = (what: string, figure: string, aim: string) => console.log(`${what.padEnd(78)} ${figure.padStart(22)}   ${aim}`)

/** Seconds that `run` takes: the best of several, after one to warm up. */
function seconds(run: () => void, times = 5): number {
  run()
  let best = Infinity
  for (let i = 0; i < times; i++) {
    const from = performance.now()
    run()
    best = Math.min(best, performance.now() - from)
  }
  return best / 1000
}

// --- decoding
const lamp = mustHold(compileLayout(lampBinary))
const random = seededRandom(1)
const frames = Array.from({ length: 20_000 }, (_, i) =>
  mustHold(
    encodeFrame(codecOf(lamp, 'to panel'), {
      operation: 'write',
      sequence: i & 15,
      address: random.below(65536),
      payload: [random.below(256), random.below(256)],
    }),
  ),
)
const clean = joinBytes(frames)
const damaged = clean.map((byte) => (random.below(100) ? byte : byte ^ (1 << random.below(8))))

function decode(layout: Layout, bytes: Uint8Array): number {
  const decoder = makeDecoder(codecOf(mustHold(compileLayout(layout)), 'to panel'))
  let n = 0
  for (let at = 0; at < bytes.length; at += 4096) n += decoder.feed(bytes.subarray(at, at + 4096), 1000, 1000).length
  return n + decoder.expire(1e12).length
}

/** The reference: start byte, length in the third byte, as the packet-length parser wants its packets. */
const packets = joinBytes(frames.map((f) => Uint8Array.of(0xaa, 0, f.length, ...f)))
async function packetLength(): Promise<number> {
  const parser = new PacketLengthParser({ delimiter: 0xaa, packetOverhead: 3, lengthBytes: 1, lengthOffset: 2 })
  let n = 0
  parser.on('data', () => n++)
  const from = performance.now()
  for (let at = 0; at < packets.length; at += 4096) parser.write(Buffer.from(packets.subarray(at, at + 4096)))
  await new Promise((resolve) => parser.end(resolve))
  return n ? (performance.now() - from) / 1000 : NaN
}
const perByte = (layout: Layout, bytes: Uint8Array, times = bytes.length > 1e6 ? 4 : 25) =>
  seconds(() => decode(layout, bytes), times) / bytes.length
// In turn, so that who shares the machine is as hard on one as on the others.
let [reference, cleanByte, damagedByte] = [Infinity, Infinity, Infinity]
for (let round = 0; round < 12; round++) {
  reference = Math.min(reference, (await packetLength()) / packets.length)
  cleanByte = Math.min(cleanByte, perByte(lampBinary, clean, 4))
  damagedByte = Math.min(damagedByte, perByte(lampBinary, damaged, 4))
}
row('decode lamp binary, clean, against a packet-length parser', `${(reference / cleanByte).toFixed(0)} ×`, '30 ×')
row('decode lamp binary, 1 % damaged', `${(reference / damagedByte).toFixed(0)} ×`, '25 ×')
// The worst input found: start bytes again and again, each claiming the longest frame.
const worst = (length: number) => Uint8Array.from({ length }, (_, i) => [0xc3, 0x3c, 100, 1][i % 4]!)
const worstByte = perByte(lengthLedStart, worst(400_000))
const line = 4_000_000 / 10
row('worst input (length-led, every byte a false start)', `${(1 / worstByte / line).toFixed(0)} × a 4 Mbaud line`, '20 ×')
row(
  '  the same, ten times as long: cost of a byte',
  `${(perByte(lengthLedStart, worst(4_000_000)) / worstByte).toFixed(2)} ×`,
  '1 × (linear)',
)

// --- every framing, and lines: clean, damaged and worst, in times a 4 Mbaud line
const times = (secondsPerByte: number): string => `${(1 / secondsPerByte / line).toFixed(0)} ×`
const hurt = (bytes: Uint8Array): Uint8Array => bytes.map((byte) => (random.below(100) ? byte : byte ^ (1 << random.below(8))))
for (const layout of layoutsForLaws.filter(({ toPanel }) => toPanel.mostPayload > 2)) {
  const side = codecOf(mustHold(compileLayout(layout)), 'to panel')
  const sent = Array.from({ length: 4000 }, (_, i) =>
    encodeFrame(side, { operation: 'write', sequence: i & 15, address: random.below(250), payload: [random.below(256), 9] }),
  ).flatMap((made) => (made.ok ? [made.value] : []))
  const stream = joinBytes(sent)
  const { before, start: first, after } = side.framing
  const marks = [...before, ...first, ...after, 1]
  const bad = Uint8Array.from({ length: stream.length }, (_, i) => marks[i % marks.length]!)
  const each = [stream, hurt(stream), bad].map((bytes) => perByte(layout, bytes, 4))
  const ten = perByte(layout, joinBytes(Array.from({ length: 10 }, () => bad)), 1) / each[2]!
  row(
    `  ${layout.name}: clean, damaged, marks alone; ten times as long`,
    `${each.map(times).join(', ')}; ${ten.toFixed(1)} ×`,
    '20 ×; 1 ×',
  )
}
{
  const holds = { type: 'u16', factor: 0.1, offset: 0, decimals: 1, unit: '', min: 0, max: 6000 } as const
  const variables = Array.from({ length: 300 }, (_, index) => ({
    name: `variable_${index}`,
    cell: { index, address: 16 + index, words: 1, holds, order: 'low' as const, travels: 'both' as const, stale: null },
  }))
  const lines = mustHold(protocolFor(lampLines, { ...emptyBook(), variables }))
  const said = Array.from({ length: 4000 }, () =>
    mustHold(
      lines.encode('to panel', {
        operation: 'write',
        sequence: 0,
        address: 16 + random.below(300),
        payload: [random.below(256), 9],
      }),
    ),
  )
  const through = (bytes: Uint8Array): number =>
    seconds(() => {
      const decoder = lines.decoder('to panel')
      for (let at = 0; at < bytes.length; at += 4096) decoder.feed(bytes.subarray(at, at + 4096), 0, 0)
    }, 4) / bytes.length
  const stream = joinBytes(said)
  const each = [stream, hurt(stream), stream.map(() => 10), stream.map((_, i) => (i % 500 ? 0x22 : 10))].map(through)
  row('  lamp lines, 300 names: clean, damaged, ends alone, quotes alone', each.map(times).join(', '), '20 ×')
}

// --- checksums
const short = frames.slice(0, 2000).map((f) => Buffer.from(f.slice(1, -1)))
const long = Buffer.from(Uint8Array.from({ length: 1 << 20 }, () => random.below(256)))
const names: [ChecksumName, (b: Buffer) => number][] = [
  ['crc-16-modbus', (b) => crc.crc16modbus(b)],
  ['crc-16-ccitt', (b) => crc.crc16ccitt(b)],
  ['crc-32', (b) => crc.crc32(b)],
]
let sink = 0
for (const [name, theirs] of names) {
  const run = checksumFunction(name)
  const ours = (b: Buffer) => run(b, 0, b.length)
  /** How many times as long theirs takes: both in turn, until both are warm and have had a quiet moment. */
  const ratio = (work: (f: (b: Buffer) => number) => void, times: number) => {
    let [their, our] = [Infinity, Infinity]
    for (let round = 0; round < 8; round++) {
      their = Math.min(
        their,
        seconds(() => work(theirs), times),
      )
      our = Math.min(
        our,
        seconds(() => work(ours), times),
      )
    }
    return `${(their / our).toFixed(1)} ×`
  }
  const onShort = ratio((f) => short.forEach((b) => (sink ^= f(b))), 6)
  row(`${name} on frames under 32 bytes, against the crc package`, onShort, '3 ×')
  row(
    `${name} on 1 MiB`,
    ratio((f) => void (sink ^= f(long)), 4),
    '1.8 ×',
  )
}

// --- rig and panel
const compiler = new Compiler(new MadeChunks(demo.assets))
const build = compiler.compile(demo.project)
const host = compileHost(demo.project, compiler.cells)
const fast: Project = { ...demo.project, link: { ...demo.project.link, baud: 4_000_000, answers: 'never' } }
function framesThrough(paint: boolean): number {
  const bench = new Workbench(fast, demo.assets)
  bench.rig.host.silent = true
  const frame = (k: number) =>
    mustHold(
      encodeFrame(codecOf(lamp, 'to panel'), { operation: 'write', sequence: k & 15, address: 0x12, payload: [k & 255, 0] }),
    )
  const n = 60_000
  const made = Array.from({ length: 256 }, (_, k) => frame(k))
  const from = performance.now()
  let next = bench.rig.nowUs + 16_667
  for (let k = 0; k < n; k++) {
    bench.rig.line.send('to panel', made[k & 255]!, { message: null, attempt: 0 })
    if (k % 200 === 0) bench.advance(200 * 24)
    if (paint && bench.rig.nowUs >= next) {
      bench.paint()
      next = bench.rig.nowUs + 16_667
    }
  }
  bench.advance(1_000_000)
  return n / ((performance.now() - from) / 1000)
}
framesThrough(false)
row('frames a second through line, panel and log, unpainted', `${framesThrough(false).toFixed(0)}`, '100 000')
row('the same, painted at 60 virtual Hz', `${framesThrough(true).toFixed(0)}`, '25 000')
const hour = seconds(() => new Rig(build, host, 7).advance(600_000_000), 2)
row('the demo with its host, unpainted', `${(600 / hour).toFixed(0)} s a second`, '')

// --- painting
{
  const bench = new Workbench(demo.project, demo.assets)
  bench.rig.host.silent = true
  bench.advance(1_200_000)
  bench.rig.panel.memory.setOwn('page', 2)
  bench.paint()
  const { surface } = bench.rig.panel.glass
  const full = new Surface(800, 480)
  row(
    'full repaint of the Dome page',
    `${(seconds(() => void bench.rig.panel.onDesk.paintPage(1, full), 10) * 1000).toFixed(2)} ms`,
    '',
  )
  const { cell } = bench.build.header.cells.find((c) => c.cell.address === 0x33)!
  const before = surface.written
  bench.rig.panel.memory.write(cell, 72)
  bench.paint()
  const box = Object.values(demo.project.widgets).find((w) => w.name === 'Humidity')!.place
  row(
    'pixels written after one number changed, against its box',
    `${((surface.written - before) / (box.width * box.height)).toFixed(2)} ×`,
    '1.5 ×',
  )
}

// --- the desk
{
  let at = demo.project
  const edit = (name: string, args: unknown) => (at = mustHold(passGate(at, { changeId: 'change:d', edit: name, args })).project)
  edit('add page', { id: 'page:desk', after: '', name: 'desk' })
  edit('add widgets', {
    page: 'page:desk',
    after: '',
    variables: Array.from({ length: 50 }, (_, k) => ({ id: `variable:d${k}`, name: `d_${k}` })),
    widgets: Array.from({ length: 100 }, (_, k) => ({
      id: `widget:d${k}`,
      kind: k % 2 ? 'number' : 'button',
      place: { x: (k % 10) * 79, y: Math.floor(k / 10) * 47, width: 72, height: 40 },
      settings: k % 2 ? { variable: `variable:d${(k - 1) / 2}` } : {},
    })),
  })
  const bench = new Workbench(at, demo.assets)
  bench.lookAt('page:desk')
  bench.paint()
  const steps: number[] = []
  for (let k = 0; k < 900; k++) {
    const from = performance.now()
    const places = { 'widget:d44': { x: k % 700, y: k % 430, width: 72, height: 40 } }
    bench.preview({ changeId: 'change:p', edit: 'place widgets', args: { places } })
    bench.rig.panel.desk.paint()
    if (k > 300) steps.push(performance.now() - from)
  }
  steps.sort((a, b) => a - b)
  const p95 = steps[Math.floor(steps.length * 0.95)]!
  row('one step of a drag with 100 widgets on the page, to the painted glass, p95', `${p95.toFixed(1)} ms`, '8 ms')
}

// --- a large project
function large(pages: number): Project {
  let project = demo.project
  let n = 0
  const edit = (name: string, args: unknown) => {
    project = mustHold(passGate(project, { changeId: `change:g${n++}`, edit: name, args })).project
  }
  for (let p = 0; p < pages; p++) {
    const page = `page:g${p}`
    edit('add page', { id: page, after: '', name: `page g${p}` })
    edit('add widgets', {
      page,
      after: '',
      variables: Array.from({ length: 40 }, (_, k) => ({ id: `variable:g${p}-${k}`, name: `g${p}_${k}` })),
      widgets: Array.from({ length: 40 }, (_, k) => ({
        id: `widget:g${p}-${k}`,
        kind: ['number', 'indicator', 'button', 'label'][k % 4],
        place: { x: (k % 8) * 98, y: Math.floor(k / 8) * 90, width: 90, height: 60 },
        settings: k % 4 < 2 ? { variable: `variable:g${p}-${k}` } : {},
      })),
    })
  }
  return project
}
const big = large(50)
const small = large(5)
const whole = seconds(() => {
  const cold = new Compiler(new MadeChunks(demo.assets))
  cold.compile(big)
}, 3)
const sheets = seconds(() => void new Compiler(new MadeChunks(demo.assets)).compile(demo.project), 3)
row(
  'compile of 50 pages, 2 000 widgets, 2 000 variables, sheets of letters apart',
  `${((whole - sheets) * 1000).toFixed(0)} ms`,
  '300 ms',
)
row('  and its sheets of letters, once for each font file', `${(sheets * 1000).toFixed(0)} ms`, '')
function afterOneEdit(project: Project): number {
  const warm = new Compiler(new MadeChunks(demo.assets))
  warm.compile(project)
  const id = Object.keys(project.widgets).at(-1)!
  let k = 0
  let now = project
  const edited = Array.from(
    { length: 12 },
    () =>
      (now = mustHold(
        passGate(now, {
          changeId: 'change:x',
          edit: 'place widgets',
          args: { places: { [id]: { x: ++k, y: 1, width: 50, height: 20 } } },
        }),
      ).project),
  )
  let best = Infinity
  for (const next of edited) {
    const from = performance.now()
    warm.compile(next)
    best = Math.min(best, performance.now() - from)
  }
  return best
}
const oneBig = afterOneEdit(big)
const oneSmall = afterOneEdit(small)
row('  after one edit', `${oneBig.toFixed(2)} ms`, '5 ms')
row('  after one edit, against a tenth of the project', `${(oneBig / oneSmall).toFixed(1)} ×`, 'not growing')
const gate = seconds(
  () =>
    void passGate(big, { changeId: 'change:y', edit: 'name widget', args: { id: Object.keys(big.widgets)[0], name: 'other' } }),
  8,
)
row('  one edit through the gate', `${(gate * 1000).toFixed(2)} ms`, '')
const ids = Object.keys(big.widgets).slice(0, 500)
const patches = ids.map((id, k) => ({ op: 'replace' as const, path: `/widgets/${id}/place/x`, value: k }))
row('  patches of 500 widgets', `${(seconds(() => void applyPatches(big, patches), 8) * 1000).toFixed(2)} ms`, '10 ms')
{
  // Another window's change: taken by the saver, put on top of ours as patches, compiled by the worker.
  const made = (k: number) => {
    const saver = new Saver(big, 0)
    saver.hear({ on: 'edit', request: { changeId: 'change:m', edit: 'name widget', args: { id: ids[3], name: 'mine' } } }, 0)
    const theirs = mustHold(
      passGate(big, { changeId: 'change:o', edit: 'place widgets', args: { places: { [ids[7]!]: { x: k + 1 } } } }),
    ).change
    return { saver, theirs: { ...theirs, revision: 1 } }
  }
  const bench = new Workbench(big, demo.assets)
  bench.applyPatches(
    made(0)
      .saver.hear({ on: 'time' }, 0)
      .flatMap((c) => (c.do === 'patch worker' ? c.patches : [])),
  )
  const times: number[] = []
  for (let k = 0; k < 9; k++) {
    const { saver, theirs } = made(k)
    const [call] = saver.hear({ on: 'time' }, 1000).flatMap((c) => (c.do === 'save' ? [c.call] : []))
    const from = performance.now()
    const answer = { outcome: 'behind' as const, revision: 1, changes: [theirs] }
    const commands = saver.hear({ on: 'saved answer', call: call!, answer }, 1000)
    bench.applyPatches(commands.flatMap((c) => (c.do === 'patch worker' ? c.patches : [])))
    times.push(performance.now() - from)
  }
  row('  another window’s change, from its arrival to the build', `${Math.min(...times).toFixed(1)} ms`, '10 ms')
}
{
  // An expectation that is not met for as long as a step may wait, six times over: an hour.
  let at = demo.project
  const edit = (name: string, args: unknown) => (at = mustHold(passGate(at, { changeId: 'change:e', edit: name, args })).project)
  edit('add exchange', { id: 'exchange:hour', after: '' })
  edit('set exchange', { id: 'exchange:hour', values: { allowsOthers: true } })
  for (let k = 0; k < 5; k++)
    edit('add step', { exchange: 'exchange:hour', id: `step:w${k}`, kind: 'wait', after: '', settings: { ms: 600_000 } })
  const settings = { variable: 'variable:dome_target', value: '1', withinMs: 600_000 }
  edit('add step', { exchange: 'exchange:hour', id: 'step:e', kind: 'expect report', after: '', settings })
  const bench = new Workbench(at, demo.assets)
  row(
    'an exchange of an hour with an unmet expectation',
    `${seconds(() => void bench.runExchange('exchange:hour'), 1).toFixed(1)} s`,
    '2 s',
  )
}
{
  const bench = new Workbench(demo.project, demo.assets)
  const label = Object.values(demo.project.widgets).find((w) => w.kind === 'label')!
  const { gc } = globalThis as unknown as { gc(): void }
  const size = () => {
    gc()
    gc()
    return process.memoryUsage().arrayBuffers / 1e6
  }
  const previews = (count: number) => {
    for (let n = 0; n < count; n++)
      bench.preview({ changeId: 'change:p', edit: 'place widgets', args: { places: { [label.id]: { x: n % 50 } } } })
  }
  previews(500)
  const before = size()
  previews(10_000)
  row('memory kept after 10 000 previews', `${(size() - before).toFixed(1)} MB`, 'flat within 5 MB')
}
const viewer = new Viewer(demo.assets)
row('  all findings', `${(seconds(() => void checkProject(viewer.view(big)), 3) * 1000).toFixed(0)} ms`, '')
const book = seconds(() => {
  const addresses = new AddressBook({ from: 0, to: 0x10000, ownFrom: 0xff00, ownTo: 0xff10, order: 'low' }, [])
  for (let k = 0; k < 10_000; k++) addresses.give(1 + (k % 5))
}, 3)
row('addresses for 10 000 variables', `${(book * 1000).toFixed(0)} ms`, '')
// The sums are used, so that no engine leaves them out.
if (sink === 1.5) console.log(sink)

// --- widgets
{
  const perKind: [string, number, number][] = []
  for (const { kind, label } of widgetKinds()) {
    const bench = sampleBench(demo.project, kind, demo.assets)!
    const page = bench.build.header.pages.find((p) =>
      bench.build.symbols.pages.some((s) => s.number === p.number && s.id === samplePage),
    )!
    bench.rig.panel.memory.setOwn('page', page.number)
    bench.advance(500_000)
    bench.paint()
    const { glass, memory } = bench.rig.panel
    const each = seconds(() => {
      for (let k = 0; k < 20; k++) {
        glass.markAll()
        bench.paint()
      }
    }, 5)
    // Cost of one changed value, against the boxes that were and are to be painted.
    const cell = bench.build.header.cells[0]?.cell
    let [written, boxes] = [0, 0]
    const chance = seededRandom(5)
    for (let k = 0; cell && cell.holds.type !== 'text' && k < 40; k++) {
      memory.write(cell, chance.below(cell.holds.type === 'choice' ? cell.holds.choices.length : 12))
      if (widgetKinds().find((one) => one.kind === kind)!.samplesEveryMs) bench.advance(100_000)
      const before = glass.surface.written
      const areas = bench.paint()
      written += glass.surface.written - before
      boxes += areas.reduce((sum, r) => sum + r.width * r.height, 0)
    }
    perKind.push([label, 20 / each, boxes ? written / boxes : 0])
  }
  for (const [label, paints, share] of perKind.sort((a, b) => a[1] - b[1]))
    row(
      `${label}: whole pictures a second; pixels against the boxes of a change`,
      `${paints.toFixed(0)} · ${share.toFixed(2)} ×`,
      '1.5 ×',
    )

  // A page of 100 widgets, each written 20 times a second by its host.
  let project: Project = { ...demo.project }
  let n = 0
  const edit = (name: string, args: unknown) =>
    (project = mustHold(passGate(project, { changeId: `change:live${++n}`, edit: name, args })).project)
  edit('set link', { values: { baud: 921_600 } })
  edit('add page', { id: 'page:live', after: '' })
  edit('set start page', { id: 'page:live' })
  const kinds = ['number', 'bar', 'indicator', 'slider', 'number', 'gauge', 'level', 'text', 'number', 'bar']
  for (let k = 0; k < 100; k++) {
    const kind = kinds[k % 10]!
    const id = `variable:live${k}`
    edit('add variable', {
      id,
      name: `live_${k}`,
      values: { holds: { type: 'u16', factor: 0.1, offset: 0, decimals: 1, unit: '', min: 0, max: 100 }, travels: 'both' },
    })
    edit('add widgets', {
      page: 'page:live',
      after: '',
      widgets: [
        {
          id: `widget:live${k}`,
          kind,
          place: { x: (k % 10) * 79, y: Math.floor(k / 10) * 47, width: 74, height: 42 },
          settings: { variable: id },
        },
      ],
    })
    edit('add to host', {
      part: 'quantities',
      id: `quantity:live${k}`,
      kind: 'walk',
      after: '',
      settings: { variable: id, everyMs: 50, low: 0, high: 100, start: k, step: 3 },
    })
  }
  const bench = new Workbench(project, demo.assets)
  bench.advance(2_000_000)
  bench.paint()
  const times: number[] = []
  const before = bench.rig.conversation.lastId
  for (let k = 0; k < 600; k++) {
    const from = performance.now()
    bench.advance(16_667)
    bench.paint()
    times.push(performance.now() - from)
  }
  const p95 = times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)]!
  const said = Math.round((bench.rig.conversation.lastId - before) / 10)
  row(`a page of 100 widgets, ${said} frames a second at 921 600 Bd: a refresh, p95`, `${p95.toFixed(1)} ms`, '5 ms')
  const alone = seconds(() => bench.advance(5_000_000), 3)
  row('the same page without a screen', `${(5 / alone).toFixed(0)} s a second`, '')

  // A slider of the demo pulled: from the finger to the painted glass.
  const pulled = new Workbench(demo.project, demo.assets)
  pulled.advance(1_500_000)
  pulled.rig.panel.memory.setOwn('page', 3)
  pulled.advance(300_000)
  pulled.paint()
  const slider = Object.values(demo.project.widgets).find((w) => w.kind === 'slider')!.place
  pulled.rig.panel.touchDown(slider.x + 12, slider.y + 19)
  pulled.advance(50_000)
  const steps: number[] = []
  for (let k = 0; k < 400; k++) {
    const from = performance.now()
    pulled.rig.panel.touchMove(slider.x + 12 + (k % 200), slider.y + 19)
    pulled.advance(5_000)
    pulled.paint()
    steps.push(performance.now() - from)
  }
  row('one step of a pulled slider, to the painted glass, p95', `${steps.sort((a, b) => a - b)[380]!.toFixed(2)} ms`, '8 ms')
}
