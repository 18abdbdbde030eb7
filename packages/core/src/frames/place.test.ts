import { describe, expect, test } from 'vitest'
import { checksumFunction, mustHold, takeNumber, toHex } from '../base/index.ts'
import { record } from '../describe/index.ts'
import { bigEndianPlain, changedWay, layoutsForLaws } from '../testing/layouts.ts'
import {
  codecOf,
  compileLayout,
  bodyOfPieces,
  dissect,
  encodeFrame,
  layoutProblemLines,
  layoutSentences,
  makeDecoder,
  partOf,
  registerPart,
  lengthLedStart,
  checkLayout,
  reachOf,
  part,
  standingParts,
} from './index.ts'

describe.each(layoutsForLaws.map((layout) => [layout.name, layout] as const))('parts of %s', (_, layout) => {
  const codec = mustHold(compileLayout(layout))
  const made = layout.toPanel.forms
    .filter((form) => form.operation === 'write' || form.operation === 'report')
    .map((form) => {
      const message = { operation: form.operation, sequence: 3, address: 0x12, payload: [6, 9] } as never
      const wire = mustHold(encodeFrame(codecOf(codec, form.directions[0]!), message))
      return { form, body: bodyOfPieces(dissect(codecOf(codec, form.directions[0]!), wire).pieces) }
    })
  test('stand one after another over the whole body', () => {
    for (const { form, body } of made) {
      const all = standingParts(layout.toPanel, form, 2)
      expect(all.at(-1)?.to ?? 0).toBe(body.length)
      for (const [i, one] of all.entries()) if (i) expect(one.from).toBe(all[i - 1]!.to)
    }
  })
  test('a check is that of the bytes it reaches, a length the number of those it counts', () => {
    for (const { form, body } of made)
      for (const { part, from } of standingParts(layout.toPanel, form, 2)) {
        const reach = reachOf(layout.toPanel, form, part, 2)
        if (part.part === 'length' && part.spelling === 'binary' && part.unit === 'bytes')
          expect(takeNumber(body, from, part.size, part.order)).toBe(reach!.to - reach!.from + part.adds)
        if (part.part === 'checksum' && part.algorithm !== 'own crc' && reach && reach.to <= from) {
          const right = checksumFunction(part.algorithm)(body, reach.from, reach.to)
          const size = body.length - from
          if (size <= 4)
            expect(
              takeNumber(body, from, standingParts(layout.toPanel, form, 2).find((s) => s.part === part)!.to - from, part.order),
            ).toBe(right)
        }
      }
  })
})

test('what is wrong with many operations alike is said in one line', () => {
  const broken = changedWay(lengthLedStart, { head: lengthLedStart.toPanel.head.filter((p) => p.part !== 'length') })
  const problems = checkLayout(broken)
  const lines = layoutProblemLines(problems, layoutSentences)
  expect(problems.length).toBeGreaterThan(8)
  expect(lines.length).toBe(1)
  expect(lines[0]).toContain('“write”, “set bits” and ')
})

test('a kind of part says itself that it counts, or checks: nobody else knows its name', () => {
  const takeOut = [
    registerPart(
      partOf({
        part: 'own count',
        label: 'own count',
        settings: record({}),
        size: () => 1,
        made: () => 'data and checksum',
        counts: {
          number: () => ({ size: 1, order: 'low', spelling: 'binary', adds: 0, unit: 1 }),
          reach: (_part, { payload, end }) => ({ from: payload.from, to: end }),
          leaves: (_part, { payload }) => payload.from,
        },
        put:
          (_part, { lengthShift }) =>
          (body, at) => {
            body[at] = body.length + lengthShift
            return null
          },
      }),
    ),
    registerPart(
      partOf({
        part: 'own check',
        label: 'own check',
        settings: record({}),
        size: () => 1,
        made: () => 'sum of the data',
        covers: {
          check: () => ({ algorithm: 'sum-8', number: { size: 1, order: 'low', spelling: 'binary' } }),
          from: (_part, { payload }) => payload.from,
          begins: () => 'payload',
        },
      }),
    ),
  ]
  try {
    const layout = changedWay(bigEndianPlain, {
      head: [part('operation'), { part: 'own count' } as never, part('address', { size: 2, order: 'high' })],
      end: [{ part: 'own check' } as never],
    })
    const codec = mustHold(compileLayout(layout))
    const wire = mustHold(
      encodeFrame(codecOf(codec, 'to panel'), { operation: 'write', sequence: 0, address: 0x12, payload: [9, 6] }),
    )
    expect(toHex(wire)).toBe('A1 B2 01 03 00 12 09 06 0F')
    const read = (bytes: Uint8Array) => makeDecoder(codecOf(codec, 'to panel')).feed(bytes, 0, 0)[0]
    expect(read(wire)).toMatchObject({ kind: 'frame' })
    expect(read(Uint8Array.of(...wire.with(8, 0x10), ...wire))).toMatchObject({ kind: 'bad', code: 'check' })
  } finally {
    for (const out of takeOut) out()
  }
})
