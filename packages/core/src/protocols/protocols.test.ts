import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { fromHex, joinBytes, mustHold, toHex } from '../base/index.ts'
import { lampBinary, type Message } from '../frames/index.ts'
import { changedWay, bigEndianPlain, layoutsForLaws } from '../testing/layouts.ts'
import { emptyBook, protocolFor, Receiver } from './index.ts'

const lamp = mustHold(protocolFor(lampBinary, emptyBook()))
const hex = (text: string) => mustHold(fromHex(text))
const good = hex('7E 51 12 00 06 09 97 82 7E')

describe('a protocol', () => {
  test('knows how far its sequence numbers go', () => {
    const last = (l: (typeof layoutsForLaws)[number]) => mustHold(protocolFor(l, emptyBook())).lastSequence
    expect(layoutsForLaws.slice(0, 8).map(last)).toEqual([15, 15, 0, 255, 0, 0, 0, 0])
  })
  test('knows what can be said which way', () => {
    expect([
      lamp.can('to panel', 'write'),
      lamp.can('to host', 'write'),
      lamp.can('to host', 'report'),
      lamp.can('to panel', 'done'),
    ]).toEqual([true, false, true, true])
    const eight = mustHold(protocolFor(layoutsForLaws[3]!, emptyBook()))
    expect([eight.can('to panel', 'ask'), eight.can('to host', 'event')]).toEqual([false, false])
  })
  test('is refused for a layout with two readings, with the reason', () => {
    expect(protocolFor(changedWay(bigEndianPlain, { head: [] }), emptyBook())).toMatchObject({
      ok: false,
      problem: { code: 'layout.needs' },
    })
  })
})

describe('a receiver', () => {
  test('hands out each outcome with its bytes and the instant it was complete', () => {
    const receiver = new Receiver(lamp, 'to panel', lamp.dialogue(1000))
    expect(receiver.receive(good.slice(0, 4), 100, 100)).toEqual([])
    const [heard] = receiver.receive(good.slice(4), 900, 900)
    expect(heard).toMatchObject({ kind: 'frame', atUs: 900 })
    expect(toHex(heard!.bytes)).toBe(toHex(good))
  })
  test('gives up what is unfinished at its deadline, not at the next byte', () => {
    const receiver = new Receiver(lamp, 'to panel', lamp.dialogue(1000))
    receiver.receive(good.slice(0, 4), 1000, 1000)
    expect(receiver.deadlineUs).toBe(1000 + lampBinary.toPanel.gapUs)
    expect(receiver.expire(1000)).toEqual([])
    const late = receiver.receive(good, 2_000_000, 2_000_000)
    expect(late.map((h) => [h.kind, h.atUs, h.bytes.length])).toEqual([
      ['bad', 1000 + lampBinary.toPanel.gapUs, 4],
      ['frame', 2_000_000, 9],
    ])
  })
  test('forgets what has been dealt with, and loses no byte of what has not', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.constant(good), fc.uint8Array({ minLength: 1, maxLength: 12 })), { maxLength: 12 }),
        fc.integer({ min: 1, max: 9 }),
        (parts, chunk) => {
          const stream = joinBytes(parts)
          const receiver = new Receiver(lamp, 'to panel', lamp.dialogue(1000))
          const heard = []
          for (let at = 0; at < stream.length; at += chunk) heard.push(...receiver.receive(stream.slice(at, at + chunk), at, at))
          heard.push(...receiver.expire(1e12))
          expect(joinBytes(heard.map((h) => h.bytes))).toEqual(stream)
        },
      ),
    )
  })
  test('of the host hears reports, and not what only a panel would', () => {
    const report: Message = { operation: 'report', sequence: 3, address: 0x12, payload: [6, 9] }
    const receiver = new Receiver(lamp, 'to host', lamp.dialogue(1000))
    expect(receiver.receive(mustHold(lamp.encode('to host', report)), 0, 0)).toMatchObject([{ kind: 'frame', message: report }])
    const flagged = [...receiver.receive(good, 10, 10), ...receiver.expire(1e12)]
    expect(flagged).toMatchObject([{ kind: 'bad', code: 'operation' }])
  })
})

describe('texts on the wire', () => {
  const book = {
    ...emptyBook(),
    variables: [
      {
        name: 'title',
        cell: {
          index: 1,
          address: 0x20,
          words: 4,
          holds: { type: 'text', bytes: 8, encoding: 'ascii' } as const,
          order: 'low' as const,
          travels: 'both' as const,
          stale: null,
        },
      },
    ],
  }
  const weir = [0x57, 0x65, 0x69, 0x72, 0, 0, 0, 0]
  test.each([
    ['whole', 0, weir, weir],
    ['used', 0, weir.slice(0, 4), weir.slice(0, 4)],
    ['ended', 0, [...weir.slice(0, 4), 0], weir.slice(0, 4)],
    ['ended', 0x0d, [...weir.slice(0, 4), 0x0d], weir.slice(0, 4)],
    ['padded', 0x20, [...weir.slice(0, 4), 0x20, 0x20, 0x20, 0x20], weir],
  ] as const)('%s, with %i: and back', (texts, textByte, wire, heard) => {
    const protocol = mustHold(protocolFor(changedWay(bigEndianPlain, { texts, textByte }), book))
    const say = (address: number, payload: readonly number[]) =>
      mustHold(protocol.encode('to panel', { operation: 'write', sequence: 0, address, payload }))
    const bytes = say(0x20, weir)
    expect(Array.from(bytes.slice(6))).toEqual([...wire])
    const [outcome] = protocol.decoder('to panel').feed(bytes, 0, 0)
    expect(outcome).toMatchObject({ kind: 'frame', readings: [{ payload: [...heard] }] })
    expect(protocol.dissect('to panel', bytes).readings).toMatchObject([{ payload: [...heard] }])
    // Said again it is the same frame; what is no text stays as it is.
    expect(say(0x20, heard)).toEqual(bytes)
    expect(Array.from(say(0x30, [7, 0]).slice(6))).toEqual([7, 0])
  })
})

describe('a dialogue', () => {
  const ask: Message = { operation: 'ask', sequence: 1, address: 7, words: 1 }
  const both = (address: number, ...payload: number[]): Message[] =>
    (['value', 'report'] as const).map((operation) => ({ operation, sequence: 0, address, payload }))
  test('takes a frame of two readings for the answer while a question for its place is open, else for a report', () => {
    const dialogue = lamp.dialogue(1000)
    const heard = (readings: Message[], atUs: number) => dialogue.heard('to host', readings, atUs).operation
    expect(heard(both(7, 1, 2), 0)).toBe('report')
    dialogue.said('to panel', ask, 100)
    expect(heard(both(8, 1, 2), 200)).toBe('report')
    expect(heard(both(7, 1, 2, 3, 4), 200)).toBe('report')
    expect(heard(both(7, 1, 2), 200)).toBe('value')
    expect(heard(both(7, 1, 2), 300)).toBe('report')
    dialogue.said('to panel', ask, 400)
    expect(heard(both(7, 1, 2), 1401)).toBe('report')
  })
  test('takes an answer that does not say whose it is for that to the first open question of its length', () => {
    const dialogue = lamp.dialogue(1000)
    const answer: Message = { operation: 'value', sequence: 0, address: -1, payload: [1, 2] }
    for (const [address, words] of [
      [9, 2],
      [7, 1],
      [8, 1],
    ] as const)
      dialogue.said('to panel', { ...ask, address, words }, 100)
    expect([200, 300, 400].map((at) => dialogue.heard('to host', [answer], at).address)).toEqual([7, 8, -1])
  })
  test('is one object for one layout and memory', () => {
    expect(protocolFor(lampBinary, emptyBook())).toBe(protocolFor(lampBinary, emptyBook()))
    expect(protocolFor(lampBinary, emptyBook('high'))).not.toBe(protocolFor(lampBinary, emptyBook()))
  })
})

test('a layout whose checks are off says and hears frames without them', () => {
  const off = changedWay(lampBinary, { checks: 'off' })
  const message = { operation: 'write' as const, sequence: 1, address: 0x12, payload: [1, 2] }
  const [on, without] = [lampBinary, off].map((layout) => mustHold(protocolFor(layout, emptyBook())))
  const [whole, bare] = [mustHold(on!.encode('to panel', message)), mustHold(without!.encode('to panel', message))]
  expect(bare.length).toBeLessThan(whole.length)
  expect(without!.dissect('to panel', bare)).toMatchObject({ bad: null, readings: [message] })
  expect(without!.dissect('to panel', bare).pieces.map(({ kind }) => kind)).not.toContain('checksum')
  expect(on!.dissect('to panel', bare).bad).not.toBeNull()
})
