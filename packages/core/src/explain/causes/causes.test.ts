import { describe, expect, test } from 'vitest'
import { checksumOf, fromHex, mustHold, toHex } from '../../base/index.ts'
import type { Layout } from '../../frames/index.ts'
import { bookOf } from '../../project/index.ts'
import { lampLines } from '../../protocols/index.ts'
import { demo, edited } from '../../testing/demo.ts'
import { moduleLayouts } from '../../testing/modules/layouts.ts'
import { heardAt, LogIndex } from '../index.ts'

const { project } = demo
const good = '7E 51 12 00 06 09 97 82 7E'
const bytesOf = (hex: string) => mustHold(fromHex(hex))
const asText = (text: string) => toHex(Uint8Array.from(text, (c) => c.charCodeAt(0)))

/** The first cause of the stretch of a log that is wrong or odd, with a layout in the place of the demo's. */
function firstCause(log: string, layout: Layout = project.layout) {
  const of = edited(project, 'set layout', { values: { ...layout } })
  const index = LogIndex.of(of.layout, bookOf(of))!.readAll(log)
  const parts = index.rows(0, index.count)
  const part = parts.find(({ causes }) => causes.length)
  return { code: part?.causes[0]?.code, sure: part?.causes[0]?.sure, says: part?.causes[0]?.says, marks: part?.marks, parts }
}

const lines = { toPanel: lampLines.toPanel, toHost: 'same' } as Layout
const led = moduleLayouts['Rookery T']!.layout
const checked = moduleLayouts['Avocet C']!.layout
const ledFrame = (length: number) => `A5 C3 ${toHex([length])} 01 00 12 09 06`
const silent = moduleLayouts['Whimbrel 32']!.layout
const checkOver = (hex: string, name: 'crc-16-modbus' | 'crc-16-xmodem') => checksumOf(name, bytesOf(hex))

describe('sixteen wrong frames, one a cause, each explained by that cause first', () => {
  const twice = toHex(heardAt(bytesOf(good), 2))
  const half = toHex(heardAt(bytesOf(good), 0.5))
  const evenParity = (text: string) =>
    toHex(
      Uint8Array.from(text, (c) => {
        const code = c.charCodeAt(0)
        const ones = code.toString(2).replaceAll('0', '').length
        return ones % 2 ? code | 0x80 : code
      }),
    )
  const kermit = (() => {
    const body = '51 12 00 06 09'
    const check = checksumOf('crc-16-kermit', bytesOf(body))
    return `7E ${body} ${toHex([check & 0xff, check >> 8])} 7E`
  })()
  const cases: [string, string, string, Layout?][] = [
    ['decimal', 'decimal typed for hex', '126 81 18 0 6 9 151 130 126'],
    ['start-swapped', 'swapped start bytes', 'C3 A5 05 01 00 12 09 06', led],
    ['byte-order', 'wrong byte order', 'A5 C3 05 01 00 12 0D FE', led],
    ['length', 'a length that counts from elsewhere', ledFrame(8), led],
    ['check-kind', 'the check of another kind', kermit],
    ['end-missing', 'a missing end', '7E 51 12 00 06 09 97 82'],
    ['text-for-number', 'text for number', 'A5 C3 06 01 00 12 32 33 31', led],
    ['quotes-missing', 'quotes missing', asText('site_note = clear sky\n'), lines],
    ['baud-twice', 'half the baud rate', twice],
    ['baud-half', 'twice the baud rate', half],
    ['parity', 'parity as the eighth bit', evenParity('dome_target = 231.0\n'), lines],
    ['echo', 'an echo of one’s own', `TX ${good}\nRX ${good}\nRX 7E 35 12 00 06 09 34 0E 7E`],
    ['glued', 'two frames glued', '7E 51 12 00 06 09 97 82 51 12 00 06 09 97 82 7E'],
    ['cut', 'one cut', 'A5 C3 05 01 00 12', led],
    ['start-other', 'another start byte than set', good.replaceAll('7E', '7F')],
    ['flipped', 'one bit flipped', '7E 51 12 00 06 09 97 83 7E'],
  ]
  test.each(cases)('%s: %s', (code, _, log, layout) => {
    const found = firstCause(log, layout)
    expect([found.code, found.says]).toEqual([code, expect.not.stringContaining('{')])
    expect(found.marks!.length).toBeGreaterThan(0)
  })
  test('a length says what it counts, and a number in quotes is told', () => {
    expect(firstCause(ledFrame(8), led).says).toContain('says 8, 5 would be right: it counts the whole frame')
    expect(firstCause(asText('dome_target = "231.0"\n'), lines).code).toBe('text-for-number')
  })
  test('both readings are shown where the byte order is wrong', () =>
    expect(firstCause('A5 C3 05 01 00 12 0D FE', led).says).toMatch(/As received: .*6503.*Swapped: .*358.2/))
  test('a check over other bytes is found, and a frame that ends by silence glued to another', () => {
    const body = '6E 07 01 00 12 09 06'
    const check = checkOver(body, 'crc-16-xmodem')
    expect(firstCause(`${body} ${toHex([check >> 8, check & 0xff])}`, checked).code).toBe('check-kind')
    const one = '4A 8B 31 24 00 00 00 01 06 09'
    const sum = checkOver(one, 'crc-16-modbus')
    const frame = `${one} ${toHex([sum & 0xff, sum >> 8])}`
    expect(firstCause(`${frame} ${frame}`, silent).code).toBe('glued')
    expect(firstCause(`${frame}\n${frame}`, silent).parts.map((part) => part.good)).toEqual([true, true])
  })
})
