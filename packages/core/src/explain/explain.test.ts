import { describe, expect, test } from 'vitest'
import { fromHex, mustHold, toHex } from '../base/index.ts'
import { bookOf } from '../project/index.ts'
import { signalPaths } from '../signal-path/index.ts'
import { demo, edited, widgetNamed } from '../testing/demo.ts'
import { bigEndianPlain } from '../testing/layouts.ts'
import { Job, tenths, whole } from '../testing/job.ts'
import type { Holds } from '../variables/index.ts'
import { catalogue, causeWords, explainBytes, framesOfVariable, sayMessage, sentenceOf } from './index.ts'

const { project } = demo
const explain = (hex: string, p = project) => explainBytes(p.layout, bookOf(p), mustHold(fromHex(hex)))!

describe('bytes in the words of the project', () => {
  test('a good frame', () => {
    const { direction, parts } = explain('7E 51 12 00 06 09 97 82 7E')
    expect([direction, parts[0]!.says]).toEqual(['to panel', 'write dome_target = 231.0°, sequence 5'])
  })
  test('several variables in one frame, each in its own unit; of one that is not all there, its words', () => {
    const job = new Job()
      .variable('angle', tenths(0, 360, '°'), { address: 0x20 })
      .variable('level', whole(0, 9), { address: 0x21 })
    const said = (...payload: number[]) =>
      sentenceOf(sayMessage(bookOf(job.project), { operation: 'write', sequence: 1, address: 0x20, payload }))
    expect(said(15, 0, 7, 0)).toBe('write angle … level = 1.5°, 7')
    expect(said(15, 0, 7, 0, 1, 0)).toBe('write angle … 0x0022 = 1.5°, 7, 0x0001')
    job.variable('total', { ...whole(0, 70_000), type: 'u32' } as Holds, { address: 0x22 })
    expect(said(15, 0, 7, 0, 1, 0)).toBe('write angle … total = 1.5°, 7, 0x0001 (not all of it)')
    expect(said(15, 0, 7)).toBe('write angle … level = 1.5°, half a word 0x07 (not all of it)')
  })
  test('an answer that does not say whose it is, in words that name nothing', () => {
    const said = sayMessage(bookOf(project), { operation: 'value', sequence: 0, address: -1, payload: [7, 0, 9] })
    expect(sentenceOf(said)).toBe('read response of the open request = 0x0007 half a word 0x09')
  })
  test('a text that is shorter than its variable, and of odd length, is read as text', () => {
    const job = new Job()
      .variable('name', { type: 'text', bytes: 10, encoding: 'utf-8', letters: '' }, { address: 0x20 })
      .variable('level', whole(0, 9), { address: 0x25 })
    const said = (address: number, ...payload: (number | string)[]) => {
      const bytes = payload.flatMap((p) => (typeof p === 'string' ? [...new TextEncoder().encode(p)] : [p]))
      return sentenceOf(sayMessage(bookOf(job.project), { operation: 'write', sequence: 1, address, payload: bytes }))
    }
    expect(said(0x20, '92')).toBe('write name = 92')
    expect(said(0x20, 'OVEN 2')).toBe('write name = OVEN 2')
    expect(said(0x20, 'Süd')).toBe('write name = Süd')
    expect(said(0x20, 'OAK', 0)).toBe('write name = OAK')
    expect(said(0x20, 'OAK', 0, 0, 0, 0, 0, 0, 0, 7, 0)).toBe('write name … level = OAK, 7')
    expect(said(0x22, 'AB')).toBe('write name + 2 = 0x4241')
  })
  test('the other direction is recognised', () => expect(explain('7E 35 12 00 06 09 34 0E 7E').direction).toBe('to host'))
  test('a swapped check is told in those words, with how the frame reads', () => {
    const [part] = explain('7E 51 12 00 06 09 82 97 7E').parts
    expect(part!.code).toBe('check')
    expect(causeWords(part!)).toBe(
      'The byte order of the checksum looks swapped. Expected 97 82. Contents: write dome_target = 231.0°, sequence 5. (certain)',
    )
  })
  test('a wrong check says what would be right', () =>
    expect(causeWords(explain('7E 51 12 00 06 09 00 00 7E').parts[0]!)).toContain('would be 97 82'))
  test('a frame without its flags', () =>
    expect(causeWords(explain('51 12 00 06 09 97 82').parts[0]!)).toContain('Between two flags this is a valid frame'))
  test('swapped start bytes', () => {
    const p = edited(project, 'set layout', { values: { toPanel: { ...bigEndianPlain.toPanel, payload: 'high' } } })
    expect(causeWords(explain('B2 A1 05 01 00 12 09 06', p).parts[0]!)).toContain('start bytes are swapped')
    expect(explain('A1 B2 05 01 00 12 09 06', p).parts[0]!.says).toBe('write dome_target = 231.0°')
  })
  test('several frames and junk, each in its place', () => {
    const { parts } = explain('01 02 7E 51 12 00 06 09 97 82 7E 7E 51 12 00 06 09 97 82 7E')
    expect(parts.map((p) => [p.from, p.to, p.good])).toEqual([
      [0, 2, false],
      [2, 11, true],
      [11, 20, true],
    ])
  })
})

describe('catalogue and signal path', () => {
  test('each variable has its frames in both directions, as it travels', () => {
    const target = framesOfVariable(project, project.variables['variable:dome_target' as never]!)
    expect(target.map((f) => [f.direction, f.operation])).toEqual([
      ['to panel', 'write'],
      ['to host', 'report'],
      ['to panel', 'ask'],
      ['to host', 'value'],
    ])
    expect(toHex(target[0]!.bytes)).toBe('7E 51 12 00 06 09 97 82 7E')
    expect(target[0]!.lineUs).toBe(4688)
    expect(catalogue(project).length).toBeGreaterThan(30)
  })
  test('a button’s path goes from the glass to the call in the host', () => {
    const [path] = signalPaths(project, { kind: 'widget', id: widgetNamed(project, 'Target more').id })
    expect(path!.touches[0]).toBe(
      'on press: increments dome_target by 0.5, wraps at limit, repeats every 150 ms while pressed, accelerating',
    )
    expect(path!.variable).toMatchObject({ name: 'dome_target', address: 0x12 })
    expect(path!.calls).toEqual(['panel_set_dome_target(DOME_TARGET(231.0))', 'on_dome_target(raw)'])
    expect(path!.sizeMm!.width).toBeCloseTo(12.2, 0)
  })
  test('each type has its call in C', () => {
    const call = (id: string, value: number | string) =>
      framesOfVariable(project, project.variables[id as never]!, value)[0]!.call
    expect(call('variable:shutter_state', 2)).toBe('panel_set_shutter_state(SHUTTER_STATE_OPEN)')
    expect(call('variable:weather_flags', 5)).toBe('panel_set_weather_flags(0x0005)')
    expect(call('variable:site_note', 'a "b"')).toBe('panel_set_site_note("a \\"b\\"")')
  })
  test('change the address and the bytes change', () => {
    const moved = edited(project, 'set variable', { id: 'variable:dome_target', values: { address: 0x90 } })
    expect(toHex(signalPaths(moved, { kind: 'variable', id: 'variable:dome_target' })[0]!.frames[0]!.bytes)).toMatch(
      /^7E 51 90 00 06 09/,
    )
  })
})
