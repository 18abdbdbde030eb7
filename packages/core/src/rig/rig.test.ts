import { describe, expect, test } from 'vitest'
import { hashOfWords, seededRandom } from '../base/index.ts'
import { Compiler, compileHost } from '../compile/index.ts'
import { demo, edited } from '../testing/demo.ts'
import { layoutsForLaws } from '../testing/layouts.ts'
import { systemVariableNamed } from '../variables/index.ts'
import { Rig } from './index.ts'
import { MadeChunks } from '../artwork/index.ts'

const { project, assets } = demo
const compiler = new Compiler(new MadeChunks(assets))
const build = compiler.compile(project)
const host = compileHost(project, compiler.cells)
const make = (seed = 7) => new Rig(build, host, seed)

describe('the conversation', () => {
  test('is the rig’s: the same seed gives the same bytes at the same instants, another seed others', () => {
    const hash = (seed: number) => {
      const rig = make(seed)
      rig.advance(20_000_000)
      return rig.conversationHash()
    }
    expect(hash(7)).toBe(hash(7))
    expect(hash(7)).not.toBe(hash(8))
  })
  test('does not depend on how time is cut', () => {
    const whole = make()
    whole.advance(12_000_000)
    const cut = make()
    const random = seededRandom(3)
    for (let left = 12_000_000; left > 0;) {
      const step = Math.min(left, 1 + random.below(90_000))
      cut.advance(step)
      left -= step
    }
    expect(cut.conversationHash()).toBe(whole.conversationHash())
    whole.paint()
    cut.paint()
    expect(hashOfWords(cut.panel.glass.surface.pixels)).toBe(hashOfWords(whole.panel.glass.surface.pixels))
  })
  test('folds each answer under its request, and never two under one', () => {
    const rig = make()
    rig.advance(10_000_000)
    const all = rig.conversation.all()
    const answers = all.filter((e) => e.answers !== null)
    expect(answers.length).toBeGreaterThan(50)
    expect(new Set(answers.map((e) => e.answers)).size).toBe(answers.length)
    for (const answer of answers) {
      const request = rig.conversation.get(answer.answers!)!
      expect(request.answeredBy).toBe(answer.id)
      expect(request.direction).not.toBe(answer.direction)
      expect(request.message!.sequence).toBe(answer.message!.sequence)
      expect(answer.toUs).toBeGreaterThan(request.toUs)
    }
  })
  test('is in order of time, and asked for from any entry on', () => {
    const rig = make()
    rig.advance(5_000_000)
    const all = rig.conversation.all()
    all.forEach((e, i) => {
      expect(e.toUs).toBeGreaterThanOrEqual(all[i - 1]?.toUs ?? 0)
      expect(e.fromUs).toBeLessThanOrEqual(e.toUs)
    })
    expect(rig.conversation.since(10).map((e) => e.id)).toEqual(all.slice(10).map((e) => e.id))
    expect(rig.conversation.since(rig.conversation.lastId)).toEqual([])
    expect(rig.conversation.get(99_999)).toBeNull()
  })
  test('forgets the oldest, keeps the ids', () => {
    const rig = make()
    const frame = Uint8Array.of(0x7e, 0x51, 0x12, 0, 6, 9, 0x97, 0x82, 0x7e)
    for (let k = 0; k < 260; k++) {
      for (let i = 0; i < 100; i++) rig.line.send('to panel', frame, { message: null, attempt: 0 })
      rig.advance(100 * 5_000)
    }
    const all = rig.conversation.all()
    expect(all.length).toBeLessThanOrEqual(22_000)
    expect(rig.conversation.get(all[0]!.id)).toBe(all[0])
    expect(rig.conversation.get(1)).toBeNull()
    expect(rig.conversation.get(rig.conversation.lastId)!.id).toBe(rig.conversation.lastId)
  })
})

describe('power', () => {
  test('of the panel: memory is lost, the start page shown, the version said again', () => {
    const rig = make()
    rig.advance(1_000_000)
    rig.panel.memory.setOwn('page', 3)
    const before = rig.conversation.lastId
    rig.powerCycle('panel')
    expect(rig.panel.pageNumber).toBe(6)
    rig.advance(200_000)
    expect(rig.conversation.since(before).some((e) => e.message?.operation === 'report' && e.message.address === 0xff06)).toBe(
      true,
    )
  })
  test('what was switched off says nothing more', () => {
    const rig = make()
    rig.advance(1_000_000)
    const old = rig.panel
    rig.powerCycle('panel')
    const clock = old.memory.clock()
    rig.advance(5_000_000)
    expect(old.memory.clock()).toBe(clock)
  })
  test('the clock of the panel goes, and can be set by the host', () => {
    const rig = make()
    const [clock, page] = [
      rig.panel.build.header.memory.ownFrom + systemVariableNamed('clock').offset,
      rig.panel.build.header.memory.ownFrom,
    ]
    rig.host.silent = true
    rig.advance(3_500_000)
    expect(rig.panel.memory.clock()).toBe(null)
    // While it is unknown the words around it may be written; half of a time is none.
    expect(rig.panel.memory.hostWrite(page, [1, 0])).toBe(null)
    expect(rig.panel.memory.hostWrite(clock, [7, 0])).toBe('value')
    expect(rig.panel.memory.hostWrite(clock, [7, 0, 0, 0])).toBe(null)
    rig.advance(2_000_000)
    expect(rig.panel.memory.clock()).toBe(9)
    rig.panel.memory.setOwn('clock', 86_398)
    rig.advance(3_000_000)
    expect(rig.panel.memory.clock()).toBe(1)
  })
  test('a beep counts down to silence', () => {
    const rig = make()
    rig.panel.memory.setOwn('beep', 200)
    rig.advance(199_000)
    expect(rig.panel.memory.own('beep')).toBe(200)
    rig.advance(2_000)
    expect(rig.panel.memory.own('beep')).toBe(0)
  })
})

test('bytes typed one by one on a quiet line are one frame; with a long gap they are none', () => {
  const rig = make()
  rig.host.silent = true
  rig.advance(500_000)
  const frame = Uint8Array.of(0x7e, 0x51, 0x12, 0, 6, 9, 0x97, 0x82, 0x7e)
  const before = rig.conversation.lastId
  rig.sendRaw('to panel', frame)
  rig.advance(20_000)
  expect(rig.conversation.since(before).some((e) => e.kind === 'frame' && e.bytes.length === 9)).toBe(true)
  const then = rig.conversation.lastId
  for (const byte of frame) {
    rig.sendRaw('to panel', Uint8Array.of(byte))
    rig.advance(80_000)
  }
  expect(rig.conversation.since(then).filter((e) => e.direction === 'to panel' && e.kind === 'frame')).toEqual([])
})

test('host and panel of different builds: the wrong baud rate, layout or address is to be seen, never a crash', () => {
  const others = [
    edited(project, 'set layout', { values: { 'toPanel/payload': 'high' } }),
    edited(project, 'set variable', { id: 'variable:dome_azimuth', values: { address: 0x2 } }),
    edited(project, 'set layout', {
      values: { 'toPanel/framing': { kind: 'delimited', flag: 0x7f, escape: 0x7d, xor: 0x20, codes: [] } },
    }),
  ]
  for (const other of others) {
    const rig = new Rig(build, compileHost(other), 7)
    rig.advance(3_000_000)
    rig.paint()
    const wrong = rig.conversation
      .all()
      .filter((e) => e.kind === 'bad' || e.verdict === 'refused' || e.verdict === 'out of range')
    expect(wrong.length).toBeGreaterThan(0)
  }
})

test('a value that the layout has no frame for is not lost in silence: an event says so, and why', () => {
  const ended = layoutsForLaws.find(({ name }) => name.startsWith('ended by CR LF'))!
  const other = edited(project, 'set layout', { values: { toPanel: ended.toPanel } })
  const made = new Compiler(new MadeChunks(assets))
  const rig = new Rig(made.compile(other), compileHost(other, made.cells), 7)
  rig.advance(1_000_000)
  const before = rig.events.lastId
  const target = rig.host.values().find(({ cell }) => cell.address === 0x12)!.cell
  // 0x0A0D, low byte first: CR LF.
  rig.host.write(target, 0x0a0d / 10)
  const [event] = rig.events.since(before)
  expect([event!.what, event!.words]).toEqual(['not sent', 'not sent: write dome_target. The data contains the end bytes 0D 0A.'])
})

test('a host of another make has the line, its controls and power as the simulated one has', () => {
  const made: string[][] = []
  const rig = new Rig(build, host, 7, (_build, clock, wire) => {
    const did: string[] = []
    made.push(did)
    return {
      silent: false,
      receive: (bytes, fromUs, attempt) => void did.push(`${bytes.length} bytes, try ${attempt}, ${fromUs < clock.nowUs}`),
      become: () => void did.push('become'),
      stop: () => void did.push('stop'),
      write: () => undefined,
      ask: () => undefined,
      command: () => null,
      previewCommand: () => null,
      preview: () => null,
      says: (bytes) => void wire.send(bytes, null, 0),
      values: () => [],
      takeNews: () => [],
      outputs: () => [],
    }
  })
  rig.advance(2_000_000)
  // Nobody answers the panel's first words: it tries again as often as the link says.
  expect(made[0]).toEqual(Array.from({ length: build.header.link.tries }, (_, n) => `9 bytes, try ${n + 1}, true`))
  rig.become(build, host)
  rig.powerCycle('host')
  expect(made[0]!.slice(-2)).toEqual(['become', 'stop'])
  expect(made).toHaveLength(2)
})
