import type { Random } from '../base/index.ts'
import {
  directionsOf,
  eventKinds,
  identified,
  operations,
  reasons,
  type Direction,
  type Layout,
  type LineForm,
  type LinePart,
  type LinesWay,
  type Message,
  type Operation,
  type PlacedBytes,
} from '../frames/index.ts'
import { emptyBook, freshLinePart, spellingSettings, type Book } from '../protocols/index.ts'
import type { Cell, Holds } from '../variables/index.ts'

export const plainCell = (index: number, address: number, words: number, holds: Holds): Cell => ({
  index,
  address,
  words,
  holds,
  order: 'low',
  travels: 'both',
  stale: null,
})
const tenths: Holds = { type: 'u16', factor: 0.1, offset: 0, decimals: 1, unit: '°', min: 0, max: 359.9 }

/** A variable of every data type, and a widget. */
export const namedBook: Book = {
  ...emptyBook(),
  variables: [
    { name: 'dome_target', cell: plainCell(1, 0x12, 1, tenths) },
    {
      name: 'shutter',
      cell: plainCell(2, 0x20, 1, {
        type: 'choice',
        choices: [
          { value: 0, word: 'closed' },
          { value: 1, word: 'half open' },
        ],
      }),
    },
    { name: 'weather', cell: plainCell(3, 0x30, 1, { type: 'flags', names: ['rain', 'strong wind', '', 'dew'] }) },
    { name: 'note', cell: plainCell(4, 0x40, 6, { type: 'text', bytes: 12, encoding: 'latin-1' }) },
    { name: 'opened', cell: plainCell(5, 0x50, 2, { type: 'time' }) },
    { name: 'tint', cell: plainCell(6, 0x60, 1, { type: 'colour' }) },
    { name: 'ratio', cell: plainCell(7, 0x70, 2, { ...tenths, type: 'f32', factor: 1, decimals: 3, min: -10, max: 10 }) },
  ],
  widgets: [{ name: 'Open_shutter', number: 7 }],
}

const pick = <T>(random: Random, list: readonly T[]): T => list[random.below(list.length)]!
const words = (text: string): LinePart => ({ part: 'words', text })
const gap = (random: Random, text: string): LinePart => ({ ...freshLinePart('gap'), text, any: !random.below(4) })
const separators = [' ', ',', '=', ' = ', ': ', ';', '/']

/** Parts that say an operation, apart from its word, number and check. */
function core(random: Random, operation: Operation): LinePart[] {
  const name = freshLinePart('name')
  const between = () => gap(random, pick(random, separators))
  const value = freshLinePart('value')
  switch (operation) {
    case 'write':
    case 'report':
      if (!random.below(4))
        return [{ ...freshLinePart('pairs'), between: pick(random, ['=', ':', ' ']), separator: pick(random, [' ', ',', ';']) }]
      return random.below(3) ? [name, between(), value] : [value, between(), name]
    case 'value':
    case 'set bits':
      return [name, between(), value]
    case 'ask':
      return random.below(2) ? [name] : [name, words('?')]
    case 'event':
      return [random.below(2) ? name : freshLinePart('number'), between(), freshLinePart('what')]
    case 'message':
      return [freshLinePart('number'), between(), freshLinePart('hex data')]
    case 'done':
      return random.below(2) ? [name] : []
    case 'refused':
      return [...(random.below(2) ? [name, between()] : []), freshLinePart('reason')]
  }
}

const commandWords = ['set', 'get', 'is', 'now', 'ev', 'ok', 'no', 'msg', '@', 'T', '1', 'dome_target']

function form(random: Random, operation: Operation, common: { number: LinePart[]; check: LinePart[] }): LineForm {
  const word = random.below(6)
    ? [words(pick(random, commandWords)), ...(random.below(5) ? [gap(random, pick(random, separators))] : [])]
    : []
  const parts = [...common.number, ...word, ...core(random, operation), ...common.check]
  return { operation, directions: directionsOf[operation], types: [], parts }
}

/** A layout of lines by chance, the same both ways: it need not be one that can be used. */
export function randomLines(random: Random, n: number): Layout {
  const left = [...operations]
  const used = Array.from(
    { length: 3 + random.below(operations.length - 2) },
    () => left.splice(random.below(left.length), 1)[0]!,
  )
  const end = pick(random, [[0x0a], [0x0d, 0x0a], [0x03], [0xff, 0xff, 0xff], [0x21]])
  const spelling = Object.fromEntries(
    Object.entries(spellingSettings.fields).map(([key, { type }]) => [key, pick(random, type.choices as readonly string[])]),
  )
  const common = {
    number: random.below(4) ? [] : [freshLinePart('sequence'), gap(random, pick(random, separators))],
    check: random.below(3)
      ? []
      : [
          ...(random.below(2) ? [words('*')] : []),
          { ...freshLinePart('check'), algorithm: pick(random, ['xor-8', 'sum-8', 'crc-16-ccitt']) },
        ],
  }
  const way: LinesWay = {
    kind: 'lines',
    start: pick(random, [[], [], [0x3e], [0x02], [0x24, 0x24]]),
    end,
    ignored: end.includes(0x0d) || random.below(2) ? [] : [0x0d],
    longest: 24 + random.below(200),
    gapUs: 200_000,
    names: {
      template: pick(random, ['{name}', '{name}.v', 'v_{name}', '{page}.{name}']),
      letters: pick(random, ['as they are', 'capitals', 'small'] as const),
    },
    spelling,
    forms: used.map((operation) => form(random, operation, common)),
  }
  return { name: `lines ${n}`, toPanel: identified(way), toHost: 'same' }
}

/** Bytes that a variable may have. */
function bytesOf(random: Random, { holds }: Cell): number[] {
  const bytes = (size: number) => Array.from({ length: size }, () => random.below(256))
  switch (holds.type) {
    case 'text': {
      const letters = Array.from({ length: random.below(13) }, () => 1 + random.below(random.below(3) ? 126 : 255))
      return [...letters, ...Array<number>(12 - letters.length).fill(0)]
    }
    case 'time':
      return [...bytes(2), random.below(3), 0]
    case 'f32':
      return pick(random, [
        [0, 0, 0, 0],
        [0, 0, 0xc0, 0xbf],
        [0, 0, 0x80, 0x3e],
      ])
    default:
      return random.below(2) ? [random.below(10), 0] : bytes(2)
  }
}

/** A message about `namedBook`, whether a layout can say it or not. */
export function randomNamedMessage(random: Random, direction: Direction): Message {
  const operation = pick(
    random,
    operations.filter((one) => directionsOf[one].includes(direction)),
  )
  const { cell } = pick(random, namedBook.variables)
  const said = { sequence: random.below(100), address: cell.address }
  const placed = (one: Cell): PlacedBytes => ({ address: one.address, payload: bytesOf(random, one) })
  switch (operation) {
    case 'ask':
      return { operation, ...said, words: cell.words }
    case 'set bits': {
      const mask = random.below(0x10000)
      return { operation, ...said, address: 0x30, mask, bits: random.below(0x10000) & mask }
    }
    case 'event':
      return { operation, ...said, address: 7, what: pick(random, eventKinds) }
    case 'message':
      return {
        operation,
        ...said,
        address: random.below(300),
        payload: Array.from({ length: random.below(6) }, () => random.below(256)),
      }
    case 'done':
      return { operation, ...said }
    case 'refused':
      return { operation, ...said, reason: pick(random, reasons) }
    case 'value':
      return { operation, ...said, ...placed(cell) }
    default: {
      const also = Array.from({ length: random.below(4) }, () => placed(pick(random, namedBook.variables).cell))
      return { operation, ...said, ...placed(cell), ...(also.length ? { also } : {}) }
    }
  }
}
