import { describe, expect, test } from 'vitest'
import { mustHold, toHex, wordsToPayload, type Order } from '../../base/index.ts'
import type { Message } from '../../frames/index.ts'
import {
  emptyBook,
  encodeContent,
  layoutProblems,
  protocolFor,
  readContent,
  type Book,
  type BuildCommand,
} from '../../protocols/index.ts'
import { encodeValue, wordsOf, type Holds } from '../../variables/index.ts'
import { descriptions, type Example } from './descriptions.ts'
import { moduleLayouts } from './layouts.ts'
import { bytesOf } from './meanings.ts'

const number = { offset: 0, unit: '', min: 0 }
const variables: readonly { name: string; address: number; holds: Holds }[] = [
  { name: 'level', address: 0x1200, holds: { ...number, type: 'u16', factor: 0.1, decimals: 1, max: 6000 } },
  {
    name: 'mode',
    address: 0x1201,
    holds: { type: 'choice', choices: ['off', 'drain', 'fill'].map((word, value) => ({ word, value })) },
  },
  { name: 'total', address: 0x1210, holds: { ...number, type: 'u32', factor: 1, decimals: 0, max: 1e9 } },
  { name: 'title', address: 0x1300, holds: { type: 'text', bytes: 8, encoding: 'ascii' } },
]

const bookOf = (memory: Order, commands: readonly BuildCommand[] = []): Book => ({
  ...emptyBook(memory),
  commands,
  variables: variables.map(({ name, address, holds }, index) => ({
    name,
    page: 'main',
    cell: { index, address, words: wordsOf(holds), holds, order: memory, travels: 'both', stale: null },
  })),
  widgets: [{ name: 'Start', number: 5, page: 'main' }],
})

/** The message that an example means. A text goes whole where a line spells it, else as long as it is. */
function messageOf(example: Example, memory: Order, commands: readonly BuildCommand[] = []): Message {
  if (example.operation === 'message') {
    const command = commands.find(({ name }) => name === example.of)!
    const payload = mustHold(encodeContent(command, example.values))
    expect(readContent(command, payload)).toEqual(example.values)
    return { operation: 'message', sequence: 0, address: command.number, payload }
  }
  const { operation, of, value, sequence = 0 } = example
  const variable = variables.find(({ name }) => name === of)
  const said = { sequence, address: variable?.address ?? 5 }
  if (operation === 'event') return { operation, ...said, what: example.what! }
  if (operation === 'ask') return { operation, ...said, words: wordsOf(variable!.holds) }
  if (operation === 'done') return { operation, ...said }
  const payload = wordsToPayload(mustHold(encodeValue(variable!.holds, value!, memory)), memory)
  const isText = variable!.holds.type === 'text' && !example.bytes.startsWith('"')
  return { operation, ...said, payload: isText ? payload.slice(0, String(value).length) : payload } as Message
}

describe.each(descriptions.map((described) => [described.name, described] as const))('module %s', (name, { examples }) => {
  const { layout, memory, commands } = moduleLayouts[name]!
  const protocol = mustHold(protocolFor(layout, bookOf(memory, commands)))
  test('has a layout without two readings', () => expect(layoutProblems(layout)).toEqual([]))
  test('has six frames in its description', () => expect(examples.length).toBe(6))
  test.each(examples.map((example) => [`${example.operation} ${example.of} ${example.bytes}`, example] as const))(
    '%s',
    (_, example) => {
      const wire = bytesOf(example.bytes)
      const message = messageOf(example, memory, commands)
      expect(toHex(mustHold(protocol.encode(example.direction, message)))).toBe(toHex(wire))
      const decoder = protocol.decoder(example.direction)
      const heard = [...decoder.feed(wire, 0, 0), ...decoder.expire(1e12)]
      expect(heard).toMatchObject([{ kind: 'frame', from: 0, to: wire.length }])
      expect(heard[0]!.kind === 'frame' && heard[0]!.readings).toContainEqual(message)
    },
  )
})
