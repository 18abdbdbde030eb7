import { describe, expect, test } from 'vitest'
import { demo, edited, widgetNamed } from '../testing/demo.ts'

import { Workbench } from '../workbench/index.ts'
import { contactUs, does } from '../testing/actions.ts'
import { bench, label } from '../testing/running.ts'

const { project, assets } = demo
const press = (made: Workbench, name: string) => {
  const { x, y, width, height } = widgetNamed(project, name).place
  made.rig.panel.touchDown(x + width / 2, y + height / 2)
  made.advance(80_000)
  made.rig.panel.touchUp(x + width / 2, y + height / 2)
  made.advance(400_000)
}

describe('a build put into a running rig', () => {
  test('gives the line its new baud rate at once', () => {
    const made = bench()
    made.take(edited(project, 'set link', { values: { baud: 1200 } }))
    made.advance(5_000_000)
    // Ten bytes of ten bits: 83 334 µs, and 5 209 at the rate before.
    made.rig.line.send('to host', new Uint8Array(10), { message: null, attempt: 0 })
    const fromUs = made.rig.line.freeAt('to host')
    expect(made.rig.line.send('to host', new Uint8Array(10), { message: null, attempt: 0 }) - fromUs).toBe(83_334)
  })
  test('goes on counting: the host takes the next press for a press and not for a repeat', () => {
    const made = bench()
    press(made, 'Stop shutter')
    const { lastId } = made.rig.conversation
    made.take(edited(project, 'place widgets', { places: { [label.id]: { x: label.place.x + 1 } } }))
    press(made, 'Stop shutter')
    const heard = made.rig.conversation.since(lastId).filter((e) => e.direction === 'to host' && e.kind === 'frame')
    expect(heard.map((e) => e.verdict)).toContain('ok')
    expect(heard.map((e) => e.verdict)).not.toContain('repeated')
  })
})

describe('what stands in memory', () => {
  test('is carried word for word where its type is the same: what is no number, no time and no text stays so', () => {
    const made = bench()
    const cellOf = (name: string) => {
      const variable = Object.values(project.variables).find((v) => v.name === name)!
      return made.build.header.cells.find(({ cell }) => cell.address === variable.address)!.cell
    }
    const note = cellOf('site_note')
    const odd = Array.from({ length: note.words * 2 }, (_, i) => 0x80 + i)
    expect(made.rig.panel.memory.hostWrite(note.address, odd)).toBeNull()
    made.take(edited(project, 'place widgets', { places: { [label.id]: { x: label.place.x + 1 } } }))
    expect(made.rig.panel.memory.bytesOf(note.address, note.words)).toEqual(odd)
  })
  test('what is held goes on under an edit, and ends when the edit takes it away; the host hears of its end', () => {
    const order = Object.values(project.variables).find((v) => v.name === 'shutter_order')!
    const stop = widgetNamed(project, 'Stop shutter')
    const held = edited(project, 'set widgets', {
      ids: [stop.id],
      values: { rules: [does('pressed', 'while held', { variable: order.id })] },
    })
    const made = new Workbench(held, assets)
    made.advance(2_000_000)
    made.rig.panel.touchDown(stop.place.x + 5, stop.place.y + 5)
    made.advance(300_000)
    expect(made.values()[order.id]!.value).toBe(1)
    const { lastId } = made.rig.conversation
    made.take(edited(held, 'place widgets', { places: { [label.id]: { x: label.place.x + 1 } } }))
    made.take(edited(made.project, 'set variable', { id: order.id, values: { address: 0x200 } }))
    expect(made.values()[order.id]!.value).toBe(1)
    made.take(edited(made.project, 'set widgets', { ids: [stop.id], values: { rules: [] } }))
    expect(made.values()[order.id]!.value).toBe(0)
    made.rig.panel.touchUp(stop.place.x + 5, stop.place.y + 5)
    made.advance(500_000)
    const reports = made.rig.conversation.since(lastId).filter((e) => e.message?.operation === 'report' && e.verdict === 'ok')
    expect(reports.map((e) => e.message!.address)).toEqual([0x200])
  })
  test('follows its start value while nobody has written it, and says what it has where someone has', () => {
    const level = Object.values(project.variables).find((v) => v.name === 'flat_level')!
    const made = bench()
    made.take(edited(project, 'set variable', { id: level.id, values: { initial: 7 } }))
    expect([made.values()[level.id], made.startsAt]).toMatchObject([{ value: 7, written: false }, []])
    made.rig.panel.memory.hostWrite(level.address, made.rig.panel.memory.payloadOf(Uint16Array.of(20)))
    made.take(edited(made.project, 'set variable', { id: level.id, values: { initial: 9 } }))
    expect([made.values()[level.id], made.startsAt]).toMatchObject([{ value: 20, written: true }, ['flat_level']])
    made.resetVariable(level.id)
    expect(made.values()[level.id]).toMatchObject({ value: 9, written: false })
  })
  test('of the simulated host follows by name: what it moves goes on, what it knows moves with its variable', () => {
    const made = bench()
    const azimuth = Object.values(project.variables).find((v) => v.name === 'dome_azimuth')!
    made.hostWrites('variable:flat_level', 33)
    made.advance(3_000_000)
    const known = (name: string) => made.rig.host.values().find((v) => v.name === name)!.value
    const before = [known('dome_azimuth'), known('flat_level'), made.rig.clock.asked]
    made.take(edited(project, 'set variable', { id: azimuth.id, values: { address: 0x300 } }))
    made.take(edited(made.project, 'set variable', { id: 'variable:flat_level', values: { address: 0x310 } }))
    expect([known('dome_azimuth'), known('flat_level'), made.rig.clock.asked]).toEqual(before)
  })
  test('an effect of the simulated host that waits goes to where its variable is by then', () => {
    const made = bench()
    press(made, 'Open shutter')
    expect(made.values()['variable:shutter_state']!.value).toBe(1)
    made.take(edited(project, 'set variable', { id: 'variable:shutter_state', values: { address: 0x320 } }))
    made.advance(8_000_000)
    expect(made.values()['variable:shutter_state']!.value).toBe(2)
  })
  test('a shorter text clears the rest of its variable, a write inside it too, and half a word is allowed in a text alone', () => {
    const { memory } = bench().rig.panel
    const variable = Object.values(project.variables).find((v) => v.name === 'site_note')!
    const { cell } = bench().build.header.cells.find((c) => c.cell.address === variable.address)!
    const bytes = (text: string) => Array.from(text, (c) => c.charCodeAt(0))
    expect(memory.hostWrite(cell.address, bytes('FAIR, NO CLOUD'))).toBeNull()
    expect(memory.hostWrite(cell.address, bytes('RAIN'))).toBeNull()
    expect(memory.read(cell).value).toBe('RAIN')
    expect(memory.hostWrite(cell.address, bytes('MIST!'))).toBeNull()
    expect(memory.read(cell).value).toBe('MIST!')
    expect(memory.hostWrite(cell.address, bytes('FAIR, NO CLOUD'))).toBeNull()
    expect(memory.hostWrite(cell.address + 3, bytes('OK'))).toBeNull()
    expect(memory.read(cell).value).toBe('FAIR, OK')
    const target = Object.values(project.variables).find((v) => v.name === 'dome_target')!
    expect(memory.hostWrite(target.address, [1])).toBe('length')
  })
  test('the clock takes no word that would make it more than a day', () => {
    const { memory } = bench().rig.panel
    const clockAt = project.panel.ownFrom + 2
    expect(memory.hostWrite(clockAt + 1, [5, 0])).toBe('value')
    expect(memory.hostWrite(clockAt, [0, 1])).toBeNull()
  })
})

test('a panel that was off is synchronised again, though it says the very same as when it was first on', () => {
  const made = new Workbench(project, assets)
  made.advance(3_000_000)
  const target = 'variable:dome_target'
  made.hostWrites(target, 123)
  made.advance(500_000)
  made.rig.powerCycle('panel')
  expect(made.values()[target]!.value).not.toBe(123)
  made.advance(2_000_000)
  expect(made.values()[target]!.value).toBe(123)
})

describe('a panel that goes off in the middle of a frame', () => {
  test('is heard so far and no further: no report of a panel that is off', () => {
    const made = bench()
    const { x, y, width, height } = widgetNamed(project, 'Stop shutter').place
    made.rig.host.silent = true
    made.advance(1_000_000)
    const { lastId } = made.rig.conversation
    made.rig.panel.touchDown(x + width / 2, y + height / 2)
    // Nine bytes at 19 200 Bd take 4 687 µs: about half of them are out.
    made.advance(contactUs + 2_500)
    made.rig.powerCycle('panel')
    made.advance(40_000)
    const heard = made.rig.conversation.since(lastId).filter((e) => e.direction === 'to host' && e.kind !== 'power')
    expect(heard.every((e) => e.kind !== 'frame')).toBe(true)
    expect(made.rig.line.freeAt('to host')).toBeLessThanOrEqual(made.rig.nowUs)
  })
})

test('what was on its way when the rate changed arrives as it was sent, and what comes after takes its own time', () => {
  const made = bench()
  made.rig.host.silent = true
  made.advance(1_000_000)
  const send = () => {
    const fromUs = made.rig.nowUs
    return made.rig.line.send('to panel', new Uint8Array(12), { message: null, attempt: 0 }) - fromUs
  }
  for (const baud of [300, 1200, 115_200, 4_000_000]) {
    made.take(edited(made.project, 'set link', { values: { baud } }))
    expect(send()).toBe(Math.ceil((12 * 10 * 1_000_000) / baud))
    made.advance(1_000_000)
  }
})
