import type { Random } from '../base/index.ts'
import { checksumNames } from '../base/index.ts'
import {
  bothWays,
  directionsOf,
  eventKinds,
  freshFraming,
  operations,
  part,
  plainParts,
  reasons,
  type BinaryLayout,
  type Direction,
  type Form,
  type Framing,
  type Message,
  type Operation,
  type Part,
} from '../frames/index.ts'

const pick = <T>(random: Random, list: readonly T[]): T => list[random.below(list.length)]!
const order = (random: Random) => pick(random, ['low', 'high'] as const)
const some = <T>(random: Random, list: readonly T[], most: number): T[] => {
  const left = [...list]
  return Array.from({ length: Math.min(most, left.length) }, () => left.splice(random.below(left.length), 1)[0]!)
}

function framing(random: Random): Framing {
  const start = some(random, [0x3c, 0xa5, 0x5b, 0x11], random.below(3))
  switch (random.below(6)) {
    case 0:
      return freshFraming('delimited', random.below(2) ? {} : { flag: 0x7f, escape: 0x1b, codes: [0x7f, 1, 0x1b, 2, 0x0d, 3] })
    case 1:
      return freshFraming('ended', {
        start,
        end: random.below(2) ? [0x0d, 0x0a] : [0xfc],
        ...(random.below(2) ? { escape: [0x10] } : {}),
      } as never)
    case 2:
      return freshFraming('cobs', { start })
    case 3:
      return freshFraming('length-led', { start: start.length ? start : [0x6e] })
    case 4:
      return freshFraming('fixed', { start, length: 9 + random.below(6) })
    default:
      return freshFraming('silent', { start })
  }
}

const addressPart = (random: Random): Part =>
  part('address', {
    size: pick(random, [2, 2, 3, 4]),
    order: order(random),
    unit: pick(random, ['words', 'bytes'] as const),
  })

/** Parts before the data of all frames, in any order. `address`: null where each form has its own. */
function head(random: Random, isLed: boolean, address: Part | null): Part[] {
  const told = random.below(3)
    ? part('operation', { size: pick(random, [1, 1, 2]), order: order(random) })
    : part('sequence and operation')
  const optional = [
    ...(told.part === 'operation' && random.below(2)
      ? [part('sequence', { size: pick(random, [1, 2]), order: order(random) })]
      : []),
    ...(random.below(3) ? [] : [part('module', { number: random.below(200) })]),
    ...(random.below(3) ? [] : [part('constant', { bytes: some(random, [9, 8, 0x40], 1 + random.below(2)) })]),
    ...(isLed || !random.below(3)
      ? [
          part('length', {
            size: pick(random, [1, 2]),
            order: order(random),
            counts: pick(random, ['payload', 'after the length', 'after the length, without the check', 'whole frame'] as const),
            adds: random.below(3),
          }),
        ]
      : []),
  ]
  const all = some(random, [told, ...optional], 9)
  if (!address) return all
  return random.below(4) ? [...all, address] : [address, ...all]
}

/** Data as they are, as digits, or with the address of each. */
function data(random: Random, hasPairs: boolean): Part {
  if (hasPairs && random.below(2))
    return part('pairs', {
      addressSize: 2 + random.below(2),
      order: order(random),
      value: pick(random, [2, 4] as const),
      counted: pick(random, ['no', 'first'] as const),
    })
  return random.below(4)
    ? { part: 'payload' }
    : part('digits', { spelling: pick(random, ['hex', 'decimal'] as const), sign: pick(random, ['none', 'first'] as const) })
}

function form(random: Random, operation: Operation, code: number, address: Part | null): Form {
  const hasPairs = address !== null && (operation === 'write' || operation === 'report')
  const parts = plainParts(operation, order(random)).map((one) => (one.part === 'payload' ? data(random, hasPairs) : one))
  const isPaired = parts.some(({ part: kind }) => kind === 'pairs')
  const counted =
    operation !== 'ask' && parts.some(({ part: kind }) => kind === 'payload' || kind === 'digits') && !random.below(3)
  return {
    operation,
    directions: directionsOf[operation],
    code,
    parts: [...(address && !isPaired ? [address] : []), ...(counted ? [part('words', { size: 1 })] : []), ...parts],
  }
}

/** A layout of bytes by chance: it need not be one that can be used. */
export function randomLayout(random: Random, n: number): BinaryLayout {
  const framed = framing(random)
  const used = some(random, operations, 3 + random.below(operations.length - 2))
  const first = random.below(2) ? 1 : 0x30
  const address = addressPart(random)
  const isInHead = random.below(3) > 0
  return bothWays(`chance ${n}`, {
    framing: framed,
    payload: pick(random, ['as memory', 'low', 'high'] as const),
    mostPayload: 2 * (1 + random.below(24)),
    gapUs: 50_000,
    head: head(random, framed.kind === 'length-led', isInHead ? address : null),
    forms: used.map((operation, k) => form(random, operation, first + (random.below(8) ? k : 0), isInHead ? null : address)),
    end: [
      ...(random.below(4) ? [part('checksum', { algorithm: pick(random, checksumNames), order: order(random) })] : []),
      ...(random.below(5) ? [] : [part('constant', { bytes: [0x2a] })]),
    ],
  })
}

/** A message that a direction may have, whether the layout can say it or not. */
export function randomMessage(random: Random, direction: Direction, mostPayload: number): Message {
  const operation = pick(
    random,
    operations.filter((one) => directionsOf[one].includes(direction)),
  )
  const said = { sequence: random.below(3) ? random.below(16) : random.below(0x10000), address: random.below(0x10000) }
  const bytes = (size: number) => Array.from({ length: size }, () => random.below(256))
  const payload = bytes(2 * (1 + random.below(random.below(2) ? 2 : Math.max(1, mostPayload / 2))))
  const also = random.below(3)
    ? {}
    : {
        also: Array.from({ length: 1 + random.below(4) }, () => ({
          address: random.below(0x10000),
          payload: bytes(payload.length),
        })),
      }
  switch (operation) {
    case 'set bits':
      return { operation, ...said, mask: random.below(0x10000), bits: random.below(0x10000) }
    case 'ask':
      return { operation, ...said, words: 1 + random.below(100) }
    case 'event':
      return { operation, ...said, what: pick(random, eventKinds) }
    case 'done':
      return { operation, ...said }
    case 'refused':
      return { operation, ...said, reason: pick(random, reasons) }
    case 'write':
    case 'report':
      return { operation, ...said, payload, ...also }
    default:
      return { operation, ...said, payload }
  }
}
