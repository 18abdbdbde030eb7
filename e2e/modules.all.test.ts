import { beforeAll, expect, test } from 'vitest'
import { mustHold, toHex } from '@moth-lamp/core/base'
import { bookOf } from '@moth-lamp/core/project'
import { protocolFor } from '@moth-lamp/core/protocols'
import { Hand, patienceMs } from './browser.ts'
import { Counted } from './counted.ts'
import { stage } from './stage.ts'

// From the description of an invented module to an exchange that passes on the Bench, as someone does it, gestures counted.

const { server, chromium } = stage()
let hand: Hand

beforeAll(async () => void (hand = new Hand(await chromium.page())))

/** A copy of the demo, open at its frames, with the layout of a template. */
async function beginFrames(template: string): Promise<Counted> {
  const demo = (await server.projects()).find(({ name }) => name.includes('Heron'))!.id
  const { id } = await server.post<{ id: string }>(`/projects/${demo}/duplicate`, {})
  await hand.opens(`${server.url}/project/${id}/frames`)
  await hand.sees('Layout valid')
  const job = new Counted(hand, id, server)
  await job.clickWords('button', 'Template')
  await job.clickWords('[role="menuitem"]', template)
  return job
}

/** Runs all exchanges, of which one is to pass: a module need not have what the others ask for. */
async function passes(job: Counted, exchange: string): Promise<void> {
  await job.clickWords('a', 'Exchanges')
  await job.clickWords('button', 'Run all')
  await hand.page.waitForFunction(
    (name) => new RegExp(`✓\\s*${name}`).test(document.body.innerText),
    { timeout: patienceMs },
    exchange,
  )
}

/** Takes operations out that the module has not. */
async function without(job: Counted, ...operations: string[]): Promise<void> {
  for (const operation of operations) {
    await job.clickWords('[role="tab"]', operation)
    await job.clickWords('button', `Remove “${operation}”`)
  }
}

/** Closes what has opened. While it fades it still lies over what is below it. */
async function close(job: Counted): Promise<void> {
  await job.keys('Escape')
  await hand.page.waitForFunction(() => !document.querySelector('.mantine-Popover-dropdown'))
}

/** A setting of a part of the frame that is shown. */
async function part(job: Counted, label: string, ...set: (readonly [string, string])[]): Promise<void> {
  await job.clickWords('[role="tabpanel"] button', label)
  for (const [name, value] of set) {
    const isList = (await (await hand.find(name)).evaluate((e) => e.getAttribute('role'))) === 'combobox'
    await (isList ? job.choose(name, value) : job.fill(name, value))
  }
  await close(job)
}

test('lines between two-byte marks: Plover line', async () => {
  const job = await beginFrames('lamp lines')
  await job.fill('Start bytes', '5B 5B')
  await job.fill('End bytes', '5D 5D')
  await job.fill('Ignored bytes', ' ')
  await without(job, 'set bits', 'event', 'command', 'reject')
  for (const operation of ['write', 'report', 'read response']) {
    await job.clickWords('[role="tab"]', operation)
    if (operation === 'read response')
      for (const part of ['words', 'gap']) {
        await job.clickWords('[role="tabpanel"] button', part)
        await job.click('Remove', 'button')
      }
    await part(job, 'gap', ['Characters', '='])
  }
  await job.sees('Layout valid')
  await hand.fill('Bytes to explain', '[[dome_target=12.5]]\n[[ok dome_target]]')
  await hand.sees('dome_target = 12.5°')
  await passes(job, 'Target stepped and reached')
  console.log(`Plover line: ${job.gestures} gestures`)
  const project = await job.saved()
  const protocol = mustHold(protocolFor(project.layout, bookOf(project)))
  const target = project.variableOrder.map((id) => project.variables[id]!).find(({ name }) => name === 'dome_target')!
  const said = protocol.encode('to panel', { operation: 'write', sequence: 0, address: target.address, payload: [0x7d, 0] })
  expect(String.fromCharCode(...mustHold(said))).toBe('[[dome_target=12.5]]')
  expect(job.gestures).toBeLessThanOrEqual(60)
})

test('bytes with a length and a check over part of the frame: Avocet C', async () => {
  const job = await beginFrames('length-prefixed')
  await job.fill('Start bytes', '6E')
  await job.clickWords('[role="tabpanel"] button', 'sequence')
  await job.click('Remove', 'button')
  await hand.page.waitForFunction(() => !document.querySelector('[role="tabpanel"]')?.textContent.includes('sequence'))
  await job.click('Add Header field', 'button')
  await job.clickWords('[role="menuitem"]', 'operation')
  await job.clickWords('[role="tabpanel"] button', 'operation')
  await job.click('Move left', 'button')
  await close(job)
  await part(job, 'length', ['Bytes', '1'], ['Length covers', 'bytes after it'])
  await part(job, 'address', ['Byte order', 'big-endian'])
  await part(
    job,
    'checksum',
    ['Algorithm', 'CRC-16 CCITT, start FFFF'],
    ['Byte order', 'big-endian'],
    ['Range', 'from a byte of the frame'],
    ['First byte, from 0', '3'],
  )
  await job.choose('Payload byte order', 'big-endian')
  await without(job, 'set bits', 'event', 'command', 'reject')
  for (const [operation, code] of [
    ['read request', '02'],
    ['read response', '03'],
    ['report', '04'],
    ['acknowledge', '05'],
  ] as const) {
    await job.clickWords('[role="tab"]', operation)
    await job.fill(`Code of ${operation}`, code)
  }
  await job.sees('Layout valid')
  await passes(job, 'Target stepped and reached')
  console.log(`Avocet C: ${job.gestures} gestures`)
  const project = await job.saved()
  const protocol = mustHold(protocolFor(project.layout, bookOf(project)))
  const said = protocol.encode('to panel', { operation: 'write', sequence: 0, address: 0x1200, payload: [0xd0, 0x07] })
  expect(toHex(mustHold(said))).toBe('6E 07 01 12 00 07 D0 20 E5')
  expect(job.gestures).toBeLessThanOrEqual(90)
})

test('lines that are polled, with a command before: Dotterel P', async () => {
  const job = await beginFrames('lamp lines')
  await job.fill('End bytes', '0D 0A')
  await job.fill('Ignored bytes', ' ')
  await job.choose('Numbers', 'raw, 2350')
  await job.choose('Choices', 'numbers')
  await without(job, 'set bits', 'event', 'command', 'reject', 'report')
  /** One more part, at its place. */
  const adds = async (operation: string, kind: string, characters: string, left: number) => {
    await job.click(`Add Part of ${operation}`, 'button')
    await job.clickWords('[role="menuitem"]', kind)
    const box = await hand.page.waitForFunction(
      (text) => [...document.querySelectorAll('[role="tabpanel"] button[draggable]')].at(-1)?.textContent.includes(text) && true,
      {},
      kind,
    )
    await box.dispose()
    await hand.page.evaluate(() => {
      const all = document.querySelectorAll<HTMLElement>('[role="tabpanel"] button[draggable]')
      all[all.length - 1]!.click()
    })
    job.gestures++
    await job.fill('Characters', characters)
    for (let k = 0; k < left; k++) await job.click('Move left', 'button')
    await close(job)
  }
  await job.clickWords('[role="tab"]', 'write')
  await part(job, 'gap', ['Characters', ' '])
  await adds('write', 'words', 'W', 3)
  await adds('write', 'gap', ' ', 3)
  await job.clickWords('[role="tab"]', 'read request')
  await part(job, 'words', ['Characters', 'R'])
  await job.clickWords('[role="tabpanel"] button', 'words')
  await job.click('Move left', 'button')
  await close(job)
  await adds('read request', 'gap', ' ', 1)
  await job.clickWords('[role="tab"]', 'read response')
  for (const gone of ['words', 'gap']) {
    await job.clickWords('[role="tabpanel"] button', gone)
    await job.click('Remove', 'button')
  }
  await part(job, 'gap', ['Characters', ':'])
  await job.clickWords('[role="tab"]', 'acknowledge')
  await part(job, 'words', ['Characters', 'W'])
  await job.sees('Layout valid')
  // The start sequence: a command with a value, and what answers it.
  const command = async (name: string, sender: string, line: string) => {
    await job.click('+ Command', 'button')
    await job.fill('Frame from the manual', line)
    await job.choose('Sender of the new command', sender)
    await job.fill('Name of the new command', name)
    await hand.page.waitForFunction(
      (is) => (document.querySelector('[aria-label="Name of the command"]') as HTMLInputElement | null)?.value === is,
      {},
      name,
    )
  }
  await command('ready', 'panel → host', 'INIT OK')
  await command('init', 'host → panel', 'INIT 200')
  const cells = await hand.page.$$('[aria-label="Bytes of the constant"] button')
  const [from, to] = [(await cells[5]!.boundingBox())!, (await cells[7]!.boundingBox())!]
  await hand.page.mouse.move(from.x + 5, from.y + 5)
  await hand.page.mouse.down()
  await hand.page.mouse.move(to.x + 5, to.y + 5, { steps: 4 })
  await hand.page.mouse.up()
  job.gestures++
  await job.click('a number', 'button')
  await job.choose('Reply', 'another command')
  await job.choose('Replying command', 'ready')
  // An exchange: the host begins, and the panel is ready.
  await job.clickWords('a', 'Exchanges')
  await job.click('+ Exchange', 'button')
  await job.click('+ Step', 'button')
  await job.clickWords('[role="menuitem"]', 'host sends command')
  await job.choose('Command', 'init')
  await job.click('+ Step', 'button')
  await job.clickWords('[role="menuitem"]', 'expect command')
  await job.choose('Command', 'ready')
  await job.clickWords('button', 'Run all')
  await hand.page.waitForFunction(() => /✓\s*exchange\s/.test(document.body.innerText), { timeout: patienceMs })
  console.log(`Dotterel P: ${job.gestures} gestures`)
  const project = await job.saved()
  const protocol = mustHold(protocolFor(project.layout, bookOf(project)))
  const target = project.variableOrder.map((id) => project.variables[id]!).find(({ name }) => name === 'dome_target')!
  const said = (message: object) => String.fromCharCode(...mustHold(protocol.encode('to panel', message as never)))
  expect(said({ operation: 'write', sequence: 0, address: target.address, payload: [0x7d, 0] })).toBe('W dome_target 125\r\n')
  expect(said({ operation: 'ask', sequence: 0, address: target.address, words: 1 })).toBe('R dome_target\r\n')
  expect(job.gestures).toBeLessThanOrEqual(120)
})
