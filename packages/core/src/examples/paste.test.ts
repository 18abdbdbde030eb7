import { describe, expect, test } from 'vitest'
import { mustHold, toHex } from '../base/index.ts'
import { frameBytes, frameText, readPasted } from './index.ts'

describe('pasted examples', () => {
  test.each([
    ['3C C4 05 01 | write 20 to 0x1200', '3C C4 05 01', 'write 20 to 0x1200'],
    ['0xA5, 0x5A, 0x05: write 20 to 0x1200', '0xA5, 0x5A, 0x05', 'write 20 to 0x1200'],
    ['write 20 to 0x1200: 3C C4 05 01', '3C C4 05 01', 'write 20 to 0x1200'],
    ['SET level 20{0D} | write 20 to level', 'SET level 20{0D}', 'write 20 to level'],
    ['SET level 20\\r\twrite 20 to level', 'SET level 20\\r', 'write 20 to level'],
    ['[[mode?]]', '[[mode?]]', ''],
  ])('%s', (line, frame, means) => expect(readPasted(`\n${line}\r\n\n`)).toEqual([{ frame, means }]))
  test.each(['3C C4 05', '53 45 54', 'SET level 20{0D}', '[[title="Weir 2"]]', ':main.level.v=2{1E}{1E}{1E}'])(
    '%s is read back',
    (text) => expect(frameText(mustHold(frameBytes(text)))).toBe(text),
  )
  test('a brace of its own is told in hex', () => {
    const bytes = mustHold(frameBytes('{{7B}a=1{7D}'))
    expect(frameText(bytes)).toBe(toHex(bytes))
  })
})
