import { describe, expect, test } from 'vitest'
import { mustHold, toHex } from '../base/index.ts'
import { bookOf } from '../project/index.ts'
import { codecOf, compileLayout, encodeFrame } from '../frames/index.ts'
import { lampLines } from '../protocols/index.ts'
import { demo, edited } from '../testing/demo.ts'
import { bytesOfLine } from './log-lines.ts'
import type { Book } from '../protocols/index.ts'
import type { Layout } from '../frames/index.ts'
import { causeWords, LogIndex } from './index.ts'

const { project } = demo
function readLog(layout: Layout, book: Book, text: string) {
  const log = LogIndex.of(layout, book)!.readAll(text)
  return { log, parts: log.rows(0, log.count), good: log.good, bad: log.bad, passedOver: log.passedOver }
}
const explain = (text: string) => readLog(project.layout, bookOf(project), text)

describe('what of a line is bytes', () => {
  const cases: [string, string, string][] = [
    ['7E 51 12 00', '7E 51 12 00', ''],
    ['21:47:06.512 TX 7E 51 12', '7E 51 12', 'TX'],
    ['[12.345] rx: 0x7E, 0x51, 0x12', '7E 51 12', 'RX'],
    ['{0x7E,0x51}', '7E 51', ''],
    ['→ 7E511200', '7E 51 12 00', '→'],
    ['0010  7E 51 12 00  |~Q..|', '7E 51 12 00', ''],
    ['7E-51-12-00-06', '7E 51 12 00 06', ''],
    ['\\x7E\\x51', '7E 51', ''],
    ['the panel was restarted', '', 'PANEL'],
    ['', '', ''],
  ]
  test.each(cases)('%s', (text, bytes, mark) => {
    const line = bytesOfLine(text)
    expect([toHex(line.bytes), line.mark]).toEqual([bytes, mark])
  })
  test('what is no byte among bytes is told, and the others stay', () => {
    const { bytes, wrong } = bytesOfLine('7E 5G 12 00')
    expect([toHex(bytes), wrong]).toEqual(['7E 12 00', ['5G']])
  })
  test('times of the day and seconds', () => {
    expect(bytesOfLine('00:00:01.500 7E').timeMs).toBe(1500)
    expect(bytesOfLine('2.25 s TX 7E 51').timeMs).toBe(2250)
    expect(bytesOfLine('7E 51').timeMs).toBe(null)
  })
})

describe('a pasted log', () => {
  const done = toHex(
    mustHold(
      encodeFrame(codecOf(mustHold(compileLayout(project.layout)), 'to host'), { operation: 'done', sequence: 5, address: 0x12 }),
    ),
  )
  const log = [
    '-- opened at 19200',
    '21:47:06.512 TX 7E 51 12 00 06 09 97 82 7E',
    `21:47:06.521 RX ${done}`,
    '21:47:07.140 RX 7E 35 12 00 06 09 34 0E 7E',
    '21:47:08.000 TX 7E 51 12 00 06 09 97 83 7E',
  ].join('\n')
  test('each frame in its own direction, answers with their time, the wrong one with its bit', () => {
    const { parts, good, bad, passedOver } = explain(log)
    expect(parts.map((p) => [p.line, p.direction, p.good])).toEqual([
      [2, 'to panel', true],
      [3, 'to host', true],
      [4, 'to host', true],
      [5, 'to panel', false],
    ])
    expect(parts[0]!.says).toBe('write dome_target = 231.0°, sequence 5')
    expect(parts[1]!.beside).toBe('9 ms after line 2')
    expect(causeWords(parts[3]!)).toBe(
      'One bit is wrong: byte 8, bit 0. Corrected to 82: write dome_target = 231.0°, sequence 5. (likely)',
    )
    // As the bytes stand in the log, the flag counted: the eighth.
    expect(parts[3]!.marks).toEqual([{ from: 7, to: 8 }])
    expect([good, bad, passedOver]).toEqual([3, 1, 1])
  })
  test('without marks: the direction of each frame is found, and bytes between them are not lost', () => {
    const { parts } = explain('7E 51 12 00 06 09 97 82 7E 01 02\n7E 35 12 00 06 09 34 0E 7E')
    expect(parts.filter((p) => p.good).map((p) => p.direction)).toEqual(['to panel', 'to host'])
    expect(parts.reduce((sum, p) => sum + p.bytes.length, 0)).toBe(20)
  })
  test('a frame that is broken over two lines is one', () =>
    expect(explain('TX 7E 51 12 00\nTX 06 09 97 82 7E').parts.map((p) => [p.line, p.good])).toEqual([[1, true]]))
  test('an answer without marks goes against what it answers', () => {
    const { parts } = explain(`7E 51 12 00 06 09 97 82 7E ${done}`)
    expect(parts.map((p) => [p.direction, p.beside])).toEqual([
      ['to panel', ''],
      ['to host', 'answers line 1'],
    ])
  })
  test('rubbish is passed over', () => expect(explain('hello\n\nworld').passedOver).toBe(2))
})

test('bytes without end that are no frame are told together, and every frame among them by itself', () => {
  const book = bookOf(demo.project)
  const frame = '7E 51 12 00 06 09 97 82 7E '
  const explained = readLog(demo.project.layout, book, '7E '.repeat(60_000) + frame + '7E 01 '.repeat(30_000) + frame)
  expect(explained.good).toBe(2)
  // Counted, not timed: as many stretches as anyone would read.
  expect(explained.parts.length).toBeLessThan(2_200)
  expect(explained.parts.reduce((sum, part) => sum + part.bytes.length, 0)).toBe(60_000 + 9 + 60_000 + 9)
})

describe('a log of lines', () => {
  const lined = edited(project, 'set layout', { values: { toPanel: lampLines.toPanel } })
  const read = (text: string) => readLog(lined.layout, bookOf(lined), text)
  test('is read as characters, each line in its direction, with time stamps and marks left out', () => {
    const { parts, good, bad } = read(
      [
        '21:47:06.500 TX dome_target = 231.0',
        '21:47:06.512 RX ok dome_target',
        '[12.5] RX: event Open_shutter pressed',
        'oops',
      ].join('\n'),
    )
    expect(parts.map((p) => p.says.replace(/, sequence.*/, ''))).toEqual([
      'write dome_target = 231.0°',
      'acknowledge dome_target',
      expect.any(String),
      expect.any(String),
    ])
    expect(parts.map((p) => p.direction).slice(0, 2)).toEqual(['to panel', 'to host'])
    expect(parts[1]!.beside).toBe('12 ms after line 1')
    expect([good >= 2, bad >= 1]).toEqual([true, true])
  })
  test('another spelling is marked, hex is read too, and the nearest name is offered', () => {
    expect(read('dome_target = +231').parts[0]).toMatchObject({
      good: true,
      note: 'Another spelling; sent as dome_target = 231.0.',
    })
    expect(read(toHex(Uint8Array.from('dome_target?\n', (c) => c.charCodeAt(0)))).parts[0]!.says).toContain('dome_target')
    expect(read('dome_targt?').parts[0]).toMatchObject({
      good: false,
      code: 'name',
      causes: [{ says: 'Did you mean dome_target?' }],
    })
  })
})
